import { getConnInfo } from '@hono/node-server/conninfo';
import type { Context } from 'hono';

/** Of the other end of a connection, which may be a proxy; without a network (tests) there is none. */
export function addressOf(c: Context): string {
  try {
    return getConnInfo(c).remote.address ?? 'unknown';
  } catch {
    return 'unknown';
  }
}
