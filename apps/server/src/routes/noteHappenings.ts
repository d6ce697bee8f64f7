import type { MiddlewareHandler } from 'hono';
import type { Happenings } from '../services/Happenings.ts';
import { log } from '../log.ts';
import { addressOf } from './addressOf.ts';
import { termsOf } from './may.ts';

/** Notes each request that is to change something, with what it was answered, before it is answered: what is done and not noted there is not. */
export function noteHappenings(happenings: Happenings): MiddlewareHandler {
  return async (c, next) => {
    await next();
    const { method, path } = c.req;
    const terms = termsOf(c);
    // Of what is nowhere it is noted that it was asked for.
    if (method === 'GET' || method === 'HEAD' || (terms !== undefined && terms.says === undefined)) return;
    const { status } = c.res;
    await happenings
      .note({ who: c.get('person')?.name ?? null, address: addressOf(c), method, path, words: terms?.says ?? null, status })
      .catch((error: unknown) => log.error('what happened could not be noted', error));
  };
}
