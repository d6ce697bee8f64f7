import { randomUUID } from 'node:crypto';
import type { MiddlewareHandler } from 'hono';
import { log } from '../log.ts';
import { addressOf } from './addressOf.ts';

/** Has each request that was answered in the log, for programs that gather it; its id is told to who asked, so that both can speak of the same. */
export const noteRequest: MiddlewareHandler = async (c, next) => {
  const request = randomUUID();
  const begun = performance.now();
  c.header('X-Request-Id', request);
  await next();
  const milliseconds = Math.round(performance.now() - begun);
  const who = c.get('person')?.name;
  const { method, path } = c.req;
  log.request({ request, method, path, status: c.res.status, milliseconds, address: addressOf(c), ...(who === undefined ? {} : { who }) });
};
