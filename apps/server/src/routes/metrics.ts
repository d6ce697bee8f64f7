import { type Context, Hono, type MiddlewareHandler } from 'hono';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { Problem } from '../problem.ts';
import type { Models } from '../db/models/index.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import { remoteOf } from './addressOf.ts';
import { may } from './may.ts';

const LOOPBACK = /^(127\.|::1$|::ffff:127\.)/;
/** Seconds, from a list that is read to a file that is recognized. */
const BUCKETS = [0.005, 0.02, 0.05, 0.1, 0.3, 1, 3, 10, 30];
/** By what requests are told apart; whatever else is asked for is one more, so that nobody can make up new ones. */
const PARTS = ['jobs', 'shop', 'audits', 'sew-outs', 'board', 'people', 'session', 'events', 'health', 'metrics'];
const partOf = (path: string): string => PARTS.find((part) => path.split('/')[2] === part) ?? 'other';

/** Figures of the server in the text format that monitoring programs read, and what takes them. */
export function createMetrics(models: Models, pool: DesignPool): { readonly take: MiddlewareHandler; readonly routes: Hono } {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const registers = [registry];
  const requests = new Counter({
    name: 'isola_requests_total',
    help: 'Requests answered, by status',
    labelNames: ['method', 'status'],
    registers,
  });
  const seconds = new Histogram({
    ...{
      name: 'isola_request_seconds',
      help: 'Seconds until a request was answered',
      labelNames: ['method', 'part'],
      buckets: BUCKETS,
      registers,
    },
  });
  const jobs = new Gauge({ name: 'isola_jobs', help: 'Jobs that are not deleted', registers });
  const waiting = new Gauge({ name: 'isola_audit_files_waiting', help: 'Files of audits that wait to be judged', registers });
  const work = new Gauge({
    name: 'isola_work',
    help: 'Pieces of work in the processes that compute',
    labelNames: ['lane', 'state'],
    registers,
  });

  const routes = new Hono();
  routes.get('/', may('anybody'), async (c) => {
    if (!isFromHere(c)) throw new Problem(403, 'Not yours to read', 'Figures of the server are told to programs of its own machine only.');
    const [jobCount, waitingCount] = await Promise.all([models.Job.count(), models.AuditFile.count({ where: { state: 'waiting' } })]);
    jobs.set(jobCount);
    waiting.set(waitingCount);
    for (const [lane, states] of Object.entries(pool.state))
      for (const [state, count] of Object.entries(states as Record<string, unknown>))
        if (typeof count === 'number') work.set({ lane, state }, count);
    return c.body(await registry.metrics(), 200, { 'Content-Type': registry.contentType });
  });

  const take: MiddlewareHandler = async (c, next) => {
    const end = seconds.startTimer({ method: c.req.method, part: partOf(c.req.path) });
    await next();
    end();
    requests.inc({ method: c.req.method, status: String(c.res.status) });
  };
  return { take, routes };
}

/** Of a program on this machine, not of a page that a proxy on it lets in. */
function isFromHere(c: Context): boolean {
  const address = remoteOf(c);
  return c.req.header('x-forwarded-for') === undefined && (address === 'unknown' || LOOPBACK.test(address));
}
