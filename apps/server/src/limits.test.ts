import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { JobChange, JobDetail, JobSummary, ProblemDetails, RevisionSummary } from '@isola/contract';
import { FABRICS } from '@isola/core';
import { answer, AppUnderTest, HERON, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_limits');

describe('what does not fit is said, and never a fault of this server', () => {
  test('bodies end at 1 MB, texts at their length, and no text is half a character or has a NUL', async () => {
    const job = await app.takeIn();
    const at = `/api/jobs/${job.id}`;
    const details = { detailsVersion: 0, name: 'Heron', customer: '', due: null };
    const large = await answer<ProblemDetails>(app.request('PATCH', at, { ...details, name: 'x'.repeat(2_000_000) }), 413);
    expect(large.detail).toContain('1 MB');
    await answer(app.request('POST', `${at}/revisions`, { baseVersion: 0, name: 'n', note: 'x'.repeat(2_000_000) }), 413);
    await answer(app.request('PUT', '/api/shop/fabrics/twill', { ...FABRICS[1]!, name: 'y'.repeat(300) }), 422);
    for (const name of ['a\0b', 'half \ud800', '\udc00'])
      expect((await answer<ProblemDetails>(app.request('PATCH', at, { ...details, name }), 422)).detail).toContain(
        'name: text that cannot',
      );
    const inside = { ...step('x'), operation: { id: 'keep-finding', places: ['k'], rule: 'r', title: 't', reason: 'half \ud800' } };
    expect(
      (await answer<ProblemDetails>(app.request('POST', `${at}/journal`, { baseVersion: 0, entries: [inside] }), 422)).detail,
    ).toContain('entries.0.operation.reason');
    // Characters of two halves are whole.
    await answer(app.request('PATCH', at, { ...details, name: 'Heron \u{1f9f5}' }), 200);
    for (const due of ['0000-00-00', '2026-02-30', '99999-01-01', '-001-01-01'])
      await answer(app.request('PATCH', at, { ...details, detailsVersion: 1, due }), 422);
    await answer(app.request('PATCH', at, { ...details, detailsVersion: 1, due: '0001-01-01' }), 200);
    await answer(app.request('PATCH', at, 'no object at all'), 422);
  });

  test('a request that is sent again under its key makes nothing twice', async () => {
    const send = async (key: string): Promise<JobSummary> => {
      const form = new FormData();
      form.set('file', new File([new Uint8Array(HERON)], 'heron.csv'));
      return answer<JobSummary>(app.request('POST', '/api/jobs', form, { 'idempotency-key': key }), 201);
    };
    const key = randomUUID();
    const [first, again, other] = [await send(key), await send(key), await send(randomUUID())];
    expect([again.id === first.id, other.id === first.id, await app.models.Job.count()]).toEqual([true, false, 2]);
    const keep = () => app.request('POST', `/api/jobs/${first.id}/revisions`, { baseVersion: 0, name: 'kept' }, { 'idempotency-key': key });
    const [one, two] = [await answer<RevisionSummary>(keep(), 201), await answer<RevisionSummary>(keep(), 201)];
    expect([one.number, two.number, await app.models.Revision.count({ where: { jobId: first.id } })]).toEqual([2, 2, 2]);
    await answer(app.request('POST', '/api/jobs', new FormData(), { 'idempotency-key': 'no uuid' }), 422);
  }, 120_000);

  test('file names of any length and of any characters are taken, shortened, and can be taken away again', async () => {
    const job = await answer<JobSummary>(app.upload(HERON, `${'long '.repeat(2000)}\u{1f9f5}.csv`), 201);
    expect([job.fileName.length <= 120, job.fileName.endsWith('.csv'), job.name.length <= 200]).toEqual([true, true, true]);
    await app.sign(job, 0);
    const file = await app.request('GET', `/api/jobs/${job.id}/export?format=csv`);
    expect([file.status, file.headers.get('content-disposition')!.length < 2000]).toEqual([200, true]);
  });

  test('only its own pages are answered: no other port of this machine, no page from elsewhere; links from elsewhere open it', async () => {
    const host = 'localhost:4310';
    const ask = async (method: string, headers: Record<string, string>): Promise<number> =>
      (await app.request(method, '/api/shop/defaults', method === 'GET' ? undefined : { who: 'Ada' }, { host, ...headers })).status;
    for (const origin of ['http://localhost:5000', 'http://127.0.0.1:4310', 'null', 'http://elsewhere.example'])
      expect(await ask('POST', { origin })).toBe(403);
    expect(await ask('POST', { origin: `http://${host}`, 'sec-fetch-site': 'same-origin' })).toBe(200);
    expect(await ask('POST', {})).toBe(200);
    for (const site of ['same-site', 'cross-site']) {
      expect(await ask('POST', { 'sec-fetch-site': site })).toBe(403);
      expect((await app.request('GET', '/api/jobs', undefined, { host, 'sec-fetch-site': site })).status).toBe(403);
      expect(
        (await app.request('GET', '/api/jobs', undefined, { host, 'sec-fetch-site': site, 'sec-fetch-mode': 'navigate' })).status,
      ).toBe(200);
    }
  });

  test('an asset that is not there is not the page, and the page is asked for anew', async () => {
    const missing = await app.request('GET', '/assets/index-gone.js');
    expect([missing.status, missing.headers.get('content-type')]).toEqual([404, expect.stringContaining('text/plain')]);
    expect(missing.headers.get('cache-control')).not.toContain('immutable');
    const page = await app.request('GET', '/jobs/anything/audit');
    expect([page.status, page.headers.get('cache-control')]).toEqual([200, 'no-cache']);
  });

  test('a release without a stitch is refused', async () => {
    const text = 'command,x,y\nstitch,0,0\nstitch,3,0\nstitch,6,0\nend,,\n';
    const job = await answer<JobSummary>(app.upload(Buffer.from(text), 'line.csv'), 201);
    for (let status = 202; status === 202;) ({ status } = await app.request('GET', `/api/jobs/${job.id}/base`));
    const { objects } = await answer<{ objects: { id: string }[] }>(app.request('GET', `/api/jobs/${job.id}/objects`), 200);
    const row = (x: number) => ({ command: 'stitch', x, y: 0 });
    const rows = [{ at: 0, removed: [3, 6].map(row), inserted: [] }];
    const way = [{ at: 0, removed: [row(0)], inserted: [] }];
    const operation = {
      id: 'edit-rows',
      edits: [
        { object: objects[0]!.id, part: 'rows', patches: rows },
        { object: objects[0]!.id, part: 'way', patches: way },
      ],
    };
    const entry = { id: randomUUID(), kind: 'do', name: 'all gone', operation };
    const changed = await answer<JobSummary>(app.request('POST', `/api/jobs/${job.id}/journal`, { baseVersion: 0, entries: [entry] }), 200);
    expect(changed.now.stitches).toBe(0);
    const release = { baseVersion: 1, name: 'Released', isRelease: true };
    const problem = await answer<ProblemDetails>(app.request('POST', `/api/jobs/${job.id}/revisions`, release), 422);
    expect(problem.detail).toContain('no stitch');
  });

  test('pages hear of steps, of new jobs and of deleted ones', async () => {
    const stream = await app.request('GET', '/api/events');
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
    const job = await app.takeIn();
    await answer(app.append(job, 0, [step('heard')]), 200);
    // Who asks for other jobs alone hears nothing of this one.
    const other = await app.takeIn();
    const deaf = await app.request('GET', `/api/events?job=${other.id}`);
    const quiet = deaf.body!.pipeThrough(new TextDecoderStream()).getReader();
    await answer(app.request('DELETE', `/api/jobs/${job.id}`), 204);
    await answer(app.append(other, 0, [step('heard')]), 200);
    let alone = '';
    while (!alone.includes('"version":1')) alone += (await quiet.read()).value ?? '';
    await quiet.cancel();
    expect([alone.includes(other.id), alone.includes(job.id)]).toEqual([true, false]);
    await answer(app.request('GET', '/api/events?job=none'), 422);
    let heard = '';
    while (!heard.includes('"version":null')) heard += (await reader.read()).value ?? '';
    await reader.cancel();
    const changes = [...heard.matchAll(/data: (\{.*\})/g)].map((m) => JSON.parse(m[1]!) as JobChange);
    const { id } = job;
    expect(changes.filter((change) => change.id === id)).toEqual([
      { id, version: 0 },
      { id, version: 1, who: null },
      { id, version: null },
    ]);
  });

  test('what is on its way when a job is deleted leaves nothing behind', async () => {
    const job = await app.takeIn();
    const [appended, removed] = await Promise.all([app.append(job, 0, [step('x')]), app.request('DELETE', `/api/jobs/${job.id}`)]);
    expect([[200, 404].includes(appended.status), removed.status]).toEqual([true, 204]);
    // It can be put back with what was stored before it went, and nothing came after.
    const { version } = (await app.models.Job.findByPk(job.id, { paranoid: false }))!;
    expect([version, await app.models.JournalEntry.count()]).toEqual(appended.status === 200 ? [1, 1] : [0, 0]);
    expect((await answer<JobDetail[]>(app.request('GET', '/api/jobs'), 200)).length).toBe(0);
  });
});
