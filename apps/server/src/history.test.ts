import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { JobDetail, JobHistory, JobSummary, ProblemDetails, RevisionSummary } from '@isola/contract';
import type { JournalEntry } from '@isola/core';
import { answer, AppUnderTest, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_history');
const go = (to: string | null): JournalEntry => ({ id: randomUUID(), kind: 'go', to });

describe('the history of a job', () => {
  test('is a tree: going back and on again begins a branch, and each version and revision says which step it shows', async () => {
    const job = await app.takeIn();
    const history = () => answer<JobHistory>(app.request('GET', `/api/jobs/${job.id}/history`), 200);
    expect(await history()).toEqual({
      version: 0,
      earlier: [],
      steps: [],
      now: null,
      branches: [],
      revisions: [{ number: 1, step: null }],
    });
    const [a, b, c, d] = ['first', 'second', 'third', 'other'].map(step);
    await answer(app.append(job, 0, [a!, b!, c!]), 200);
    await answer(app.request('POST', `/api/jobs/${job.id}/revisions`, { baseVersion: 3, name: 'For the sample' }), 201);
    await answer(app.append(job, 3, [go(a!.id), d!]), 200);
    const now = await history();
    expect(now.steps.map(({ id, parent, seq, name, reason }) => [id, parent, seq, name, reason])).toEqual([
      [a!.id, null, 1, 'first', 'wanted so'],
      [b!.id, a!.id, 2, 'second', 'wanted so'],
      [c!.id, b!.id, 3, 'third', 'wanted so'],
      [d!.id, a!.id, 5, 'other', 'wanted so'],
    ]);
    expect([now.now, now.version]).toEqual([d!.id, 5]);
    expect(now.revisions).toEqual([
      { number: 1, step: null },
      { number: 2, step: c!.id },
    ]);
    // The design is that of the branch: the third step is not in it.
    const detail = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}?from=start`), 200);
    expect([detail.version, detail.journal.length]).toEqual([5, 5]);
    const before = await answer<JobSummary>(app.append(job, 5, [go(c!.id)]), 200);
    const wanted = await answer<JobSummary>(app.append(job, 6, [go(null)]), 200);
    expect([before.stage, wanted.stage]).toEqual(['in-work', 'taken-in']);
    expect((await answer<ProblemDetails>(app.append(job, 7, [go(randomUUID())]), 422)).detail).toContain('no such step');
  });

  test('goes to a step from before its snapshot, after the server forgot what it had in hand', async () => {
    const job = await app.takeIn();
    const entries = Array.from({ length: 70 }, (_, k) => step(`step ${k}`));
    await answer(app.append(job, 0, entries), 200);
    for (let tries = 0; tries < 100 && (await app.models.Snapshot.findByPk(job.id)) === null; tries++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await app.models.Snapshot.findByPk(job.id)).not.toBeNull();
    await app.stop();
    await app.start();
    const at = await answer<JobSummary>(app.append(job, 70, [go(entries[9]!.id)]), 200);
    expect(at.version).toBe(71);
    const later = await answer<JobSummary>(app.append(job, 71, [step('from there')]), 200);
    expect(later.stage).toBe('in-work');
    const { steps, now } = await answer<JobHistory>(app.request('GET', `/api/jobs/${job.id}/history`), 200);
    expect(steps.find(({ id }) => id === now)!.parent).toBe(entries[9]!.id);
  });

  test('branches and revisions are named and named anew; two of one name are refused, and steps of other jobs are none', async () => {
    const [job, other] = [await app.takeIn(), await app.takeIn()];
    const [a, b] = [step('first'), step('second')];
    await answer(app.append(job, 0, [a, go(null), b]), 200);
    const name = (of: JobSummary, at: string, called: string, status: number) =>
      answer<JobHistory & ProblemDetails>(app.request('PUT', `/api/jobs/${of.id}/branches/${at}`, { name: called }), status);
    expect((await name(job, b.id, ' Cheaper ', 200)).branches).toEqual([{ step: b.id, name: 'Cheaper' }]);
    expect((await name(job, a.id, 'Cheaper', 422)).detail).toContain('called Cheaper already');
    expect((await name(job, b.id, 'Open wings', 200)).branches).toEqual([{ step: b.id, name: 'Open wings' }]);
    expect((await name(job, b.id, '', 200)).branches).toEqual([]);
    await name(other, a.id, 'Mine', 404);
    await name(job, randomUUID(), 'None', 404);
    const rename = (number: number, called: string, status: number) =>
      answer<RevisionSummary>(app.request('PATCH', `/api/jobs/${job.id}/revisions/${number}`, { name: called }), status);
    expect((await rename(1, "The customer's", 200)).name).toBe("The customer's");
    await rename(7, 'None', 404);
    const listed = async () => (await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200)).revisions.map((r) => r.name);
    expect(await listed()).toEqual(["The customer's"]);
    expect((await rename(1, '', 200)).name).toBe('As it came in');
    expect(await listed()).toEqual(['As it came in']);
  });
});
