import { execFileSync, spawnSync } from 'node:child_process';
import { closeSync, fsyncSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import path from 'node:path';
import type { JobDetail, JobSummary } from '@isola/contract';
import { db, stepNamed, TorturedServer, wait } from './TorturedServer.ts';

export interface DiskOutcome {
  readonly acknowledged: number;
  /** How often each status was answered while the disk was full. */
  readonly byStatus: Readonly<Record<number, number>>;
  /** What health said meanwhile. */
  readonly health: string;
  readonly faults: readonly string[];
}

/** Lets the disk of the database run full under uploads and steps, then makes room; nothing where no small disk can be mounted (that takes root). */
export async function fillDisk(): Promise<DiskOutcome | undefined> {
  const cluster = 'postgres-small';
  const folder = path.join(process.cwd(), '.data', cluster);
  mkdirSync(folder, { recursive: true });
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=160m', 'tmpfs', folder]).status !== 0) return undefined;
  const usual = process.env['DB_CLUSTER'];
  process.env['DB_CLUSTER'] = cluster;
  process.env['DATABASE_DIR'] = folder;
  try {
    return await fillUnder(folder);
  } finally {
    db('stop');
    execFileSync('umount', [folder]);
    process.env['DB_CLUSTER'] = usual;
    delete process.env['DATABASE_DIR'];
  }
}

async function fillUnder(folder: string): Promise<DiskOutcome> {
  const server = await TorturedServer.onNewDatabase('isola_torture');
  await server.start();
  const file = readFileSync('demo/birch.csv');
  const { body: job } = await server.upload<JobSummary>(file, 'birch.csv');
  const faults: string[] = [];
  const byStatus: Record<number, number> = {};
  const acknowledged: string[] = [];
  let [version, entry] = [0, stepNamed('0')];
  const step = async (): Promise<number> => {
    const answer = await server.post<JobSummary>(`/jobs/${job.id}/journal`, { baseVersion: version, entries: [entry] });
    if (answer.status === 200) {
      acknowledged.push(entry.id);
      version = answer.body.version;
      entry = stepNamed(String(version));
    }
    return answer.status;
  };
  if ((await step()) !== 200) faults.push('a step was refused while there was room');

  const filler = path.join(folder, 'filler');
  fill(filler);
  for (let k = 0; k < 40; k++) {
    const status = k % 4 === 3 ? (await server.upload(file, 'birch.csv')).status : await step();
    byStatus[status] = (byStatus[status] ?? 0) + 1;
    if (status === 500) faults.push('answered with 500');
    // What is left of pages that are there already is used up.
    fill(filler);
  }
  const health = (await server.ask<{ status: string }>('/health')).body.status;
  if (health === 'ok') faults.push('health says nothing of it');

  rmSync(filler);
  db('start');
  let isBack = false;
  for (let k = 0; k < 40 && !isBack; k++) {
    isBack = (await step()) === 200;
    if (!isBack) await wait(250);
  }
  if (!isBack) faults.push('no step is taken after there is room again');
  const { body } = await server.ask<JobDetail>(`/jobs/${job.id}?from=start`);
  const stored = body.journal.map((record) => record.entry.id);
  if (stored.join() !== acknowledged.join()) faults.push(`${acknowledged.length} steps were acknowledged, ${stored.length} are there`);
  if (server.log.includes('    at ')) faults.push(`in the log: ${server.log.slice(0, 400)}`);
  await server.kill();
  return { acknowledged: acknowledged.length, byStatus, health, faults: [...new Set(faults)] };
}

/** Writes to a file until there is no room for more. */
function fill(file: string): void {
  const out = openSync(file, 'a');
  try {
    for (const size of [1_048_576, 4096, 256]) {
      const piece = Buffer.alloc(size, 1);
      try {
        for (;;) writeSync(out, piece);
      } catch {
        // Full.
      }
    }
    fsyncSync(out);
  } finally {
    closeSync(out);
  }
}
