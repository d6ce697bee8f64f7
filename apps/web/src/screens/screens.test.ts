import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { DeletedJob, JobDetail, JobSummary, RevisionSummary, Shop, SignOff } from '@isola/contract';
import {
  defaultTarget,
  FABRICS,
  GARMENTS,
  HOOPS,
  inspectProgram,
  MACHINES,
  ProgramBuilder,
  RULES,
  THREADS,
  writeStitchCsv,
} from '@isola/core';
import { enableAutoUnmount, flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component, nextTick } from 'vue';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { ApiError } from '../api/client.ts';
import { useBench } from '../stores/bench.ts';
import { useNotices } from '../stores/notices.ts';
import { useOutbox } from '../stores/outbox.ts';
import { createEngine } from '../workers/createEngine.ts';
import { openOn } from '../workers/testing/openOn.ts';

// The screens around the bench, against a server that answers from this file.

const file = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0).stitch(0, 0).stitch(3, 0).stitch(6, 0).trim().end().build();
const figures = inspectProgram(file, defaultTarget());
const AT = '2026-11-23T08:00:00.000Z';

function job(id: string, more: Partial<JobSummary> = {}): JobSummary {
  return {
    ...{ id, name: `Job ${id}`, customer: '', due: null, fileName: `${id}.csv`, fileKind: 'csv', warnings: [], target: defaultTarget() },
    ...{ before: figures, now: figures, findings: { stop: 0, fix: 0, note: 0 }, stage: 'taken-in', version: 0, detailsVersion: 2 },
    ...{ programHash: null, released: null, createdAt: AT, updatedAt: AT },
    ...more,
  };
}

type Handler = (method: string, path: string, body: unknown) => unknown;
let answers: Handler;
let deleted: DeletedJob[] = [];
const asked: [method: string, path: string, body: unknown][] = [];
let router: Router;

async function show(screen: Component): Promise<VueWrapper> {
  router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', name: 'jobs', component: { render: () => null } },
      { path: '/shop', name: 'shop', component: { render: () => null } },
      ...['take-in', 'audit'].map((name) => ({ path: `/jobs/:id/${name}`, name, component: { render: () => null } })),
    ],
  });
  await router.push('/jobs/one/audit');
  const global = { plugins: [createVuetify({ components }), router], stubs: { JobPicture: true } };
  const shown = mount(screen, { global, attachTo: document.body }) as VueWrapper;
  await flushPromises();
  return shown;
}

const said = (of: { element: Node }): string => (of.element.textContent ?? '').replace(/\s+/g, ' ');
const buttonIn = (of: ParentNode, text: RegExp): HTMLElement =>
  [...of.querySelectorAll<HTMLElement>('button, a')].find((b) => text.test(b.getAttribute('aria-label') ?? b.textContent ?? ''))!;
async function click(of: VueWrapper | ParentNode, text: RegExp): Promise<void> {
  buttonIn('element' in of ? (of.element as ParentNode) : of, text).click();
  await flushPromises();
}

enableAutoUnmount(afterEach);
beforeEach(() => {
  deleted = [];
  setActivePinia(createPinia());
  document.body.innerHTML = '';
  asked.length = 0;
  globalThis.fetch = jest.fn((at: string, init: { method?: string; body?: unknown } = {}) => {
    const method = init.method ?? 'GET';
    const body: unknown = typeof init.body === 'string' ? JSON.parse(init.body) : init.body;
    const path = at.replace('/api', '');
    asked.push([method, path, body]);
    let status = 200;
    let content: unknown;
    try {
      content = path === '/jobs/deleted' ? deleted : answers(method, path, body);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      status = error.status;
      content = { type: 'about:blank', title: error.title, detail: error.message, status };
    }
    const type = status === 200 ? 'application/json' : 'application/problem+json';
    const answer = { ok: status === 200, status: content === undefined ? 204 : status, headers: new Map([['Content-Type', type]]) };
    return Promise.resolve({ ...answer, json: () => Promise.resolve(content) });
  }) as unknown as typeof fetch;
});

describe('jobs', () => {
  const heron = job('heron', { customer: 'Saltmarsh Field Club', due: '2026-12-05', findings: { stop: 1, fix: 4, note: 0 } });
  const kettle = job('kettle', {
    stage: 'in-work',
    version: 3,
    now: { ...figures, run: { ...figures.run, seconds: figures.run.seconds - 30 } },
  });

  test('each stands with its figures, what is open and what was saved on the order; words find it by any of its facts', async () => {
    answers = () => [heron, { ...kettle, target: { ...kettle.target, quantity: 240 } }];
    const { default: JobsScreen } = await import('./jobs/JobsScreen.vue');
    const jobs = await show(JobsScreen);
    const rows = jobs.findAll('li.job');
    expect(rows).toHaveLength(2);
    expect(said(rows[0]!)).toContain('Saltmarsh Field Club');
    expect(said(rows[0]!)).toContain('nothing saved yet');
    expect(said(rows[1]!)).toMatch(/−0:30\s?2 h 00 less on the order/);
    expect(said(rows[1]!)).toContain('nothing open');
    expect(said(jobs)).toContain('2 h 00 of machine time saved on these orders');
    expect(rows.map((r) => r.find('a').attributes('href'))).toEqual(['/jobs/heron/take-in', '/jobs/kettle/audit']);

    const search = jobs.find<HTMLInputElement>('.search input');
    for (const [words, count] of [
      ['saltmarsh', 1],
      ['SALTMARSH heron', 1],
      ['saltmarsh kettle', 0],
      [heron.target.fabric.name, 2],
      ['in work', 1],
      ['2026-12-05', 1],
      ['5 december heron', 1],
    ] as const) {
      await search.setValue(words);
      expect(jobs.findAll('li.job')).toHaveLength(count);
      if (count === 0) expect(said(jobs)).toContain('No job has all of “saltmarsh kettle”');
    }
  });

  test('a dropped file is sent and opened; a refused one says why, and stays said until closed', async () => {
    answers = (method) => (method === 'POST' ? job('new') : []);
    const { default: JobsScreen } = await import('./jobs/JobsScreen.vue');
    const jobs = await show(JobsScreen);
    expect(said(jobs)).toContain('No jobs yet');
    const drop = async (): Promise<void> => {
      const event = Object.assign(new Event('drop', { cancelable: true }), { dataTransfer: { files: [new File(['x'], 'own.csv')] } });
      jobs.find('.jobs').element.dispatchEvent(event);
      for (let k = 0; k < 4; k++) await flushPromises();
    };
    await jobs.find('.jobs').trigger('dragover');
    expect(said(jobs)).toContain('Let go to take it in');
    await drop();
    expect((asked.find(([method]) => method === 'POST')![2] as FormData).get('file')).toBeInstanceOf(File);
    expect(router.currentRoute.value.fullPath).toBe('/jobs/new/take-in');

    answers = (method) => {
      if (method === 'POST') throw new ApiError(422, 'own.csv does not read', 'line 3: found “stich”, expected a command.');
      return [];
    };
    await drop();
    expect(said(jobs.find('.refused'))).toMatch(/own\.csv does not read.*line 3: found “stich”.*Nothing of it was stored/);
    await click(jobs, /^\s*Close/);
    expect(jobs.find('.refused').exists()).toBe(false);
  });

  test('a file that takes long says so and can be stopped, after which nothing is said of it', async () => {
    answers = () => [];
    const { default: JobsScreen } = await import('./jobs/JobsScreen.vue');
    const jobs = await show(JobsScreen);
    const { fetch } = globalThis;
    let isStopped = false;
    globalThis.fetch = ((at: string, init: RequestInit = {}) =>
      init.method !== 'POST'
        ? fetch(at, init)
        : new Promise((_, reject) =>
            init.signal!.addEventListener('abort', () => reject(((isStopped = true), new Error('aborted')))),
          )) as typeof fetch;
    const event = Object.assign(new Event('drop', { cancelable: true }), { dataTransfer: { files: [new File(['x'], 'large.csv')] } });
    jobs.find('.jobs').element.dispatchEvent(event);
    await new Promise((resolve) => setTimeout(resolve, 800));
    expect(said(jobs.find('.taking'))).toContain('large.csv is being read (1 kB)');
    await click(jobs, /^\s*Stop/);
    expect([isStopped, jobs.find('.taking').exists(), jobs.find('.refused').exists()]).toEqual([true, false, false]);
  });

  test('deleting asks first; a server that does not answer is said, and can be tried again', async () => {
    let jobsThere = [heron];
    answers = (method, path) => {
      if (method === 'DELETE') [jobsThere, deleted] = [[], [{ id: 'heron', name: heron.name, customer: '', deletedAt: AT }]];
      if (path === '/jobs/heron/put-back') [jobsThere, deleted] = [[heron], []];
      return method === 'DELETE' ? undefined : jobsThere;
    };
    const { default: JobsScreen } = await import('./jobs/JobsScreen.vue');
    const jobs = await show(JobsScreen);
    await click(jobs, /^Delete Job heron/);
    const dialog = document.body.querySelector('[role=dialog]')!;
    expect(dialog.textContent).toContain('It can be put back from the end of this list for 30 days');
    await click(dialog, /Cancel/);
    expect(asked.some(([method]) => method === 'DELETE')).toBe(false);
    await click(jobs, /^Delete Job heron/);
    await click(document.body.querySelector('[role=dialog]')!, /^\s*Delete/);
    expect(asked).toContainEqual(['DELETE', '/jobs/heron', undefined]);
    expect(jobs.findAll('li.job')).toHaveLength(0);
    expect(said(jobs.find('.deleted'))).toMatch(/1 deleted job, kept for 30 days.*Job heron.*deleted 23 November/);
    await click(jobs, /^Put Job heron back/);
    expect(jobs.findAll('li.job')).toHaveLength(1);
    expect(jobs.find('.deleted').exists()).toBe(false);
    jobs.unmount();

    setActivePinia(createPinia());
    globalThis.fetch = () => Promise.reject(new TypeError('no network'));
    const lost = await show(JobsScreen);
    expect(said(lost.find('.state'))).toMatch(/The jobs cannot be shown.*Check that Isola is still running/);
    expect(buttonIn(lost.element as ParentNode, /Try again/)).toBeDefined();
  });
});

describe('shop', () => {
  test('lists what there is with its units, deletes and brings back, and shows every rule with its limit and source', async () => {
    let shop: Shop = { fabrics: FABRICS, garments: GARMENTS, hoops: HOOPS, machines: MACHINES, threads: THREADS };
    answers = (method, path) => {
      if (method === 'DELETE') shop = { ...shop, fabrics: shop.fabrics.filter((f) => !path.endsWith(`/${f.id}`)) };
      if (path === '/shop/defaults') shop = { ...shop, fabrics: FABRICS };
      return method === 'DELETE' ? undefined : shop;
    };
    const { default: ShopScreen } = await import('./shop/ShopScreen.vue');
    const screen = await show(ShopScreen);
    const names = (): string[] => screen.findAll('tbody th').map((th) => th.text());
    expect(names()).toEqual(FABRICS.map((f) => f.name));
    await click(screen, new RegExp(`^Delete ${FABRICS[0]!.name}`));
    expect(names()).not.toContain(FABRICS[0]!.name);
    expect(useNotices().notice!.text).toMatch(/keep the values they were judged by/);
    await click(screen, /Bring back the defaults/);
    expect(names()).toContain(FABRICS[0]!.name);
    for (const [tab, rows] of [
      ['Threads', THREADS],
      ['Places', GARMENTS],
      ['Hoops', HOOPS],
      ['Machines', MACHINES],
    ] as const) {
      await click(screen, new RegExp(`^\\s*${tab}`));
      expect(names()).toEqual(rows.map((r) => r.name));
    }
    await click(screen, /Rulebook/);
    const rules = screen.findAll('article');
    expect(rules.map((r) => r.find('h2').text())).toEqual(RULES.map((r) => expect.stringContaining(r.title)));
    rules.forEach((rule, k) => expect(said(rule)).toContain(`Source: ${RULES[k]!.source}`));
  });
});

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
    answers = () => ({ version: 4, who: 'Ada', reason: 'the frame is larger', stops: [], createdAt: AT }) satisfies SignOff;
    const [who, reason] = release.findAll<HTMLInputElement>('.sign input');
    await who!.setValue('Ada');
    expect((buttonIn(release.element as ParentNode, /^\s*Sign/) as HTMLButtonElement).disabled).toBe(true);
    await reason!.setValue('the frame is larger');
    await release.find('form.sign').trigger('submit');
    await flushPromises();
    expect(asked).toContainEqual(['POST', '/jobs/one/sign-offs', { baseVersion: 4, who: 'Ada', reason: 'the frame is larger' }]);
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
    answers = () => revision;
    const { default: ReleaseScreen } = await import('./release/ReleaseScreen.vue');
    const release = await show(ReleaseScreen);
    expect(said(release)).toContain('Nothing stands against sewing it');
    await release.find('textarea').setValue('for Monday');
    await click(release, /^\s*Release/);
    expect(asked).toContainEqual([
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
    answers = (_method, _path, body) => ({ ...job('one'), ...(body as object), detailsVersion: 3 });
    const { default: JobDetails } = await import('./takeIn/JobDetails.vue');
    const details = await show(JobDetails);
    const [name, customer] = details.findAll('input');
    // A field is left some time after it was typed in.
    name!.element.value = '  ';
    await name!.trigger('input');
    await name!.trigger('change');
    expect([asked.length, name!.element.value]).toEqual([0, 'Job one']);
    await customer!.setValue('Net Loft Bakery');
    await flushPromises();
    expect(asked).toEqual([['PATCH', '/jobs/one', { detailsVersion: 2, name: 'Job one', customer: 'Net Loft Bakery', due: null }]]);
    expect([bench.job!.customer, bench.job!.detailsVersion]).toEqual(['Net Loft Bakery', 3]);
    await customer!.trigger('change');
    expect(asked).toHaveLength(1);
  });
});
