import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import {
  type DeletedJob,
  type JobDetail,
  type JobSummary,
  KEPT_DAYS,
  type ProblemDetails,
  type RevisionSummary,
  type SignOff,
} from '@isola/contract';
import { auditDesign, defaultTarget, type JournalEntry, startDesign, writeStitchCsv } from '@isola/core';
import { JobService } from './services/JobService.ts';
import { answer, AppUnderTest, heron, HERON, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_releases', { isCounting: true });

describe('what leaves and what goes', () => {
  test('a release waits until every stop is settled; what is kept is never overwritten', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const release = (baseVersion: number) => app.release(job, baseVersion);
    expect((await answer<ProblemDetails>(release(0), 422)).detail).toContain('layers thick');
    const stops = auditDesign(startDesign(heron(), defaultTarget())).filter((f) => f.severity === 'stop');
    const entries = stops.map(({ places, rule, message }): JournalEntry => ({
      id: randomUUID(),
      kind: 'do',
      name: 'keep',
      operation: { id: 'keep-finding', places: places.map((p) => p.key), rule, title: message, reason: 'sewn before' },
    }));
    await answer(app.append(job, 0, entries), 200);
    const revision = await answer<RevisionSummary>(release(entries.length), 201);
    expect(revision.number).toBe(2);
    expect((await app.models.Revision.findOne({ where: { jobId: job.id, number: 2 } }))!.entryId).toBe(entries[entries.length - 1]!.id);
    const program = await (await app.request('GET', `/api/jobs/${job.id}/revisions/2/program`)).text();
    expect(program).toBe(writeStitchCsv(heron()));
    // A list says what was released, and that the job is another by now; a file is named by its revision.
    const named = async (at: string): Promise<string | null> =>
      /filename="([^"]*)"/.exec((await app.request('GET', `/api/jobs/${job.id}/${at}`)).headers.get('content-disposition')!)![1]!;
    expect(await named('export?format=svg')).toBe('heron-r2.svg');
    const later = await answer<JobSummary>(app.append(job, entries.length, [step('since')]), 200);
    expect(later).toMatchObject({ stage: 'released', version: entries.length + 1, released: { number: 2, version: entries.length } });
    expect(await named('export?format=csv')).toBe('heron-r2-and-1-step.csv');
    expect(await named('revisions/1/file?format=csv')).toBe('heron-r1.csv');
    expect(await (await app.request('GET', `/api/jobs/${job.id}/revisions/2/file?format=csv`)).text()).toBe(program);
    await expect(app.models.Revision.update({ note: 'changed' }, { where: { jobId: job.id } })).rejects.toThrow(/never changed/);
    await expect(app.models.JournalEntry.update({ seq: 9 }, { where: { jobId: job.id } })).rejects.toThrow(/never changed/);
  });

  test('while something stands against it a file leaves only signed, with a reason, and that holds until the next step', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const takeOut = () => app.request('GET', `/api/jobs/${job.id}/export?format=csv`);
    expect((await answer<ProblemDetails>(takeOut(), 422)).detail).toMatch(/has to sign for it with a reason.*layers thick/);
    const sign = (baseVersion: number, who: string, reason: string) =>
      app.request('POST', `/api/jobs/${job.id}/sign-offs`, { baseVersion, who, reason });
    await answer(sign(0, 'Ada', ''), 422);
    await answer(sign(3, 'Ada', 'sewn before'), 409);
    const signed = await answer<SignOff>(sign(0, 'Ada', 'sewn before'), 201);
    expect(signed).toMatchObject({ version: 0, who: 'Ada', stops: [expect.stringContaining('layers thick')] });
    expect((await takeOut()).status).toBe(200);
    expect((await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200)).signOffs).toEqual([signed]);
    await expect(app.models.SignOff.update({ reason: 'other' }, { where: { jobId: job.id } })).rejects.toThrow(/never changed/);
    await answer(app.append(job, 0, [step('next')]), 200);
    await answer(takeOut(), 422);
    // A state that was kept and not released is no way around it; the file that came in is the customer's own.
    await answer(app.request('POST', `/api/jobs/${job.id}/revisions`, { baseVersion: 1, name: 'Kept' }), 201);
    await answer(app.request('GET', `/api/jobs/${job.id}/revisions/2/file?format=csv`), 422);
    expect((await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200)).revisions.map((v) => v.stopCount)).toEqual([null, 1]);
    expect((await app.request('GET', `/api/jobs/${job.id}/revisions/1/file?format=csv`)).status).toBe(200);
  });

  test('a production sheet says what it is of: not released, released, or what was made of a release since', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const stateOf = async (): Promise<string> => {
      const response = await app.request('GET', `/api/jobs/${job.id}/sheet.pdf`);
      expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/pdf']);
      expect(response.headers.get('content-disposition')).toContain('heron-sheet.pdf');
      const pdf = Buffer.from(await response.arrayBuffer()).toString('latin1');
      expect([pdf.startsWith('%PDF-1.'), pdf.trimEnd().endsWith('%%EOF')]).toEqual([true, true]);
      const { released, version } = (await app.models.Job.findByPk(job.id))!;
      return released === null || released === undefined ? 'not released' : released.version === version ? 'released' : 'since';
    };
    expect(await stateOf()).toBe('not released');
    await app.models.Job.update({ released: { number: 2, version: 0, figures: job.now } }, { where: { id: job.id } });
    expect(await stateOf()).toBe('released');
    await answer(app.append(job, 0, [step('since')]), 200);
    expect(await stateOf()).toBe('since');
    await answer(app.request('GET', `/api/jobs/${randomUUID()}/sheet.pdf`), 404);
  });

  test('work of which all was taken back is none; findings counted by an earlier rulebook are counted anew', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const one = step('one');
    expect((await answer<JobSummary>(app.append(job, 0, [one]), 200)).stage).toBe('in-work');
    const undo: JournalEntry = { id: randomUUID(), kind: 'undo', step: one.id };
    const back = await answer<JobSummary>(app.append(job, 1, [undo]), 200);
    expect(back.stage).toBe('taken-in');
    // Who made a step does not wait for what is found then; lists are told it soon after.
    const stored = () => app.models.Job.findByPk(job.id, { attributes: ['rulebook', 'findings'] });
    expect((await stored())!.rulebook).toBe(0);
    for (let tries = 0; tries < 200 && (await stored())!.rulebook === 0; tries++) await new Promise((resolve) => setTimeout(resolve, 20));
    const { findings } = (await stored())!;
    expect(findings.stop).toBe(1);
    const wrong = { stop: 9, fix: 9, note: 9 };
    await app.models.Job.update({ rulebook: 1, findings: wrong }, { where: { id: job.id } });
    // One whose file is gone, which comes first, does not keep the others from it.
    const broken = await app.takeIn(HERON, 'heron.csv');
    await app.models.JobBase.destroy({ where: { jobId: broken.id } });
    await app.models.JobFile.destroy({ where: { jobId: broken.id } });
    await app.models.Job.update({ rulebook: 1, due: '2020-01-01' }, { where: { id: broken.id } });
    await new JobService(app.models, app.pool, app.bus).recounts.all();
    const jobs = await answer<JobSummary[]>(app.request('GET', '/api/jobs'), 200);
    expect(jobs.find(({ id }) => id === job.id)!.findings).toEqual(findings);
  });

  test('a deleted job is gone from lists and addresses, can be put back whole for thirty days, and goes then with all of it', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    await answer(app.append(job, 0, [step('kept')]), 200);
    const before = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200);
    await answer(app.request('DELETE', `/api/jobs/${job.id}`), 204);
    expect(await answer(app.request('GET', '/api/jobs'), 200)).toEqual([]);
    for (const at of ['', '/file', '/base', '/export?format=csv', '/objects', '/revisions/1/program'])
      await answer(app.request('GET', `/api/jobs/${job.id}${at}`), 404);
    await answer(app.append(job, 1, [step('late')]), 404);
    const [deleted] = await answer<DeletedJob[]>(app.request('GET', '/api/jobs/deleted'), 200);
    expect(deleted).toMatchObject({ id: job.id, name: job.name });
    await answer(app.request('POST', `/api/jobs/${job.id}/put-back`), 200);
    expect(await answer(app.request('GET', `/api/jobs/${job.id}`), 200)).toEqual({ ...before, updatedAt: expect.any(String) });
    expect(await answer(app.request('GET', '/api/jobs/deleted'), 200)).toEqual([]);

    await answer(app.request('DELETE', `/api/jobs/${job.id}`), 204);
    const jobs = new JobService(app.models, app.pool, app.bus);
    const after = (days: number): Date => new Date(Date.now() + days * 86_400_000);
    await jobs.clear(after(KEPT_DAYS - 1));
    expect(await app.models.JournalEntry.count({ where: { jobId: job.id } })).toBe(1);
    await jobs.clear(after(KEPT_DAYS + 1));
    expect(await app.models.JournalEntry.count({ where: { jobId: job.id } })).toBe(0);
    await answer(app.request('POST', `/api/jobs/${job.id}/put-back`), 404);
  });
});
