import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { freePort } from '../e2e/freePort.ts';

const ROOT = path.resolve(import.meta.dirname, '..');

/** The built server on a database of its own, to be killed, started again and looked at from outside. */
export class TorturedServer {
  url = '';
  private readonly database: string;
  private readonly port: number;
  private readonly demo: boolean;
  private child: ChildProcess | undefined;
  /** What it wrote to its log. */
  log = '';

  private constructor(database: string, port: number, demo: boolean) {
    this.database = database;
    this.port = port;
    this.demo = demo;
    this.url = `http://127.0.0.1:${port}`;
  }

  static async onNewDatabase(database: string, hasDemo = false): Promise<TorturedServer> {
    db('start');
    db('recreate', database);
    return new TorturedServer(database, await freePort(), hasDemo);
  }

  /** Starts it; kept when it answers, or when it ended before that, with its exit code. `databasePort`: of a proxy to its database; `settings`: besides. */
  async start(databasePort?: number, settings: Readonly<Record<string, string>> = {}): Promise<number | 'running' | null> {
    const address = (...role: string[]): string => {
      const url = new URL(db('url', this.database, ...role));
      if (databasePort !== undefined) url.port = String(databasePort);
      return url.href;
    };
    const env = {
      ...process.env,
      DATABASE_URL: address('server'),
      DATABASE_OWNER_URL: address(),
      PORT: String(this.port),
      NODE_ENV: 'production',
      DEMO: this.demo ? 'on' : 'off',
      FILES_AN_HOUR: '10000000',
      ...settings,
    };
    const child = spawn(process.execPath, [path.join(ROOT, 'apps/server/dist/main.js')], { env, stdio: ['ignore', 'pipe', 'pipe'] });
    this.child = child;
    child.stderr.on('data', (data: Buffer) => (this.log += String(data)));
    return new Promise((resolve) => {
      child.stdout.on('data', (data: Buffer) => data.includes('Isola is at') && resolve('running'));
      child.once('exit', (code) => resolve(code));
    });
  }

  async kill(): Promise<void> {
    const { child } = this;
    if (child === undefined || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
  }

  /** Memory of the server and all of its processes, MB. */
  get megabytes(): number {
    const pid = this.child?.pid;
    return pid === undefined ? 0 : megabytesOf(pid);
  }

  async ask<T>(at: string, init: RequestInit = {}): Promise<{ status: number; body: T }> {
    const response = await fetch(`${this.url}/api${at}`, init);
    const text = await response.text();
    return { status: response.status, body: (text === '' ? undefined : JSON.parse(text)) as T };
  }

  post<T>(at: string, body: unknown): Promise<{ status: number; body: T }> {
    return this.ask<T>(at, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });
  }

  upload<T>(bytes: Uint8Array, name: string): Promise<{ status: number; body: T }> {
    const form = new FormData();
    form.set('file', new File([new Uint8Array(bytes)], name));
    return this.ask<T>('/jobs', { method: 'POST', body: form });
  }
}

/** Where the database listens. */
export const databasePort = (): number => Number(new URL(db('url')).port);

/** Ends the database as a lost machine does, and starts it again. */
export function killDatabase(): void {
  const pid = /pid (\d+)/.exec(db('status'))?.[1];
  if (pid !== undefined) process.kill(Number(pid), 'SIGKILL');
  db('start');
}

export function db(...args: string[]): string {
  // A test's own environment is not what a child would inherit: without it another cluster would be killed.
  const env = { ...process.env };
  return execFileSync(process.execPath, [path.join(ROOT, 'scripts/db.mjs'), ...args], { encoding: 'utf8', env }).trim();
}

function megabytesOf(pid: number): number {
  try {
    const own = (Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096) / 1048576;
    const children = readdirSync(`/proc/${pid}/task`).flatMap((task) =>
      readFileSync(`/proc/${pid}/task/${task}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number),
    );
    return children.reduce((sum, child) => sum + megabytesOf(child), own);
  } catch {
    return 0;
  }
}

/** Numbers that look like chance and are the same in every run (mulberry32, T. Ettinger 2017, public domain). */
export function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
}

/** A step that any job takes: a place of a finding is kept. */
export const stepNamed = (name: string) => ({
  id: crypto.randomUUID(),
  kind: 'do' as const,
  name,
  operation: { id: 'keep-finding' as const, places: [name], rule: 'needless-trim', title: name, reason: 'under torture' },
});
