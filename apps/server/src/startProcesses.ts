import cluster, { type Worker } from 'node:cluster';
import { log } from './log.ts';

/** A process that ended is started again after this (ms); one that ends at once again and again is not worth more. */
const AGAIN = 1000;
/** The end of this process: all that it started have to have ended by then (ms). */
const LONGEST_WAIT = 25_000;

/**
 * Starts server processes that answer at one address, of which each is as any other: what one of them knows and another needs is in the database. One
 * that ends is started again. Gives nothing back: what goes on is done by them.
 */
export function startProcesses(count: number, auditWorkers: number): void {
  let isEnding = false;
  const places = new Map<number, number>();
  const start = (place: number): Worker => {
    // Audits have as many workers as were asked for, all of them beside the first.
    const worker = cluster.fork({ PROCESS: String(place), AUDIT_WORKERS: String(place === 0 ? auditWorkers : 0) });
    places.set(worker.id, place);
    return worker;
  };
  // The first one brings the database up to date and fills it, before the others begin.
  start(0).once('listening', () => {
    for (let k = 1; k < count; k++) start(k);
  });
  cluster.on('exit', (worker, code, signal) => {
    if (isEnding) return;
    // A server that cannot start says why; that is no better the next time.
    if (!worker.exitedAfterDisconnect && code === 1 && Object.keys(cluster.workers ?? {}).length === 0) process.exit(1);
    log.warn('a process of the server ended and is started again', signal || code);
    setTimeout(() => start(places.get(worker.id) ?? 0), AGAIN);
  });
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => {
      isEnding = true;
      const left = Object.values(cluster.workers ?? {}).filter((worker) => worker !== undefined);
      for (const worker of left) worker.process.kill('SIGTERM');
      const look = setInterval(() => {
        if (left.every((worker) => worker.isDead())) process.exit(0);
      }, 50);
      setTimeout(() => {
        clearInterval(look);
        for (const worker of left) worker.process.kill('SIGKILL');
        process.exit(1);
      }, LONGEST_WAIT).unref();
    });
}
