import { describe, expect, jest, test } from '@jest/globals';
import type { Lessons, SewOutRecord, Shop } from '@isola/contract';
import { defaultTarget, FABRICS, learnClock, learnPull, ProgramBuilder, SewOut, writeStitchCsv } from '@isola/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { AT, buttonIn, click, figures, job, said, setTheStage, SHOP, show, stage } from '../testing/onScreens.ts';
import '../../workers/testing/quietWorkers.ts';

// The cloth is drawn in browsers alone; places, what is expected of them and what they teach are those of the real engine and core.
const VIEW = ':view="{ x: 10, y: 10, scale: 4 }" :size="{ width: 800, height: 600 }"';
jest.unstable_mockModule('../../bench/cloth/ClothView.vue', () => ({
  default: {
    props: ['label'],
    emits: ['pick'],
    template: `<figure :aria-label="label" @click="$emit('pick', 10, 4, 1, false)" @dblclick="$emit('pick', 90, 90, 1, false)"><slot ${VIEW} /></figure>`,
  },
}));
jest.unstable_mockModule('../logbook/LogbookCharts.vue', () => ({
  default: { props: ['records'], template: '<figure class="charts" :data-count="records.length" />' },
}));
const { useBench } = await import('../../stores/bench.ts');
const { useNotices } = await import('../../stores/notices.ts');
const { useShop } = await import('../../stores/shop.ts');
const { default: SewOutsScreen } = await import('./SewOutsScreen.vue');
const { default: LogbookScreen } = await import('../logbook/LogbookScreen.vue');

setTheStage();

const target = defaultTarget();
const shop = SHOP;

/** A server that keeps samples and teaches by them. */
function serve(): { records: SewOutRecord[]; shop: () => Shop } {
  const kept: { records: SewOutRecord[]; shop: () => Shop } = { records: [], shop: () => lists };
  let lists = shop;
  stage.answers = (method, path, body) => {
    if (path.endsWith('/history'))
      return { version: 1, earlier: [], steps: [], now: null, branches: [], revisions: [{ number: 1, step: null }] };
    if (path.startsWith('/sew-outs/lessons')) return teach(kept.records, lists);
    if (path === '/jobs') return [job('one')];
    if (path.endsWith('/shop-effect')) return { came: ['A gap will open'], went: [], seconds: { before: 60, after: 90 } };
    if (method === 'PUT' && path.startsWith('/shop/fabrics')) {
      const { record } = body as { record: Shop['fabrics'][number] };
      return (lists = { ...lists, fabrics: lists.fabrics.map((one) => (one.id === record.id ? record : one)) });
    }
    if (!path.startsWith('/sew-outs')) return undefined;
    if (method === 'GET') return kept.records;
    const sewOut = SewOut.parse((body as { sewOut: unknown }).sewOut);
    const old = kept.records.find(({ id }) => path.endsWith(id));
    const record: SewOutRecord = {
      ...{ id: old?.id ?? `sample-${kept.records.length + 1}`, jobId: 'one', jobName: 'Job one', version: (old?.version ?? -1) + 1 },
      ...{ sewOut, photos: [], createdAt: AT },
    };
    kept.records = [record, ...kept.records.filter(({ id }) => id !== record.id)];
    return record;
  };
  return kept;
}

function teach(records: readonly SewOutRecord[], { fabrics, machines }: Shop): Lessons {
  const all = records.map(({ sewOut }) => sewOut);
  const fabric = fabrics.find(({ id }) => id === target.fabric.id)!;
  return { pull: learnPull(fabric, all) ?? null, clock: learnClock(machines[0]!, all) ?? null };
}

/** A closed fill of rows 20 mm long, as the file that came in. */
async function onSamples(): Promise<VueWrapper> {
  const out = new ProgramBuilder().color('#1f4e79', 'Deep water').jump(0, 0);
  for (let k = 0; k <= 60; k++) for (let step = 0; step <= 5; step++) out.stitch(k % 2 === 0 ? step * 4 : 20 - step * 4, k * 0.2);
  const engine = createEngine();
  const opened = await openOn(engine, new TextEncoder().encode(writeStitchCsv(out.trim().end().build())), target);
  const bench = useBench();
  bench.now = { number: 1, view: opened.now };
  const first = { number: 1, version: 0, name: 'As it came in', note: '', isRelease: false, stopCount: 0, who: null, checks: null };
  bench.job = {
    ...{ ...job('one'), initialTarget: target, base: null, journal: [], signOffs: [] },
    revisions: [{ ...first, figures, createdAt: AT }],
  };
  bench.sampleState = async (name) => {
    const state = await engine.sampleState(name);
    if (typeof state === 'string') throw new Error(state);
    return state;
  };
  localStorage.removeItem('isola.sample.one');
  useShop().shop = shop;
  useShop().who = 'Mara';
  const screen = await show(SewOutsScreen);
  await flushPromises();
  return screen;
}

const fieldsOf = (screen: VueWrapper) => screen.findAll<HTMLInputElement>('tbody input');

describe('samples on screen', () => {
  test('are recorded with what was measured beside what was expected; what they taught is taken up, with a name, and is in use then', async () => {
    const server = serve();
    const screen = await onSamples();
    expect(said(screen)).toContain('None yet');
    const [place] = fieldsOf(screen);
    expect(said(screen.find('tbody'))).toMatch(/1\s?width.*20\.0\s?19\.\d/);
    expect(screen.findAll('.places .number')).toHaveLength(1);
    // More was drawn in than was expected.
    await place!.setValue('18.6');
    expect(said(screen.find('tbody .off'))).toMatch(/−0\.\d\d/);
    await screen.find('input[placeholder]').setValue('2');
    await click(screen, /Record the sample/);
    expect(server.records).toHaveLength(1);
    expect(server.records[0]!.sewOut).toMatchObject({
      revision: 1,
      who: 'Mara',
      minutes: 2,
      puckering: 'none',
      places: [{ measured: 18.6 }],
    });
    const cards = screen.findAll('article');
    expect(said(cards[0]!)).toMatch(/pique polo.*pull a side, mm\s?0\.28 → 0\.3\d ± 0\.0\d.*From 1 sample, 1 reading/);
    expect(said(cards[1]!)).toMatch(/top speed, st\/min\s?850 → \d+/);
    // Of open jobs it is said what it moves; one that was released is left alone.
    await click(cards[0]!.element, /What it moves in open jobs/);
    expect(said(cards[0]!)).toMatch(/1 of 1 jobs looked at.*Job one.*\+0:30 a piece comes: A gap will open/);
    await click(cards[0]!.element, /Take it up/);
    const learned = server.shop().fabrics.find(({ id }) => id === target.fabric.id)!;
    expect(learned.learned).toMatchObject({ from: 0.28, samples: 1, readings: 1 });
    expect(said(screen.find('article'))).toMatch(/In use, from 1 sample/);
    expect(buttonIn(screen.find('article').element, /Take it up/)).toBeUndefined();
  });

  test('say what is wrong before they are sent, take widths where somebody points, and learn nothing where that is ticked off', async () => {
    const server = serve();
    const screen = await onSamples();
    await screen.find('figure').trigger('click');
    expect(fieldsOf(screen)).toHaveLength(2);
    await screen.find('figure').trigger('dblclick');
    expect(useNotices().notice?.title).toContain('Nothing to measure here');
    await click(screen, /Take place 2 away/);
    expect(fieldsOf(screen)).toHaveLength(1);
    await fieldsOf(screen)[0]!.setValue('-4');
    expect(said(screen.find('.problems'))).toMatch(/Places/);
    expect((buttonIn(screen.element as ParentNode, /Record the sample/) as HTMLButtonElement).disabled).toBe(true);
    await fieldsOf(screen)[0]!.setValue('19,5');
    await click(screen, /^\s*slight/);
    await screen.find('.tick input').setValue(false);
    await click(screen, /Record the sample/);
    expect(server.records[0]!.sewOut).toMatchObject({ counts: false, puckering: 'slight' });
    expect(said(screen)).toContain('Of the cloth nothing yet');
    // Changed later it is the same sample.
    await screen.find('.tick input').setValue(true);
    await click(screen, /Save the change/);
    expect(server.records).toHaveLength(1);
    expect(server.records[0]).toMatchObject({ version: 1, sewOut: { counts: true } });
    await click(screen, /\+ another/);
    expect(said(screen)).toContain('Record the sample');
  });

  test('are not lost when the page is left before they are recorded, nor when another is asked for', async () => {
    const server = serve();
    const screen = await onSamples();
    await fieldsOf(screen)[0]!.setValue('19.1');
    await screen.find('input[placeholder]').setValue('2.5');
    await click(screen, /Record the sample/);
    await fieldsOf(screen)[0]!.setValue('18.8');
    await click(screen, /\+ another/);
    expect(useNotices().notice?.text).toContain('not recorded yet');
    screen.unmount();
    // Whoever comes back finds what they wrote, of the sample that it was.
    const again = await show(SewOutsScreen);
    await flushPromises();
    expect(fieldsOf(again)[0]!.element.value).toBe('18.8');
    expect(said(again)).toContain('Revision 1 was sewn.');
    await click(again, /Back as it was/);
    expect(fieldsOf(again)[0]!.element.value).toBe('19.1');
    await click(again, /\+ another/);
    await again.find('input[placeholder]').setValue('7');
    again.unmount();
    const third = await show(SewOutsScreen);
    await flushPromises();
    expect([
      third.find<HTMLInputElement>('input[placeholder]').element.value,
      buttonIn(third.element as ParentNode, /Record the sample/),
    ]).toEqual(['7', expect.anything()]);
    await click(third, /Record the sample/);
    expect([server.records.length, localStorage.getItem('isola.sample.one')]).toEqual([2, null]);
    localStorage.setItem('isola.sample.one', '{"sewOut":');
    third.unmount();
    expect(said(await show(SewOutsScreen))).toContain('another');
  });

  test('of all jobs stand in the logbook, sought by word and by what they were sewn on', async () => {
    const server = serve();
    const screen = await onSamples();
    await fieldsOf(screen)[0]!.setValue('19.0');
    await click(screen, /Record the sample/);
    const [one] = server.records;
    const other = { ...one!.sewOut, fabric: FABRICS[0]!, note: 'a hard edge', minutes: 3, places: [] };
    server.records.push({ ...one!, id: 'other', jobId: null, jobName: 'Lantern', sewOut: other });
    const logbook = await show(LogbookScreen);
    const rows = () => logbook.findAll('tbody tr').map((row) => said(row));
    expect(rows()).toHaveLength(2);
    for (const words of ['2026', 'Mara', 'Job one', 'revision 1', 'pique polo', '+0.']) expect(rows()[0]).toContain(words);
    for (const words of ['Lantern (gone)', 'poplin', '3:00', '–']) expect(rows()[1]).toContain(words);
    expect(logbook.find('tbody a').attributes('href')).toBe('/jobs/one/sew-outs?sample=sample-1');
    await logbook.find('input').setValue('hard EDGE');
    expect(rows()).toEqual([expect.stringContaining('Lantern')]);
    expect(logbook.find('.charts').attributes('data-count')).toBe('1');
    await logbook.find('input').setValue('nobody');
    expect(said(logbook)).toContain('No sample fits');
  });
});
