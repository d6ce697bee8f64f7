import { describe, expect, test } from '@jest/globals';
import { flushPromises } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { ApiError } from '../api/client.ts';
import { useAudits } from '../stores/audits.ts';
import { AT, buttonIn, click, figures, job, said, setTheStage, show, stage } from './testing/onScreens.ts';

// The screens around the bench, against a server that answers from this file.

setTheStage();

describe('jobs', () => {
  const heron = job('heron', { customer: 'Saltmarsh Field Club', due: '2026-12-05', findings: { stop: 1, fix: 4, note: 0 } });
  const kettle = job('kettle', {
    stage: 'in-work',
    version: 3,
    now: { ...figures, run: { ...figures.run, seconds: figures.run.seconds - 30 } },
  });

  test('each stands with its figures, what is open and what was saved on the order; the server is asked for those that have what is typed', async () => {
    stage.answers = () => [heron, { ...kettle, target: { ...kettle.target, quantity: 240 } }];
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
    const look = async (words: string): Promise<void> => {
      for (const typed of [words.slice(0, -1), words]) await search.setValue(typed);
      await new Promise((resolve) => setTimeout(resolve, 250));
      await flushPromises();
    };
    stage.answers = () => [heron];
    stage.asked.length = 0;
    await look('Saltmarsh heron ');
    // What is typed on the way is not looked for.
    expect(stage.asked.filter(([, path]) => path.startsWith('/jobs?')).map(([, path]) => path)).toEqual([
      '/jobs?search=Saltmarsh+heron&limit=60',
    ]);
    expect(jobs.findAll('li.job')).toHaveLength(1);
    stage.answers = () => [];
    await look('saltmarsh kettle');
    expect(said(jobs)).toContain('No job has all of “saltmarsh kettle”');
    stage.answers = () => [heron, kettle];
    await click(jobs, /Show all jobs/);
    await new Promise((resolve) => setTimeout(resolve, 250));
    await flushPromises();
    expect(jobs.findAll('li.job')).toHaveLength(2);
    // Of a list that is longer than what is shown more can be had.
    const { useJobs } = await import('../stores/jobs.ts');
    useJobs().total = 5321;
    await flushPromises();
    expect(said(jobs.find('.more'))).toContain('2 of 5 321 are shown');
    await click(jobs, /Show more/);
    expect(stage.asked).toContainEqual(['GET', '/jobs?limit=120', undefined]);
  });

  test('several files, or a folder, are not taken in one by one but chosen to be audited together', async () => {
    stage.answers = () => [];
    const { default: JobsScreen } = await import('./jobs/JobsScreen.vue');
    const jobs = await show(JobsScreen);
    const item = (name: string) => {
      const file = new File(['x'], name);
      return { webkitGetAsEntry: () => null, getAsFile: () => file, file };
    };
    const items = [item('b.csv'), item('a.svg')];
    const dataTransfer = { items, files: items.map(({ file }) => file) };
    jobs.find('.jobs').element.dispatchEvent(Object.assign(new Event('drop', { cancelable: true }), { dataTransfer }));
    for (let k = 0; k < 6; k++) await flushPromises();
    expect(useAudits().chosen.map(({ path }) => path)).toEqual(['a.svg', 'b.csv']);
    expect(stage.router.currentRoute.value.fullPath).toBe('/audits');
    expect(stage.asked.filter(([method]) => method === 'POST')).toEqual([]);
  });

  test('a dropped file is sent and opened; a refused one says why, and stays said until closed', async () => {
    stage.answers = (method) => (method === 'POST' ? job('new') : []);
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
    expect((stage.asked.find(([method]) => method === 'POST')![2] as FormData).get('file')).toBeInstanceOf(File);
    expect(stage.router.currentRoute.value.fullPath).toBe('/jobs/new/take-in');

    stage.answers = (method) => {
      if (method === 'POST') throw new ApiError(422, 'own.csv does not read', 'line 3: found “stich”, expected a command.');
      return [];
    };
    await drop();
    expect(said(jobs.find('.refused'))).toMatch(/own\.csv does not read.*line 3: found “stich”.*Nothing of it was stored/);
    await click(jobs, /^\s*Close/);
    expect(jobs.find('.refused').exists()).toBe(false);
  });

  test('a file that takes long says so and can be stopped, after which nothing is said of it', async () => {
    stage.answers = () => [];
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
    stage.answers = (method, path) => {
      if (method === 'DELETE') [jobsThere, stage.deleted] = [[], [{ id: 'heron', name: heron.name, customer: '', deletedAt: AT }]];
      if (path === '/jobs/heron/put-back') [jobsThere, stage.deleted] = [[heron], []];
      return method === 'DELETE' ? undefined : jobsThere;
    };
    const { default: JobsScreen } = await import('./jobs/JobsScreen.vue');
    const jobs = await show(JobsScreen);
    await click(jobs, /^Delete Job heron/);
    const dialog = document.body.querySelector('[role=dialog]')!;
    expect(dialog.textContent).toContain('It can be put back from the end of this list for 30 days');
    await click(dialog, /Cancel/);
    expect(stage.asked.some(([method]) => method === 'DELETE')).toBe(false);
    await click(jobs, /^Delete Job heron/);
    await click(document.body.querySelector('[role=dialog]')!, /^\s*Delete/);
    expect(stage.asked).toContainEqual(['DELETE', '/jobs/heron', undefined]);
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
