import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import type { JobDetail, JobHistory, JobSummary, Presence, ProblemDetails } from '@isola/contract';
import type { JournalEntry, Operation } from '@isola/core';
import { answer, AppUnderTest, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_together');

const entry = (name: string, operation: Operation): JournalEntry => ({ id: randomUUID(), kind: 'do', name, operation });
const rename = (object: string, name: string): JournalEntry => entry(`call it ${name}`, { id: 'rename-object', object, name });
const send = (job: JobSummary, body: object): Promise<Response> => app.request('POST', `/api/jobs/${job.id}/journal`, body);
const objectsOf = async (job: JobSummary) =>
  (
    await answer<{ objects: { id: string; name: string; role: string }[] }>(app.request('GET', `/api/jobs/${job.id}/objects`), 200)
  ).objects.filter(({ role }) => role === 'cover');
const historyOf = (job: JobSummary) => answer<JobHistory>(app.request('GET', `/api/jobs/${job.id}/history`), 200);

describe('two people in one job', () => {
  test('steps that touch different objects go on top of each other by themselves, each there once, however often they are sent', async () => {
    const job = await app.takeIn();
    const [wing, neck] = (await objectsOf(job)).map(({ id }) => id) as [string, string];
    const [theirs, mine] = [rename(wing, 'Wing'), rename(neck, 'Neck')];
    expect((await answer<JobSummary>(send(job, { baseVersion: 0, entries: [theirs], own: [] }), 200)).version).toBe(1);
    for (let time = 0; time < 2; time++)
      expect((await answer<JobSummary>(send(job, { baseVersion: 0, entries: [mine], own: [] }), 200)).version).toBe(2);
    // The next one was made before what the other did was seen, and goes on top of one's own.
    const next = rename(neck, 'Long neck');
    expect((await answer<JobSummary>(send(job, { baseVersion: 0, entries: [next], own: [mine.id] }), 200)).version).toBe(3);
    const names = new Map((await objectsOf(job)).map(({ id, name }) => [id, name]));
    expect([names.get(wing), names.get(neck)]).toEqual(['Wing', 'Long neck']);
    // Only what came after a version is told where that is asked for.
    const { journal, version } = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}?after=1`), 200);
    expect([version, journal.map(({ seq, entry: { id } }) => [seq, id])]).toEqual([
      3,
      [
        [2, mine.id],
        [3, next.id],
      ],
    ]);
  });

  test('steps that touch the same object are told, and kept as a branch; the job stays as the first one left it', async () => {
    const job = await app.takeIn();
    const [wing, neck] = (await objectsOf(job)).map(({ id }) => id) as [string, string];
    const theirs = rename(wing, 'Left wing');
    const mine = [
      rename(neck, 'Neck'),
      rename(wing, 'Wing'),
      entry('for 99', { id: 'set-target', target: { ...job.target, quantity: 99 } }),
    ];
    await answer(send(job, { baseVersion: 0, entries: [theirs], own: [] }), 200);
    const told = await answer<ProblemDetails>(send(job, { baseVersion: 0, entries: mine, own: [] }), 409);
    expect(told.detail).toMatch(/^Another window changed Left wing, which was changed here, too/);
    const aside = { baseVersion: 0, entries: mine, own: [], isAside: true };
    for (let time = 0; time < 2; time++) expect((await answer<JobSummary>(send(job, aside), 200)).version).toBe(6);
    // What was kept so and is sent in the usual way once more is known.
    expect((await answer<JobSummary>(send(job, { baseVersion: 0, entries: mine, own: [] }), 200)).version).toBe(6);
    expect((await objectsOf(job)).map(({ name }) => name).slice(0, 2)).toEqual(['Left wing', expect.not.stringMatching(/^Neck$/)]);
    const { steps, now } = await historyOf(job);
    expect(now).toBe(theirs.id);
    expect(steps.map(({ id, parent }) => [id, parent])).toEqual([
      [theirs.id, null],
      [mine[0]!.id, null],
      [mine[1]!.id, mine[0]!.id],
      [mine[2]!.id, mine[1]!.id],
    ]);
    // The branch can be gone to, and has all of it.
    const gone = await answer<JobSummary>(send(job, { baseVersion: 6, entries: [{ id: randomUUID(), kind: 'go', to: mine[2]!.id }] }), 200);
    expect(gone.target.quantity).toBe(99);
    expect((await objectsOf(job)).map(({ name }) => name).slice(0, 2)).toEqual(['Wing', 'Neck']);
  });

  test('nobody takes back or goes away from what they have not seen, and who does not say which steps are theirs is told as before', async () => {
    const job = await app.takeIn();
    const [first, second] = [step('first'), step('second')];
    await answer(send(job, { baseVersion: 0, entries: [first], own: [] }), 200);
    await answer(send(job, { baseVersion: 1, entries: [second], own: [] }), 200);
    const back: JournalEntry = { id: randomUUID(), kind: 'undo', step: first.id };
    await answer(send(job, { baseVersion: 1, entries: [back], own: [] }), 409);
    const go: JournalEntry = { id: randomUUID(), kind: 'go', to: null };
    await answer(send(job, { baseVersion: 1, entries: [go], own: [] }), 409);
    await answer(send(job, { baseVersion: 1, entries: [step('third')] }), 409);
    await answer(send(job, { baseVersion: 9, entries: [step('third')], own: [] }), 409);
    // They take back what was done since: what was made on it goes on top where it is about something else.
    const undo: JournalEntry = { id: randomUUID(), kind: 'undo', step: second.id };
    await answer(send(job, { baseVersion: 2, entries: [undo], own: [] }), 200);
    expect((await answer<JobSummary>(send(job, { baseVersion: 2, entries: [step('third')], own: [] }), 200)).version).toBe(4);
    expect((await historyOf(job)).steps.find(({ name }) => name === 'third')?.parent).toBe(first.id);
  });

  test('all steps that many send at once are there once, whatever came between', async () => {
    const job = await app.takeIn();
    const objects = await objectsOf(job);
    const people = objects.slice(0, 6);
    const sent = await Promise.all(
      people.map(async ({ id }, k) => {
        const entries: string[] = [];
        for (let time = 0; time < 3; time++) {
          const made = rename(id, `Piece ${k}, ${time}`);
          await answer(send(job, { baseVersion: 0, entries: [made], own: entries }), 200);
          entries.push(made.id);
        }
        return entries;
      }),
    );
    const { journal } = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}?from=start`), 200);
    expect(journal.map(({ entry: { id } }) => id).sort()).toEqual(sent.flat().sort());
    expect(journal.map(({ seq }) => seq)).toEqual(Array.from({ length: 18 }, (_, k) => k + 1));
    const names = (await objectsOf(job)).slice(0, 6).map(({ name }) => name);
    expect(names).toEqual(people.map((_, k) => `Piece ${k}, 2`));
  }, 120_000);

  test('windows say that they have a job open and are seen by the others until they leave or are not heard of', async () => {
    const job = await app.takeIn();
    const [one, other] = [randomUUID(), randomUUID()];
    const come = (page: string, stage: string) => answer<Presence[]>(app.request('PUT', `/api/jobs/${job.id}/here`, { page, stage }), 200);
    const heard: unknown[] = [];
    const stop = app.bus.listen((message) => message !== 'again' && message.kind === 'presence' && heard.push(message));
    await come(one, 'audit');
    await come(one, 'audit');
    const both = await come(other, 'rework');
    expect(both.map(({ page, stage, who }) => [page, stage, who]).sort()).toEqual(
      [
        [one, 'audit', null],
        [other, 'rework', null],
      ].sort(),
    );
    await answer(app.request('DELETE', `/api/jobs/${job.id}/here/${other}`), 204);
    const list = () => answer<Presence[]>(app.request('GET', `/api/jobs/${job.id}/here`), 200);
    expect((await list()).map(({ page }) => page)).toEqual([one]);
    await app.models.sequelize.query(`update presences set seen_at = now() - interval '2 minutes'`);
    expect(await list()).toEqual([]);
    // That a window is still there is not told to anybody.
    for (let tries = 0; tries < 50 && heard.length < 3; tries++) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(heard).toEqual(Array(3).fill({ kind: 'presence', id: job.id }));
    stop();
    await answer(app.request('PUT', `/api/jobs/${randomUUID()}/here`, { page: one, stage: 'audit' }), 404);
  });

  test('what a server process does is heard by the others on the same database, also after their connection was lost', async () => {
    const { Bus } = await import('./services/Bus.ts');
    const elsewhere = new Bus(app.models, app.address);
    await elsewhere.open();
    const heard: unknown[] = [];
    elsewhere.listen((message) => heard.push(message));
    const hears = async (message: unknown): Promise<void> => {
      for (let tries = 0; tries < 200 && !heard.some((one) => isDeepStrictEqual(one, message)); tries++)
        await new Promise((resolve) => setTimeout(resolve, 20));
      expect(heard).toContainEqual(message);
    };
    const job = await app.takeIn();
    await hears({ kind: 'job', id: job.id, version: 0 });
    await app.models.sequelize.query(
      `select pg_terminate_backend(pid) from pg_stat_activity where query = 'listen isola' and datname = current_database()`,
    );
    await hears('again');
    await answer(app.append(job, 0, [step('first')]), 200);
    await hears({ kind: 'job', id: job.id, version: 1, who: null });
    await elsewhere.close();
  });
});
