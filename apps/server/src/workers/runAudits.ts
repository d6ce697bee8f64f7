import { setTimeout as wait } from 'node:timers/promises';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { layoutOfName, type LayoutRecord } from '@isola/core';
import type PgBoss from 'pg-boss';
import type { Models } from '../db/models/index.ts';
import { AUDIT_QUEUE, type AuditTask } from '../db/queue.ts';
import type { DesignPool } from './DesignPool.ts';
import { PoolClosed, TookTooLong, TookTooMuch, WorkerDied } from './poolErrors.ts';

/** So many files are taken out of the queue at once: fewer leave less behind when a worker is killed. */
const AT_ONCE = 3;
/** So long (ms) a worker rests where nothing waits. */
const REST = 400;
/** A file over which so many workers ended is left alone. */
const MOST_TRIES = 4;

const unpack = promisify(gunzip);

export interface AuditWork {
  readonly models: Models;
  readonly boss: PgBoss;
  readonly pool: DesignPool;
  /** By what it is known who judged a file. */
  readonly name: string;
}

/** Judges files out of the queue, one after another, until it is told to end. What it gives back ends it, after the file in hand. */
export function runAudits(work: AuditWork): () => Promise<void> {
  let isEnding = false;
  const running = (async () => {
    while (!isEnding) {
      const tasks = await work.boss.fetch<AuditTask>(AUDIT_QUEUE, { batchSize: AT_ONCE });
      for (const { id, data } of tasks) {
        try {
          await judge(work, data);
          await work.boss.complete(AUDIT_QUEUE, id);
        } catch (error) {
          // The database went away, or this worker is ending: the file comes to a worker once more.
          if (!(error instanceof PoolClosed)) console.error(`The audit of file ${data.seq} is tried again:`, error);
          await work.boss.fail(AUDIT_QUEUE, id).catch(() => undefined);
        }
      }
      if (tasks.length === 0) await wait(REST);
    }
  })();
  return async () => {
    isEnding = true;
    await running;
  };
}

async function judge({ models, pool, name }: AuditWork, { auditId, seq }: AuditTask): Promise<void> {
  const [file, audit] = await Promise.all([models.AuditFile.findOne({ where: { auditId, seq } }), models.Audit.findByPk(auditId)]);
  // It was judged by another worker that was slow, or nobody wants it any more.
  if (file === null || audit === null || file.state !== 'waiting' || audit.cancelledAt !== null) return;
  if (file.tries >= MOST_TRIES) {
    await file.update({ state: 'failed', problem: `Workers ended ${file.tries} times over this file.`, finishedAt: new Date() });
    return;
  }
  await file.update({ tries: file.tries + 1 });
  const layouts = await models.ShopRecord.findAll({ where: { kind: 'layouts' } });
  const layout = layoutOfName(
    layouts.map(({ data }) => data as LayoutRecord),
    file.name,
  )?.layout;
  const began = performance.now();
  const found = await pool
    .run('audit', { bytes: await unpack(file.bytes), target: audit.target, layout })
    .then((answer) => ('audit' in answer ? { result: answer.audit } : { problem: answer.refused.message }))
    .catch((error: unknown) => {
      if (error instanceof TookTooLong || error instanceof TookTooMuch || error instanceof WorkerDied) return { problem: error.message };
      throw error;
    });
  await models.AuditFile.update(
    {
      ...{ state: 'result' in found ? 'done' : 'failed', ...found, worker: name },
      ...{ milliseconds: Math.round(performance.now() - began), finishedAt: new Date() },
    },
    { where: { auditId, seq, state: 'waiting' } },
  );
}
