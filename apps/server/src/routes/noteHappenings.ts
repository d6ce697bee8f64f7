import type { MiddlewareHandler } from 'hono';
import type { Happenings } from '../services/Happenings.ts';
import { log } from '../log.ts';
import { addressOf } from './addressOf.ts';

/** Steps say themselves who made them and when; that a window is still open is nothing that happened. */
const UNNOTED = /^\/api\/jobs\/[^/]+\/(journal|here(\/[^/]+)?)$/;

/** Notes each request that is to change something, with what it was answered, before it is answered: what is done and not noted there is not. */
export function noteHappenings(happenings: Happenings): MiddlewareHandler {
  return async (c, next) => {
    await next();
    const { method, path } = c.req;
    if (method === 'GET' || method === 'HEAD' || UNNOTED.test(path)) return;
    const { status } = c.res;
    await happenings
      .note({ who: c.get('person')?.name ?? null, address: addressOf(c), method, path, status })
      .catch((error: unknown) => log.error('what happened could not be noted', error));
  };
}
