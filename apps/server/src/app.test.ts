import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { type JobDetail, type JobSummary, type ProblemDetails, VERSION_HEADER } from '@isola/contract';
import {
  auditDesign,
  baseFromJson,
  defaultTarget,
  isSameProgram,
  type JournalEntry,
  RECOGNIZER_VERSION,
  RowEntry,
  splitObject,
  readStitchCsv,
  readStitchFile,
  repairFindings,
  startDesign,
} from '@isola/core';
import { answer, AppUnderTest, heron, HERON, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_jobs');

function repairEntry(): JournalEntry {
  const repair = repairFindings(startDesign(heron(), defaultTarget()), () => true);
  return { id: randomUUID(), kind: 'do', name: 'all repairs', operation: { id: 'sequence', operations: [...repair.operations] } };
}

describe('jobs', () => {
  test('a file is kept byte for byte, with its figures and a first revision', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    expect(job).toMatchObject({ name: 'Heron', version: 0, stage: 'taken-in', fileKind: 'csv' });
    expect(job.before).toEqual(job.now);
    const file = await app.request('GET', `/api/jobs/${job.id}/file`);
    expect(Buffer.from(await file.arrayBuffer()).equals(HERON)).toBe(true);
    expect(file.headers.get('cache-control')).toBe('private, no-cache');
    const detail = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200);
    expect(detail.revisions).toMatchObject([{ number: 1, version: 0, name: 'As it came in' }]);
    expect((await answer<JobSummary[]>(app.request('GET', '/api/jobs'), 200)).map((j) => j.id)).toEqual([job.id]);
  });

  test('who has the file of a job already is told so, for as long as there is the job; all else is kept by no browser', async () => {
    const { id } = await app.takeIn(HERON, 'heron.csv');
    const at = `/api/jobs/${id}/file`;
    const [worked, came] = await Promise.all([app.request('GET', at), app.request('GET', `${at}?as=came`)]);
    const tags = [worked, came].map(({ headers }) => headers.get('etag')!);
    expect(new Set(tags).size).toBe(2);
    const askAgain = (tag: string, from = at): Promise<Response> => app.request('GET', from, undefined, { 'If-None-Match': tag });
    const again = await askAgain(tags[0]!);
    expect([again.status, again.headers.get('etag'), (await again.arrayBuffer()).byteLength]).toEqual([304, tags[0], 0]);
    expect((await askAgain(tags[1]!, `${at}?as=came`)).status).toBe(304);
    // A tag of another file stands for nothing.
    expect((await askAgain(tags[1]!)).status).toBe(200);
    for (const other of [`/api/jobs/${id}`, `/api/jobs/${id}/base`, '/api/jobs'])
      expect((await app.request('GET', other)).headers.get('cache-control')).toBe('no-store');
    await app.request('DELETE', `/api/jobs/${id}`);
    expect((await askAgain(tags[0]!)).status).toBe(404);
  });

  test('the objects of the present design are recognized beside the server, with what was decided about them', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const at = `/api/jobs/${job.id}/objects`;
    type Objects = { objects: { id: string; kind: string; role: string; first: number; last: number; name: string }[] };
    const { objects } = await answer<Objects>(app.request('GET', at), 200);
    expect(objects.filter((o) => o.role === 'cover').length).toBe(46);
    const wing = objects.find((o) => o.role === 'cover' && o.kind === 'fill')!;
    const design = startDesign(heron(), defaultTarget());
    const split = splitObject(design, wing.id, wing.first + 200, 'second');
    if (!split.ok) throw new Error(split.error);
    const entry: JournalEntry = { id: randomUUID(), kind: 'do', name: 'split the body', operation: split.value };
    await answer(app.append(job, 0, [entry]), 200);
    const after = await answer<Objects>(app.request('GET', at), 200);
    expect(after.objects.find((o) => o.id === wing.id)).toMatchObject({ last: wing.first + 199, kind: 'fill' });
    expect(after.objects.find((o) => o.id === 'second')).toMatchObject({ first: wing.first + 200, kind: 'fill' });
    expect((await app.request('GET', `/api/jobs/${randomUUID()}/objects`)).status).toBe(404);
  }, 120_000);

  test.each([
    ['bad.csv', 'command,x,y\nstitch,1,zz\n', 422, { line: 2, found: '“zz” as y' }],
    ['empty.csv', '', 422, { byte: 0, found: 'an empty file' }],
    ['jumps.csv', 'command,x,y\njump,1,1\n', 422, { found: '1 jump and no stitch' }],
    ['bad.svg', '<svg><path></svg>', 422, { line: 1 }],
    ['photo.png', '\u0089PNG', 422, {}],
  ])('%s is refused with its place as problem details, and nothing of it is stored', async (name, text, status, fields) => {
    const response = await app.upload(Buffer.from(text), name);
    expect(response.status).toBe(status);
    expect(response.headers.get('content-type')).toBe('application/problem+json');
    const problem = (await response.json()) as ProblemDetails;
    expect(problem).toMatchObject({ status, title: 'This file cannot be read', ...fields });
    expect(problem.detail).toContain(name);
    expect(await app.models.Job.count()).toBe(0);
    expect(await app.models.JobFile.count()).toBe(0);
  });

  test('a file over the limit is refused in its own words, and so is a form without a file', async () => {
    const problem = await answer<ProblemDetails>(app.upload(new Uint8Array(33 * 1024 * 1024)), 413);
    expect(problem.detail).toContain('32 MB');
    await answer(app.request('POST', '/api/jobs', new FormData()), 422);
  });

  test('steps are appended, derived figures follow, and the exported file is the repaired one', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const entry = repairEntry();
    const changed = await answer<JobSummary>(app.append(job, 0, [entry]), 200);
    expect(changed).toMatchObject({ version: 1, stage: 'in-work' });
    expect(changed.now.trims).toBeLessThanOrEqual(changed.before.trims - 25);
    const unknown = await app.request('GET', `/api/jobs/${job.id}/export?format=doc`);
    expect([unknown.status, await unknown.text()]).toEqual([422, expect.stringContaining('there is no format doc; there are csv, svg')]);
    await app.sign(job, 1);
    const csv = await (await app.request('GET', `/api/jobs/${job.id}/export?format=csv`)).text();
    const svg = await (await app.request('GET', `/api/jobs/${job.id}/export?format=svg`)).arrayBuffer();
    const [a, b] = [readStitchCsv(csv), readStitchFile(new Uint8Array(svg))];
    expect(a.ok && b.ok && isSameProgram(a.value.program, b.value.program)).toBe(true);
    if (!a.ok) throw new Error(a.error.message);
    expect(auditDesign({ program: a.value.program, target: defaultTarget() }).map((f) => f.rule)).not.toContain('needless-trim');
    const undone = await answer<JobSummary>(app.append(job, 1, [{ id: randomUUID(), kind: 'undo' }]), 200);
    expect(undone.now).toEqual(undone.before);
    expect(await (await app.request('GET', `/api/jobs/${job.id}/program`)).text()).toBe(HERON.toString());
  });

  test('of two windows that build on one version one gets a conflict, and nothing is lost', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const send = (name: string): Promise<Response> => app.append(job, 0, [step(name)]);
    const both = await Promise.all([send('left window'), send('right window')]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    const refused = (await both.find((r) => r.status === 409)!.json()) as ProblemDetails;
    expect(refused).toMatchObject({ title: 'Changed elsewhere', version: 1 });
    expect((await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200)).journal).toHaveLength(1);
  });

  test('a step sent twice, because its answer was lost, is there once', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const body = { baseVersion: 0, entries: [step('once')] };
    await answer(app.request('POST', `/api/jobs/${job.id}/journal`, body), 200);
    expect(await answer<JobSummary>(app.request('POST', `/api/jobs/${job.id}/journal`, body), 200)).toMatchObject({ version: 1 });
    // Sent again with a step after it, only that one is new.
    const more = { ...body, entries: [...body.entries, step('after it')] };
    expect(await answer<JobSummary>(app.request('POST', `/api/jobs/${job.id}/journal`, more), 200)).toMatchObject({ version: 2 });
    const { journal } = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200);
    expect(journal.map((j) => j.entry.id)).toEqual(more.entries.map((e) => e.id));
    const stored = await app.models.JournalEntry.findAll({ where: { jobId: job.id }, order: ['seq'] });
    expect(stored.map((e) => e.parent)).toEqual([null, more.entries[0]!.id]);
    expect((await app.models.Branch.findOne({ where: { jobId: job.id } }))!.entryId).toBe(more.entries[1]!.id);
    // What is there is known wherever it is said to build; the answer says how much is there of what does not go on top of it.
    expect(await answer<JobSummary>(app.append(job, 2, body.entries), 200)).toMatchObject({ version: 2 });
    const other = [body.entries[0]!, step('another window')];
    expect(await answer<ProblemDetails>(app.append(job, 0, other), 409)).toMatchObject({ known: 1, version: 2 });
    await answer(app.append(job, 2, [...more.entries].reverse()), 422);
    const twice = step('twice');
    await answer(app.append(job, 2, [twice, twice]), 422);
    await answer(app.append(await app.takeIn(HERON, 'heron.csv'), 0, body.entries), 422);
    // Sent twice at the same time it is there once, and both hear so.
    const next = step('both at once');
    const both = await Promise.all([app.append(job, 2, [next]), app.append(job, 2, [next])]);
    expect(both.map((r) => r.status)).toEqual([200, 200]);
  });

  /** Waits until the server has recognized a job's file, as a page does. */
  async function baseOf(id: string): Promise<Response> {
    for (;;) {
      const response = await app.request('GET', `/api/jobs/${id}/base`);
      if (response.status !== 202) return response;
      expect(await response.json()).toMatchObject({ share: expect.any(Number), doing: expect.any(String) });
    }
  }

  test('what its journal builds on is made once and stays; until then how far it is is said', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const response = await baseOf(job.id);
    expect(response.headers.get('content-encoding')).toBe('gzip');
    const json = gunzipSync(Buffer.from(await response.arrayBuffer())).toString();
    expect(isSameProgram(baseFromJson(json, heron()).design.program, heron())).toBe(true);
    await expect(app.models.JobBase.update({ recognizer: 9 }, { where: { jobId: job.id } })).rejects.toThrow(/never changed/);
    expect((await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200)).base).toEqual({
      version: 0,
      recognizer: RECOGNIZER_VERSION,
    });
    expect((await app.request('GET', `/api/jobs/${randomUUID()}/base`)).status).toBe(404);
  });

  test('a long job opens at a snapshot, and the steps before it can still be taken back, also by a server just started', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    await baseOf(job.id);
    const names = Array.from({ length: 66 }, (_, k) => `place ${k}`);
    await answer(app.append(job, 0, names.slice(0, 65).map(step)), 200);
    for (let k = 0; k < 200 && (await app.models.Snapshot.count()) === 0; k++) await new Promise((resolve) => setTimeout(resolve, 20));
    const response = await app.request('GET', `/api/jobs/${job.id}/base`);
    const snapshot = baseFromJson(gunzipSync(Buffer.from(await response.arrayBuffer())).toString(), heron());
    expect([response.headers.get(VERSION_HEADER), snapshot.version, snapshot.far.length]).toEqual(['65', 65, 65]);
    await answer(app.append(job, 65, [step(names[65]!)]), 200);
    const journalFrom = async (from: string): Promise<number[]> =>
      (await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}?from=${from}`), 200)).journal.map((j) => j.seq);
    expect([await journalFrom('snapshot'), (await journalFrom('start')).length]).toEqual([[66], 66]);
    await app.stop();
    await app.start();
    const undo = (): JournalEntry => ({ id: randomUUID(), kind: 'undo' });
    expect(await answer(app.append(job, 66, [undo(), undo(), undo()]), 200)).toMatchObject({ version: 69 });
    await app.stop();
    await app.start();
    // What was taken back reaches behind the snapshot: this server starts from the base.
    expect(await answer(app.append(job, 69, [step('on')]), 200)).toMatchObject({ version: 70 });
    const { base, journal } = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}?from=start`), 200);
    expect([base!.version, journal.length]).toEqual([0, 70]);
  });

  test('a job stored before objects lasted opens at the state that it was left in, and goes on from there', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    await baseOf(job.id);
    // As it stood in the database then: a journal of rows and nothing that it builds on.
    await app.models.JobBase.destroy({ where: { jobId: job.id } });
    const { x, y, command } = heron();
    const row = command.findIndex((c, k) => k > 200 && c === 0);
    const removed = [{ command: 'stitch', x: x[row], y: y[row] }];
    const operation = { id: 'replace-rows', patches: [{ at: row, removed, inserted: [] }] };
    const rows = RowEntry.parse({ id: randomUUID(), kind: 'do', name: 'merge one', operation });
    await app.models.JournalEntry.create({ jobId: job.id, seq: 1, entryId: rows.id, entry: rows, chain: '' });
    await app.models.Job.update({ version: 1 }, { where: { id: job.id } });
    const csv = await (await app.request('GET', `/api/jobs/${job.id}/program`)).text();
    expect(csv.split('\n')).toHaveLength(HERON.toString().split('\n').length - 1);
    const changed = await answer<JobSummary>(app.append(job, 1, [step('on')]), 200);
    expect([changed.version, changed.now.stitches]).toEqual([2, changed.before.stitches - 1]);
    const detail = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200);
    expect([detail.base!.version, detail.journal.map((j) => j.seq)]).toEqual([1, [2]]);
  });

  test('a step that does not fit the design, or is none, is refused and not stored', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const wrong: JournalEntry = {
      id: randomUUID(),
      kind: 'do',
      name: 'wrong',
      operation: { id: 'rename-object', object: 'o999', name: 'nobody' },
    };
    const problem = await answer<ProblemDetails>(app.append(job, 0, [wrong]), 422);
    expect(problem.detail).toContain('no object o999');
    await answer(app.append(job, 0, [{ id: 'x', kind: 'jump' } as unknown as JournalEntry]), 422);
    await answer(app.append(job, 0, [{ id: randomUUID(), kind: 'undo' }]), 422);
    expect(await app.models.JournalEntry.count()).toBe(0);
    // What was refused must not be left behind in a worker's memory either.
    await answer(app.append(job, 0, [step('fits')]), 200);
  });

  test('a restarted server gives back every job as it was left', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    await answer(app.append(job, 0, [repairEntry(), step('kept')]), 200);
    const before = await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200);
    const csv = await (await app.request('GET', `/api/jobs/${job.id}/program`)).text();
    await app.stop();
    await app.start();
    expect(await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200)).toEqual(before);
    expect(await (await app.request('GET', `/api/jobs/${job.id}/program`)).text()).toBe(csv);
  });

  test('name, customer and date change under a version of their own; unknown jobs and addresses are said so', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const change = { detailsVersion: 0, name: 'Heron, second size', customer: 'Marsh Gate Rowing Club', due: '2026-12-01' };
    expect(await answer(app.request('PATCH', `/api/jobs/${job.id}`, change), 200)).toMatchObject({
      name: 'Heron, second size',
      detailsVersion: 1,
    });
    await answer(app.request('PATCH', `/api/jobs/${job.id}`, change), 409);
    await answer(app.request('PATCH', `/api/jobs/${job.id}`, { ...change, due: 'soon' }), 422);
    await answer(app.request('DELETE', `/api/jobs/${job.id}`), 204);
    await answer(app.request('GET', `/api/jobs/${job.id}`), 404);
    await answer(app.request('GET', '/api/jobs/not-an-id'), 422);
    await answer(app.request('GET', '/api/nothing'), 404);
  });

  test('while a file of 150,000 rows is read, other requests are answered', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    await baseOf(job.id);
    let text = 'command,x,y\n';
    for (let k = 0; k < 150_000; k++) text += `stitch,${(k % 300) / 4},${Math.floor(k / 300) / 20}\n`;
    let isRead = false;
    const large = app.upload(Buffer.from(text), 'large.csv').then((response) => {
      isRead = true;
      return response;
    });
    await answer(app.request('GET', '/api/health'), 200);
    await answer(app.append(job, 0, [step('meanwhile')]), 200);
    expect(isRead).toBe(false);
    expect((await large).status).toBe(201);
  }, 120_000);
});
