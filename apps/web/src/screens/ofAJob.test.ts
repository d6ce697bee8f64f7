import { describe, expect, test } from '@jest/globals';
import type { JobDetail, RevisionSummary, SignOff } from '@isola/contract';
import { defaultTarget, writeStitchCsv } from '@isola/core';
import { flushPromises } from '@vue/test-utils';
import { nextTick } from 'vue';
import { useBench } from '../stores/bench.ts';
import { useOutbox } from '../stores/outbox.ts';
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
    expect(release.findAll('.files a')).toHaveLength(0);
    stage.answers = () => ({ version: 4, who: 'Ada', reason: 'the frame is larger', stops: [], createdAt: AT }) satisfies SignOff;
    const [who, reason] = release.findAll<HTMLInputElement>('.sign input');
    await who!.setValue('Ada');
    expect((buttonIn(release.element as ParentNode, /^\s*Sign/) as HTMLButtonElement).disabled).toBe(true);
    await reason!.setValue('the frame is larger');
    await release.find('form.sign').trigger('submit');
    await flushPromises();
    expect(stage.asked).toContainEqual(['POST', '/jobs/one/sign-offs', { baseVersion: 4, who: 'Ada', reason: 'the frame is larger' }]);
    expect(said(release)).toContain('Ada answers for it: “the frame is larger”');
    expect(release.findAll('.files a')).toHaveLength(2);
    for (const caution of [/wear eye protection/, /sew a sample on the real cloth before the run/, /trained to service it/])
      expect(said(release.find('.cautions'))).toMatch(caution);
  });

  test('a release is kept with its note as a revision on the version that was looked at; files wait until all is saved', async () => {
    const bench = await onBench(false);
    const revision: RevisionSummary = {
      number: 2,
      version: 4,
      name: 'Released',
      note: 'for Monday',
      isRelease: true,
      figures,
      createdAt: AT,
    };
    stage.answers = () => revision;
    const { default: ReleaseScreen } = await import('./release/ReleaseScreen.vue');
    const release = await show(ReleaseScreen);
    expect(said(release)).toContain('Nothing stands against sewing it');
    await release.find('textarea').setValue('for Monday');
    await click(release, /^\s*Release/);
    expect(stage.asked).toContainEqual([
      'POST',
      '/jobs/one/revisions',
      { baseVersion: 4, name: 'Released', note: 'for Monday', isRelease: true },
    ]);
    expect([bench.job!.stage, bench.job!.revisions.length]).toEqual(['released', 1]);
    expect(said(release.find('.revisions'))).toContain('for Monday');
    expect(release.findAll('.files a').map((a) => a.attributes('href'))).toEqual([
      '/api/jobs/one/export?format=csv',
      '/api/jobs/one/export?format=svg',
    ]);
    const outgoing = { jobId: 'one', jobName: 'One', state: 'offline' as const, reason: '', version: 4, entries: [], orders: [] };
    useOutbox().queues = new Map([['one', outgoing]]);
    await nextTick();
    expect(said(release)).toContain('Files can be taken once the last step is saved');
    expect((buttonIn(release.element as ParentNode, /^\s*Release/) as HTMLButtonElement).disabled).toBe(true);
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
});
