import { afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import net from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { JobDetail, JobSummary } from '@isola/contract';
import { Sequelize } from 'sequelize';
import { guardTest } from './testing/guardTest.ts';

// The built server as a process of its own: how it starts, what it says when it cannot, and how it ends.

const ROOT = path.resolve(import.meta.dirname, '../../..');
const running = new Set<ChildProcess>();
let url = '';

beforeAll(async () => {
  const { start } = (await import(path.join(ROOT, 'scripts/db.mjs'))) as {
    start: (options: { quiet: boolean; databases: string[] }) => Promise<string>;
  };
  url = await start({ quiet: true, databases: ['isola_main_test'] });
}, 180_000);
afterEach(() => running.forEach((child) => child.kill('SIGKILL')));

async function empty(): Promise<void> {
  const bare = new Sequelize(url, { logging: false });
  await bare.query('drop schema public cascade; create schema public');
  await bare.close();
}

interface Started {
  readonly child: ChildProcess;
  readonly port: number;
  readonly ended: Promise<number | null>;
}

/** Starts the server and waits for its address, or gives what it said when it ended instead. */
async function start(environment: Record<string, string>): Promise<Started | { said: string; code: number | null }> {
  const env = { PATH: process.env.PATH, DATABASE_URL: url, WEB_DIR: path.join(ROOT, 'apps/web'), ...environment } as NodeJS.ProcessEnv;
  const child = spawn(process.execPath, [path.join(ROOT, 'apps/server/dist/main.js')], { env, stdio: ['ignore', 'pipe', 'pipe'] });
  running.add(child);
  let said = '';
  child.stderr.on('data', (data: Buffer) => (said += String(data)));
  const ended = new Promise<number | null>((resolve) => child.once('exit', (code) => resolve((running.delete(child), code))));
  return new Promise((resolve) => {
    child.stdout.on('data', (data: Buffer) => {
      const port = /Isola is at http:\/\/localhost:(\d+)/.exec(String(data))?.[1];
      if (port !== undefined) resolve({ child, port: Number(port), ended });
    });
    void ended.then((code) => resolve({ said, code }));
  });
}

async function started(environment: Record<string, string> = {}): Promise<Started> {
  const got = await start({ PORT: '0', ...environment });
  if ('said' in got) throw new Error(got.said);
  return got;
}

async function read<T>(port: number, at: string, init: RequestInit = {}): Promise<T> {
  const response = await fetch(`http://localhost:${port}/api${at}`, init);
  return (await response.json()) as T;
}

describe('the server as a process', () => {
  guardTest(
    'fills an empty database once; what was deleted stays deleted after a restart, what was done stays done',
    async () => {
      await empty();
      const first = await started();
      const jobs = await read<JobSummary[]>(first.port, '/jobs');
      expect(jobs.length).toBeGreaterThanOrEqual(4);
      for (const job of jobs) expect(job.now.stitches).toBeGreaterThan(500);
      expect(await read(first.port, '/health')).toMatchObject({ status: 'ok' });
      const [gone, stays] = jobs;
      await fetch(`http://localhost:${first.port}/api/jobs/${gone!.id}`, { method: 'DELETE' });
      const entry = {
        id: crypto.randomUUID(),
        kind: 'do',
        name: 'kept',
        operation: { id: 'keep-finding', places: ['k'], rule: 'long-stitch', title: 't', reason: 'so it is' },
      };
      await read(first.port, `/jobs/${stays!.id}/journal`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ baseVersion: 0, entries: [entry] }),
      });
      // Killed without warning right after the answer: what was acknowledged is there.
      first.child.kill('SIGKILL');
      await first.ended;
      const second = await started();
      const left = await read<JobSummary[]>(second.port, '/jobs');
      expect(left.map((j) => j.id).sort()).toEqual(
        jobs
          .slice(1)
          .map((j) => j.id)
          .sort(),
      );
      const detail = await read<JobDetail>(second.port, `/jobs/${stays!.id}`);
      expect(detail.journal.map((r) => r.entry)).toEqual([entry]);
      second.child.kill('SIGTERM');
      expect(await second.ended).toBe(0);
    },
    180_000,
  );

  test('a request that runs when it is told to end is still answered', async () => {
    await empty();
    const { child, port, ended } = await started({ DEMO: 'off' });
    expect(await read<JobSummary[]>(port, '/jobs')).toEqual([]);
    const bytes = readFileSync(path.join(ROOT, 'demo/birch.csv'));
    const form = new FormData();
    form.set('file', new File([bytes], 'birch.csv'));
    const whole = Buffer.from(await new Response(form).arrayBuffer());
    const type = `multipart/form-data; boundary=${/--(\S+)/.exec(whole.toString('latin1'))![1]}`;
    const answer = new Promise<{ status: number; body: string }>((resolve, reject) => {
      const headers = { 'Content-Type': type, 'Content-Length': whole.length, Host: `localhost:${port}` };
      const request = http.request({ port, host: '127.0.0.1', path: '/api/jobs', method: 'POST', headers }, (response) => {
        let body = '';
        response.on('data', (data: Buffer) => (body += String(data)));
        response.on('end', () => resolve({ status: response.statusCode!, body }));
      });
      request.on('error', reject);
      request.write(whole.subarray(0, 2000));
      setTimeout(() => {
        child.kill('SIGTERM');
        setTimeout(() => request.end(whole.subarray(2000)), 150);
      }, 150);
    });
    const { status, body } = await answer;
    expect([status, (JSON.parse(body) as JobSummary).fileName]).toEqual([201, 'birch.csv']);
    expect(await ended).toBe(0);
    const again = await started({ DEMO: 'off' });
    expect((await read<JobSummary[]>(again.port, '/jobs')).map((j) => j.fileName)).toEqual(['birch.csv']);
  }, 180_000);

  test('a port that was asked for and is taken, settings without sense and a dead database end it in words', async () => {
    const other = net.createServer();
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve));
    const { port } = other.address() as net.AddressInfo;
    const taken = await start({ PORT: String(port), DEMO: 'off' });
    await new Promise((resolve) => other.close(resolve));
    expect(taken).toMatchObject({ code: 1, said: expect.stringContaining(`Port ${port} is taken by another program`) });
    const senseless = await start({ PORT: 'many', DATABASE_URL: 'file:///etc/passwd' });
    expect(senseless).toMatchObject({ code: 1, said: expect.stringContaining('Settings: ') });
    expect('said' in senseless && /PORT/.test(senseless.said) && /DATABASE_URL/.test(senseless.said)).toBe(true);
    const dead = await start({ DATABASE_URL: 'postgres://localhost:1/none' });
    expect(dead).toMatchObject({ code: 1 });
  }, 180_000);

  guardTest(
    'demo files that are not there are said, and nothing of a half-filled shop is taken for a full one',
    async () => {
      await empty();
      const bare = mkdtempSync(path.join(tmpdir(), 'isola-demo-'));
      expect(await start({ PORT: '0', DEMO_DIR: bare })).toMatchObject({ code: 1, said: expect.stringContaining('.csv') });
      writeFileSync(path.join(bare, 'note.txt'), 'still nothing to sew');
      const { port } = await started();
      expect((await read<JobSummary[]>(port, '/jobs')).length).toBeGreaterThanOrEqual(4);
    },
    180_000,
  );
});
