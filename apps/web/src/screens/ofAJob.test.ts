import { describe, expect, test } from '@jest/globals';
import type { JobDetail, RevisionSummary, SignOff } from '@isola/contract';
import { defaultTarget, type HoopPlace, USUAL_RULES, writeStitchCsv } from '@isola/core';
import { flushPromises } from '@vue/test-utils';
import { nextTick } from 'vue';
import { useBench } from '../stores/bench.ts';
import { useHistory } from '../stores/history.ts';
import { useNotices } from '../stores/notices.ts';
import { useOutbox } from '../stores/outbox.ts';
import { useSession } from '../stores/session.ts';
import { useShop } from '../stores/shop.ts';
import { createEngine } from '../workers/createEngine.ts';
import { openOn } from '../workers/testing/openOn.ts';
import { AT, buttonIn, click, figures, file, job, said, setTheStage, show, stage } from './testing/onScreens.ts';

// Release and details of one job, against a server that answers from this file.

setTheStage();

describe('release and details', () => {
  async function onBench(openStop: boolean): Promise<ReturnType<typeof useBench>> {
    const bench = useBench();
    const opened = await openOn(createEngine(), new TextEncoder().encode(writeStitchCsv(file)), defaultTarget());
    const stop = { ...opened.now.findings[0]!, severity: 'stop' as const, message: 'It does not fit the hoop', advice: 'Turn it.' };
    bench.now = { number: 1, view: { ...opened.now, findings: openStop ? [stop] : [] } };
    bench.before = { number: 2, view: opened.before! };
    bench.job = {
      ...job('one'),
      version: 4,
      initialTarget: defaultTarget(),
      base: null,
      journal: [],
      revisions: [],
      signOffs: [],
    } satisfies JobDetail;
    return bench;
  }

  test('what stands against sewing it is listed and holds the release; cautions are always there', async () => {
    await onBench(true);
    const { default: ReleaseScreen } = await import('./release/ReleaseScreen.vue');
    const release = await show(ReleaseScreen);
    expect(said(release.find('.stops'))).toContain('It does not fit the hoop');
    expect((buttonIn(release.element as ParentNode, /^\s*Release/) as HTMLButtonElement).disabled).toBe(true);
    // A file leaves only under somebody's name and reason.
    expect(release.findAll('.files a').map((a) => a.attributes('href'))).toEqual(['/api/jobs/one/sheet.pdf']);
    stage.answers = () => ({ version: 4, who: 'Ada', reason: 'the frame is larger', stops: [], createdAt: AT }) satisfies SignOff;
    const [who, reason] = release.findAll<HTMLInputElement>('.sign input');
    await who!.setValue('Ada');
    expect((buttonIn(release.element as ParentNode, /^\s*Sign/) as HTMLButtonElement).disabled).toBe(true);
    await reason!.setValue('the frame is larger');
    await release.find('form.sign').trigger('submit');
    await flushPromises();
    expect(stage.asked).toContainEqual(['POST', '/jobs/one/sign-offs', { baseVersion: 4, who: 'Ada', reason: 'the frame is larger' }]);
    expect(said(release)).toContain('Ada answers for it: “the frame is larger”');
    expect(release.findAll('.files a')).toHaveLength(5);
    for (const caution of [/wear eye protection/, /sew a sample on the real cloth before the run/, /trained to service it/])
      expect(said(release.find('.cautions'))).toMatch(caution);
  });

  test('a release is kept with its note as a revision on the version that was looked at; files wait until all is saved', async () => {
    const bench = await onBench(false);
    useShop().who = 'Ada';
    const revision: RevisionSummary = {
      number: 2,
      version: 4,
      name: 'Released',
      note: 'for Monday',
      isRelease: true,
      stopCount: 0,
      ...{ who: 'Ada', checks: [] },
      figures,
      createdAt: AT,
    };
    stage.answers = () => revision;
    const { default: ReleaseScreen } = await import('./release/ReleaseScreen.vue');
    const release = await show(ReleaseScreen);
    expect(said(release)).toContain('Nothing stands against sewing it');
    await release.find('textarea').setValue('for Monday');
    // The check list is gone through first: a reason for what is not settled, a tick for the cautions, a name.
    const releases = (): HTMLButtonElement => buttonIn(release.element as ParentNode, /^\s*Release/) as HTMLButtonElement;
    expect(said(release)).toContain('1 to settle');
    expect(releases().disabled).toBe(true);
    await release.find('.tick input').setValue(true);
    useShop().who = '';
    await nextTick();
    expect(releases().disabled).toBe(true);
    useShop().who = 'Ada';
    await nextTick();
    await click(release, /^\s*Release/);
    expect(stage.asked).toContainEqual([
      'POST',
      '/jobs/one/revisions',
      { baseVersion: 4, name: 'Released', note: 'for Monday', isRelease: true, who: 'Ada', reasons: { cautions: 'read' } },
    ]);
    expect([bench.job!.stage, bench.job!.revisions.length]).toEqual(['released', 1]);
    expect(said(release.find('.revisions'))).toContain('for Monday');
    expect(release.findAll('.files a').map((a) => a.attributes('href'))).toEqual([
      '/api/jobs/one/export?format=csv',
      '/api/jobs/one/export?format=svg',
      '/api/jobs/one/export?format=gcode',
      '/api/jobs/one/export?format=json',
      '/api/jobs/one/sheet.pdf',
    ]);
    const outgoing = {
      jobId: 'one',
      jobName: 'One',
      state: 'offline' as const,
      reason: '',
      version: 4,
      own: [],
      isAside: false,
      entries: [],
      orders: [],
    };
    useOutbox().queues = new Map([['one', outgoing]]);
    await nextTick();
    expect(said(release)).toContain('Files can be taken once the last step is saved');
    expect((buttonIn(release.element as ParentNode, /^\s*Release/) as HTMLButtonElement).disabled).toBe(true);
  });

  test('who runs the machine reads the check list and takes files, and neither signs nor releases; a name of an account is not written over', async () => {
    const session = useSession();
    [session.hasAccounts, session.isKnown] = [true, true];
    session.person = { id: 'i', name: 'Ivo', role: 'operator', isOut: false };
    await onBench(true);
    const { default: ReleaseScreen } = await import('./release/ReleaseScreen.vue');
    const release = await show(ReleaseScreen);
    expect(said(release.find('.checks'))).toMatch(/This stands against sewing it.*It does not fit the hoop.*Cautions are read/);
    for (const gone of ['form.sign', '.tick', '.reason', 'textarea', '.who'])
      expect([gone, release.find(gone).exists()]).toEqual([gone, false]);
    expect(buttonIn(release.element as ParentNode, /^\s*(Release|Keep)/)).toBeUndefined();
    expect(release.findAll('.files a').map((a) => a.attributes('href'))).toEqual(['/api/jobs/one/sheet.pdf']);
    session.person = { ...session.person, role: 'digitizer' };
    await nextTick();
    expect(release.find<HTMLInputElement>('.who input').element.readOnly).toBe(true);
    expect(release.find('form.sign').exists()).toBe(true);
  });

  test('name, customer and date are saved on their own version when they change; a blank name is put back', async () => {
    const bench = await onBench(false);
    stage.answers = (_method, _path, body) => ({ ...job('one'), ...(body as object), detailsVersion: 3 });
    const { default: JobDetails } = await import('./takeIn/JobDetails.vue');
    const details = await show(JobDetails);
    const [name, customer] = details.findAll('input');
    // A field is left some time after it was typed in.
    name!.element.value = '  ';
    await name!.trigger('input');
    await name!.trigger('change');
    expect([stage.asked.length, name!.element.value]).toEqual([0, 'Job one']);
    await customer!.setValue('Net Loft Bakery');
    await flushPromises();
    expect(stage.asked).toEqual([['PATCH', '/jobs/one', { detailsVersion: 2, name: 'Job one', customer: 'Net Loft Bakery', due: null }]]);
    expect([bench.job!.customer, bench.job!.detailsVersion]).toEqual(['Net Loft Bakery', 3]);
    await customer!.trigger('change');
    expect(stage.asked).toHaveLength(1);
  });

  test('what is kept is downloaded unless something stood against it, and put back unless it is on the bench', async () => {
    const bench = await onBench(false);
    const kept = (number: number, version: number, stopCount: number | null, isRelease = false): RevisionSummary => ({
      ...{
        number,
        version,
        name: `State ${number}`,
        note: '',
        isRelease,
        stopCount,
        ...{ who: null, checks: null },
        figures,
        createdAt: AT,
      },
    });
    const revisions = [kept(1, 0, null), kept(2, 1, 0), kept(3, 2, 2), kept(4, 3, null), kept(5, 3, 0, true), kept(6, 4, 1)];
    const signOffs = [{ version: 3, who: 'Ada', reason: 'sewn before', stops: ['x'], createdAt: AT }];
    bench.job = { ...bench.job!, revisions, signOffs };
    const back: number[] = [];
    const history = useHistory();
    history.goToRevision = (number) => Promise.resolve(void back.push(number));
    stage.answers = (method, path, body) =>
      path.endsWith('/history')
        ? { version: 4, earlier: [], steps: [], now: null, branches: [], revisions: [1, 2, 3].map((number) => ({ number, step: null })) }
        : method === 'PATCH'
          ? { ...revisions[1], ...(body as object) }
          : undefined;
    const { default: ReleaseScreen } = await import('./release/ReleaseScreen.vue');
    const release = await show(ReleaseScreen);
    const rows = release
      .findAll('.revisions li')
      .map((row) => [row.find('b').text(), row.findAll('a').length, row.findAll('button').length]);
    expect(rows).toEqual([
      ['6', 4, 1],
      ['5', 5, 2],
      ['4', 5, 2],
      ['3', 1, 2],
      ['2', 5, 2],
      ['1', 6, 2],
    ]);
    await click(release, /^Put revision 2 back/);
    expect([back, useNotices().notice!.title]).toEqual([[2], 'Revision 2 is on the bench again']);
    history.goToRevision = () => Promise.reject(new Error('It is from before.'));
    await click(release, /^Put revision 1 back/);
    expect(useNotices().notice!.text).toBe('It is from before.');
    // What no step leads to is compared by its rows.
    const compared = release.findAll('.revisions a').filter((link) => link.text() === 'Compare');
    const states = compared.map((link) => new URL(link.attributes('href')!, 'http://x').searchParams.get('one'));
    expect(states).toEqual(['kept 5', 'kept 4', 'kept 3', 'kept 2', 'file']);
    await click(release, /^Name revision 2 anew/);
    await release.find('.naming input').setValue(' For the sample ');
    await release.find('.naming').trigger('submit');
    await flushPromises();
    expect(stage.asked).toContainEqual(['PATCH', '/jobs/one/revisions/2', { name: 'For the sample' }]);
    expect(bench.job.revisions[1]!.name).toBe('For the sample');
  });

  test('the run of the order is planned by how it is hooped, and its threads are saved as a table', async () => {
    const bench = await onBench(false);
    const { view } = bench.now!;
    const machine = { ...view.target.machine, heads: 6, needles: 1 };
    bench.now = { number: 2, view: { ...view, target: { ...view.target, machine, quantity: 25 } } };
    const { default: MachineSheet } = await import('./release/MachineSheet.vue');
    const sheet = await show(MachineSheet);
    const run = () => said(sheet.find('[aria-label="The run"]'));
    expect(run()).toMatch(/Runs\s*5, 6 heads,\s+no stop/);
    const before = run();
    const [hooping, aHoop, ahead] = sheet.findAll('.habits input');
    await hooping!.setValue(12);
    await ahead!.setValue(false);
    expect(run()).not.toBe(before);
    expect(run()).toMatch(/begun now and sewn through, until \w{3},? \d/);
    await aHoop!.setValue(2);
    expect(run()).toMatch(/Runs\s*3, 6 heads/);
    // What is no number is not taken.
    await aHoop!.setValue('');
    expect(run()).toMatch(/Runs\s*5/);
    const blobs: Blob[] = [];
    Object.assign(URL, { createObjectURL: (blob: Blob) => (blobs.push(blob), 'blob:threads'), revokeObjectURL: () => undefined });
    await click(sheet, /^\s*Thread list CSV/);
    expect([blobs.length, blobs[0]!.size > 40, blobs[0]!.type]).toEqual([1, true, 'text/csv; charset=utf-8']);
  });

  test('its place in the hoop is told, centered, moved and turned about its middle; what is no number is put back', async () => {
    const bench = await onBench(false);
    const made: [string, HoopPlace | undefined][] = [];
    bench.setTarget = (name, target) => {
      made.push([name, target.place]);
      bench.now = { number: 2, view: { ...bench.now!.view, target } };
      return Promise.resolve();
    };
    const { default: Place } = await import('./takeIn/HoopPlace.vue');
    const place = await show(Place);
    // Three stitches from 0 to 6 mm on one line.
    expect(said(place)).toContain('Its middle lies 3.0, 0.0 mm from the hoop’s center');
    await click(place, /^\s*Center it/);
    expect(said(place)).not.toContain('Its middle lies');
    const [x, y, turn] = place.findAll<HTMLInputElement>('input');
    const write = async (field: typeof x, text: string): Promise<void> => {
      field!.element.value = text;
      await field!.trigger('change');
      await flushPromises();
    };
    await write(x, '−12,5');
    await write(y, '4');
    await write(turn, '90');
    await write(turn, '90');
    expect(made).toEqual([
      ['center it in the hoop', { x: -3, y: 0, turn: 0 }],
      ['move it 12.5 mm left', { x: -15.5, y: 0, turn: 0 }],
      ['move it 4 mm up', { x: -15.5, y: 4, turn: 0 }],
      ['turn it to 90° in the hoop', { x: -12.5, y: 1, turn: 90 }],
    ]);
    for (const wrong of ['much', '', '9000']) {
      await write(x, wrong);
      expect([wrong, x!.element.value]).toEqual([wrong, '−12.5']);
      expect(useNotices().notice!.text).toBe('Here goes a number from −500 to 500.');
    }
    expect(made).toHaveLength(4);
    // A smaller hoop that takes it is offered, turned by a quarter where it fits only so; one that fits turned only says that.
    const record = (id: string, width: number, height: number) => ({ id, name: id, width, height });
    useShop().shop = {
      ...{ fabrics: [], garments: [], machines: [], threads: [], layouts: [], rules: USUAL_RULES },
      hoops: [record('wide', 40, 8), record('slot', 7, 3)],
    };
    await flushPromises();
    expect(said(place)).toContain('The smallest hoop that takes it is slot.');
    await click(place, /^\s*Take it/);
    const { hoop, place: laid } = bench.now!.view.target;
    expect([hoop.id, laid]).toEqual(['slot', { x: 3, y: 0, turn: 180 }]);
    bench.now = { number: 3, view: { ...bench.now!.view, target: { ...bench.now!.view.target, hoop: record('tall', 3, 7) } } };
    await flushPromises();
    expect(said(place)).toContain('Hoop the garment turned the same way');
    await click(place, /^\s*Turn it/);
    expect(made.at(-1)![0]).toBe('turn it by a quarter');
    expect(said(place)).not.toContain('Hoop the garment turned');
  });
});
