import { getConnInfo } from '@hono/node-server/conninfo';
import type { Context, MiddlewareHandler } from 'hono';
import proxyAddress from 'proxy-addr';

declare module 'hono' {
  interface ContextVariableMap {
    /** From where somebody asks. */
    address: string;
  }
}

/** Finds from where each request comes: what a proxy says is believed of `proxies` alone, since anybody can say it. */
export function findAddress(proxies: readonly string[]): MiddlewareHandler {
  const isTrusted = proxyAddress.compile([...proxies]);
  return async (c, next) => {
    const remote = remoteOf(c);
    const said = { connection: { remoteAddress: remote }, headers: { 'x-forwarded-for': c.req.header('x-forwarded-for') } };
    c.set('address', remote === 'unknown' ? remote : (proxyAddress(said as never, isTrusted) ?? remote));
    await next();
  };
}

/** From where a request comes, as its proxies say where they are believed; `unknown` without a network. */
export const addressOf = (c: Context): string => c.get('address');

/** Of the other end of a connection, which may be a proxy; without a network (tests) there is none. */
export function remoteOf(c: Context): string {
  try {
    return getConnInfo(c).remote.address ?? 'unknown';
  } catch {
    return 'unknown';
  }
}
