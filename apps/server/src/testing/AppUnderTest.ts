import { afterAll, beforeAll, beforeEach, expect } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { JobSummary } from '@isola/contract';
import { type JournalEntry, type Program, readStitchFile } from '@isola/core';
import type { Hono } from 'hono';
import type PgBoss from 'pg-boss';
import { createApp } from '../app.ts';
import { connectDatabase } from '../db/connect.ts';
import type { Models } from '../db/models/index.ts';
import { openQueue, stop as stopQueue } from '../db/queue.ts';
import { Audits } from '../services/Audits.ts';
import { Bus } from '../services/Bus.ts';
import { JobService } from '../services/JobService.ts';
import { SewOuts } from '../services/SewOuts.ts';
import { ShopService } from '../services/ShopService.ts';
import { DesignPool, LANES } from '../workers/DesignPool.ts';
import { databaseForTest } from './databaseForTest.ts';

const ROOT = path.resolve(import.meta.dirname, '../../../..');
export const HERON = readFileSync(path.join(ROOT, 'demo/heron.csv'));
/** The smallest design of the demo, for what any design shows. */
export const BIRCH = readFileSync(path.join(ROOT, 'demo/birch.csv'));
export const CONFIG = { host: '127.0.0.1', databaseDir: undefined, webDir: path.join(ROOT, 'apps/web') };

const IMPATIENT = { isPatient: false };
/** Work that gives way to other processes would wait for the checks that run beside the tests. */
const WITHOUT_PATIENCE = { edits: LANES.edits, files: { ...LANES.files, ...IMPATIENT }, audits: { ...LANES.audits, ...IMPATIENT } };

/** The whole server on a database of its own, asked without a network. Every test begins without jobs. */
export class AppUnderTest {
  models!: Models;
  pool!: DesignPool;
  queue!: PgBoss;
  bus!: Bus;
  jobs!: JobService;
  private app!: Hono;
  private url = '';

  /** Of its database. */
  get address(): string {
    return this.url;
  }

  private readonly isCounting: boolean;

  /** `isCounting`: what is found is counted after steps, as it is in a server; most tests do not ask for it. */
  constructor(database: string, { isCounting = false } = {}) {
    this.isCounting = isCounting;
    beforeAll(async () => {
      this.url = await databaseForTest(database);
      await this.start();
    }, 60_000);
    afterAll(() => this.stop());
    beforeEach(() => this.models.Job.destroy({ where: {}, force: true }));
  }

  async start(): Promise<void> {
    this.models = await connectDatabase(this.url);
    this.pool = new DesignPool(path.join(ROOT, 'apps/server/dist/design.worker.js'), WITHOUT_PATIENCE);
    this.queue = await openQueue(this.url, (error) => console.error(error), false);
    this.bus = new Bus(this.models, this.url);
    await this.bus.open();
    const jobs = new JobService(this.models, this.pool, this.bus);
    this.jobs = jobs;
    if (!this.isCounting) jobs.recounts.close();
    this.app = createApp(CONFIG, {
      models: this.models,
      bus: this.bus,
      jobs,
      audits: new Audits(this.models, this.queue, jobs),
      sewOuts: new SewOuts(this.models),
      shop: new ShopService(this.models),
      pool: this.pool,
    });
  }

  async stop(): Promise<void> {
    this.jobs.recounts.close();
    await this.pool.close();
    await this.bus.close();
    await stopQueue(this.queue);
    await this.models.sequelize.close();
  }

  request(method: string, at: string, body?: unknown, headers: Record<string, string> = {}): Promise<Response> {
    const init = {
      method,
      headers: {
        host: 'localhost',
        ...(body === undefined || body instanceof FormData ? {} : { 'Content-Type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: body instanceof FormData ? body : JSON.stringify(body) }),
    };
    return Promise.resolve(this.app.request(`http://localhost${at}`, init));
  }

  upload(bytes: Uint8Array, name = 'heron.csv'): Promise<Response> {
    const form = new FormData();
    form.set('file', new File([new Uint8Array(bytes)], name));
    return this.request('POST', '/api/jobs', form);
  }

  takeIn(bytes = BIRCH, name = 'birch.csv'): Promise<JobSummary> {
    return answer<JobSummary>(this.upload(bytes, name), 201);
  }

  /** Somebody answers for files of a job as it is, whatever stands against it. */
  async sign(job: Pick<JobSummary, 'id'>, baseVersion: number): Promise<void> {
    await answer(this.request('POST', `/api/jobs/${job.id}/sign-offs`, { baseVersion, who: 'Ada', reason: 'for this test' }), 201);
  }

  /** What a release is sent with where nothing but the cautions is to be signed. */
  release(
    job: Pick<JobSummary, 'id'>,
    baseVersion: number,
    reasons: Readonly<Record<string, string>> = { cautions: 'read' },
  ): Promise<Response> {
    const release = { baseVersion, name: 'Released', isRelease: true, who: 'Ada', reasons };
    return this.request('POST', `/api/jobs/${job.id}/revisions`, release);
  }

  append(job: Pick<JobSummary, 'id'>, baseVersion: number, entries: readonly JournalEntry[]): Promise<Response> {
    return this.request('POST', `/api/jobs/${job.id}/journal`, { baseVersion, entries });
  }
}

/** The body of an answer that has to have this status. */
export async function answer<T>(response: Promise<Response>, status: number): Promise<T> {
  const got = await response;
  const text = await got.text();
  expect({ status: got.status, text: got.status === status ? '' : text }).toEqual({ status, text: '' });
  return (text === '' ? undefined : JSON.parse(text)) as T;
}

export function heron(): Program {
  const read = readStitchFile(HERON);
  if (!read.ok) throw new Error(read.error.message);
  return read.value.program;
}

export const step = (name: string): JournalEntry => ({
  id: randomUUID(),
  kind: 'do',
  name,
  operation: { id: 'keep-finding', places: [name], rule: 'needless-trim', title: name, reason: 'wanted so' },
});
