import { describe, expect, test } from '@jest/globals';
import { SAVED_HEADER, TOTAL_HEADER, type JobSummary } from '@isola/contract';
import { answer, AppUnderTest, HERON, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_lists');

interface Told {
  readonly names: readonly string[];
  readonly total: number;
  readonly saved: number;
}
async function list(query: Readonly<Record<string, string>> = {}): Promise<Told> {
  const response = await app.request('GET', `/api/jobs?${new URLSearchParams(query).toString()}`);
  const names = ((await response.json()) as JobSummary[]).map(({ name }) => name);
  return { names, total: Number(response.headers.get(TOTAL_HEADER)), saved: Number(response.headers.get(SAVED_HEADER)) };
}
const day = (days: number): string => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

describe('lists of jobs', () => {
  test('find a job by any of its facts, all words wanted; what is due first comes first, what is released last', async () => {
    const make = async (name: string, customer: string, due: string | null): Promise<JobSummary> => {
      const job = await app.takeIn(HERON, 'heron.csv');
      return answer<JobSummary>(app.request('PATCH', `/api/jobs/${job.id}`, { detailsVersion: 0, name, customer, due }), 200);
    };
    const undated = await make('Kettle 100%', 'Saltmarsh Field Club', null);
    const later = await make('Birch', 'Quayside Tea', '2041-12-05');
    const late = await make('Heron_crest', 'saltmarsh', '2020-02-29');
    const soon = await make('Gull', 'Quayside Tea', day(0));
    const done = await make('Done long ago', 'Quayside Tea', '2019-01-01');
    const doneSince = await make('Done since', 'Quayside Tea', '2019-02-01');
    for (const job of [done, doneSince]) await app.models.Job.update({ stage: 'released' }, { where: { id: job.id } });
    const all = [late, soon, later, undated, doneSince, done].map(({ name }) => name);
    expect(await list()).toEqual({ names: all, total: 6, saved: 0 });
    const found = async (search: string): Promise<readonly string[]> => (await list({ search })).names;
    const fabric = undated.target.fabric.name;
    for (const [words, names] of [
      ['SALTMARSH', ['Heron_crest', 'Kettle 100%']],
      ['saltmarsh  field', ['Kettle 100%']],
      ['saltmarsh birch', []],
      ['heron.csv', all],
      [`${fabric} quayside released`, ['Done since', 'Done long ago']],
      ['taken in', all.slice(0, 4)],
      ['5 december', ['Birch']],
      ['thursday 2041', ['Birch']],
      ['2020-02-29', ['Heron_crest']],
      ['no date', ['Kettle 100%']],
      ['late', ['Heron_crest']],
      ['today', ['Gull']],
      // What a pattern would mean otherwise is meant as it is.
      ['100%', ['Kettle 100%']],
      ['heron_', ['Heron_crest']],
      ['k_ttle', []],
      ["o'clock \\", []],
    ] as const)
      expect({ words, names: await found(words) }).toEqual({ words, names });
    expect((await list({ of: 'open' })).names).toEqual(all.slice(0, 4));
    expect(await list({ limit: '2', offset: '3' })).toEqual({ names: ['Kettle 100%', 'Done since'], total: 6, saved: 0 });
    // What was saved on all orders is not worked out for each word that is typed.
    expect((await app.request('GET', '/api/jobs?search=tea')).headers.has(SAVED_HEADER)).toBe(false);
    for (const bad of [{ limit: '0' }, { limit: '501' }, { of: 'some' }, { offset: '-1' }, { search: 'x'.repeat(201) }])
      expect((await app.request('GET', `/api/jobs?${new URLSearchParams(Object.entries(bad)).toString()}`)).status).toBe(422);
  });

  test('keep to what jobs become: another name, a step that saves time, an order that was sewn, one that was deleted', async () => {
    const [one, other] = [await app.takeIn(HERON, 'heron.csv'), await app.takeIn(HERON, 'heron.csv')];
    await answer(app.request('PATCH', `/api/jobs/${one.id}`, { detailsVersion: 0, name: 'Tern', customer: '', due: null }), 200);
    expect([(await list({ search: 'tern' })).names, (await list({ search: 'heron' })).total]).toEqual([['Tern'], 2]);
    const target = { ...one.target, quantity: 10, machine: { ...one.target.machine, topSpeed: 300 } };
    const retarget = { id: crypto.randomUUID(), kind: 'do' as const, name: 'slower', operation: { id: 'set-target' as const, target } };
    const now = await answer<JobSummary>(app.append(one, 0, [retarget, step('kept')]), 200);
    const saved = (now.before.run.seconds - now.now.run.seconds) * 10;
    expect(Math.abs(saved)).toBeGreaterThan(1);
    expect((await list()).saved).toBeCloseTo(saved, 2);
    expect((await list({ search: 'in work' })).names).toEqual(['Tern']);
    const board = await answer<{ version: number; plan: object }>(app.request('GET', '/api/board'), 200);
    await answer(app.request('PUT', '/api/board', { version: board.version, plan: { ...board.plan, sewn: [other.id] } }), 200);
    expect((await list({ of: 'board' })).names).toEqual(['Tern']);
    await answer(app.request('DELETE', `/api/jobs/${one.id}`), 204);
    expect(await list()).toEqual({ names: [other.name], total: 1, saved: 0 });
  });
});
