import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { type ChildProcess, fork } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { AuditDetail, AuditSummary, JobSummary, ProblemDetails } from '@isola/contract';
import { auditFile, defaultTarget, FABRICS, THREADS } from '@isola/core';
import { answer, AppUnderTest, HERON, step } from './testing/AppUnderTest.ts';
import { runAudits } from './workers/runAudits.ts';
import { guardTest } from './testing/guardTest.ts';

const app = new AppUnderTest('isola_test_audits');
const DIST = path.resolve(import.meta.dirname, '../dist');
const KETTLE = readFileSync(path.resolve(import.meta.dirname, '../../../demo/kettle.csv'));
const target = { ...defaultTarget(), fabric: FABRICS.find(({ id }) => id === 'twill')!, thread: THREADS[1]! };

const ends: (() => Promise<void>)[] = [];
afterEach(() => Promise.all(ends.splice(0).map((end) => end())));
beforeEach(() => app.models.Audit.destroy({ where: {} }));

const begin = (name = 'Spring order'): Promise<AuditSummary> => answer(app.request('POST', '/api/audits', { name, target }), 201);
function send(id: string, seq: number, bytes: Uint8Array, name: string): Promise<Response> {
  const form = new FormData();
  form.set('path', name);
  form.set('file', new File([new Uint8Array(bytes)], name));
  return app.request('PUT', `/api/audits/${id}/files/${seq}`, form);
}
const detail = (id: string): Promise<AuditDetail> => answer(app.request('GET', `/api/audits/${id}`), 200);
async function settled(id: string): Promise<AuditDetail> {
  for (;;) {
    const found = await detail(id);
    if (found.counts.waiting === 0) return found;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
function work(name = 'here'): void {
  ends.push(runAudits({ models: app.models, boss: app.queue, pool: app.pool, name }));
}
/** A worker as a process of its own, as it runs on another machine. */
async function worker(): Promise<ChildProcess> {
  const child = fork(path.join(DIST, 'audit.worker.js'), [], { env: { ...process.env, DATABASE_URL: app.address } });
  ends.push(() => Promise.resolve(void child.kill('SIGKILL')));
  await new Promise((resolve) => child.once('message', resolve));
  return child;
}

describe('audits of many files', () => {
  test('judge each file as it is judged alone, tell how far they are, give one table, and make jobs of their files', async () => {
    const { id } = await begin();
    await answer(send(id, 1, KETTLE, 'spring/kettle.csv'), 204);
    await answer(send(id, 2, HERON, 'spring/heron.csv'), 204);
    await answer(send(id, 2, HERON, 'spring/heron.csv'), 204);
    await answer(send(id, 3, new TextEncoder().encode('no stitches'), 'spring/torn.csv'), 204);
    expect((await detail(id)).counts).toEqual({ waiting: 3, done: 0, failed: 0, cancelled: 0 });
    const events = await app.request('GET', `/api/audits/${id}/events`);
    work();
    const said = (await events.text()).split('\n').filter((line) => line.startsWith('data: '));
    expect(JSON.parse(said.at(-1)!.slice(6))).toMatchObject({ counts: { waiting: 0, done: 2, failed: 1 } });
    const { files } = await settled(id);
    expect(files.map(({ name, state }) => `${name} ${state}`)).toEqual([
      'spring/kettle.csv done',
      'spring/heron.csv done',
      'spring/torn.csv failed',
    ]);
    for (const [k, bytes] of [KETTLE, HERON].entries()) {
      const alone = auditFile(bytes, target);
      expect(files[k]!.audit).toEqual(alone.ok && JSON.parse(JSON.stringify(alone.value)));
    }
    expect(files[2]!.problem).toMatch(/line 1/i);
    const response = await app.request('GET', `/api/audits/${id}/table`);
    expect(response.headers.get('content-disposition')).toContain('Spring_order.csv');
    const rows = (await response.text()).trim().split('\r\n');
    expect(rows.map((row) => row.split(',')[0])).toEqual(['file', 'spring/heron.csv', 'spring/kettle.csv', 'spring/torn.csv']);
    const job = await answer<JobSummary>(app.request('POST', `/api/audits/${id}/files/2/job`), 201);
    expect([job.name, job.fileName, job.target.fabric.id, job.target.thread.id]).toEqual(['Heron', 'heron.csv', 'twill', THREADS[1]!.id]);
    expect((await answer<AuditSummary[]>(app.request('GET', '/api/audits'), 200)).map((a) => [a.name, a.counts.done])).toEqual([
      ['Spring order', 2],
    ]);
    await answer(app.request('DELETE', `/api/audits/${id}`), 204);
    await answer(app.request('GET', `/api/audits/${id}`), 404);
    await answer(app.request('GET', `/api/audits/${id}/events`), 404);
  }, 120_000);

  test('are cancelled with what waits left alone, take no more files then, and are refused in words where they make no sense', async () => {
    const { id } = await begin();
    await answer(send(id, 1, HERON, 'heron.csv'), 204);
    const cancelled = await answer<AuditSummary>(app.request('POST', `/api/audits/${id}/cancel`), 200);
    expect([cancelled.isCancelled, cancelled.counts.cancelled]).toEqual([true, 1]);
    expect((await answer<ProblemDetails>(send(id, 2, HERON, 'heron.csv'), 422)).detail).toMatch(/was cancelled/);
    work();
    const other = await begin('Another');
    await answer(send(other.id, 1, HERON, 'heron.csv'), 204);
    await settled(other.id);
    expect((await detail(id)).files.map(({ state }) => state)).toEqual(['cancelled']);
    await answer(app.request('POST', '/api/audits', { name: '', target }), 422);
    await answer(app.request('POST', '/api/audits', { name: 'x', target: { ...target, machine: { ...target.machine, needles: 0 } } }), 422);
    await answer(send(randomUUID(), 1, HERON, 'heron.csv'), 404);
    await answer(send(id, 999_999, HERON, 'heron.csv'), 422);
  }, 120_000);

  guardTest(
    'outlive a worker that is killed in the midst: its files come to another one, each is judged once, and a file that ends workers is left alone',
    async () => {
      const { id } = await begin();
      for (let seq = 1; seq <= 5; seq++) await answer(send(id, seq, KETTLE, `${seq}.csv`), 204);
      const first = await worker();
      while ((await detail(id)).counts.done === 0) await new Promise((resolve) => setTimeout(resolve, 30));
      first.kill('SIGKILL');
      await new Promise((resolve) => first.once('exit', resolve));
      const after = await detail(id);
      expect(after.counts.waiting).toBeGreaterThan(0);
      // As if the time had passed after which a file is taken for left behind.
      await app.models.sequelize.query(`update pgboss.job set started_on = now() - interval '10 minutes' where state = 'active'`);
      await app.queue.maintain();
      // One file ended as many workers as it may; what got lost on its way to the queue is put there again.
      await app.models.AuditFile.update({ tries: 4 }, { where: { auditId: id, seq: 5, state: 'waiting' } });
      await answer(app.request('POST', `/api/audits/${id}/resume`), 200);
      work('another machine');
      const { files, counts } = await settled(id);
      expect(counts).toEqual({ waiting: 0, done: 4, failed: 1, cancelled: 0 });
      expect(files[4]!.problem).toMatch(/ended 4 times/);
      const rows = await app.models.AuditFile.findAll({ where: { auditId: id }, order: ['seq'] });
      for (const row of rows.slice(0, 4)) expect([row.seq, row.tries <= 2]).toEqual([row.seq, true]);
      expect(new Set(rows.map(({ worker: by }) => by)).size).toBeGreaterThan(1);
      const kettle = files[0]!.audit;
      for (const { audit } of files.slice(0, 4)) expect(audit).toEqual(kettle);
    },
    120_000,
  );
});

test('the audit of a job is set on paper: a page after another, with what was kept and why', async () => {
  const job = await app.takeIn(HERON, 'heron.csv');
  const pages = async (): Promise<number> => {
    const response = await app.request('GET', `/api/jobs/${job.id}/audit.pdf`);
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    expect(response.headers.get('content-disposition')).toContain('heron-audit.pdf');
    const text = Buffer.from(await response.arrayBuffer()).toString('latin1');
    expect([text.startsWith('%PDF-1.'), text.trimEnd().endsWith('%%EOF')]).toEqual([true, true]);
    // The fonts come with it: no machine has to have them.
    expect(text.match(/\/FontFile[23]/g)!.length).toBeGreaterThanOrEqual(2);
    return text.match(/\/Type \/Page\b/g)!.length;
  };
  const before = await pages();
  const kept = Array.from({ length: 60 }, (_, k) => step(`kept for a reason of its own, the ${k}th of them`));
  await answer(app.append(job, 0, kept), 200);
  expect(await pages()).toBeGreaterThan(before);
  await answer(app.request('GET', `/api/jobs/${randomUUID()}/audit.pdf`), 404);
});
