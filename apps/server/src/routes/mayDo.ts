import type { Role } from '@isola/contract';

/** What anybody may ask, signed in or not: who they are, to be let in, and how the server is. */
const OPEN: readonly (readonly [method: string, path: RegExp])[] = [
  ['GET', /^\/api\/session$/],
  ['POST', /^\/api\/session(\/join|\/invitation)?$/],
  ['DELETE', /^\/api\/session$/],
  ['GET', /^\/api\/(health|metrics)$/],
];

/** What everybody who is signed in may do besides looking: for themselves, and say what they look at. */
const OWN: readonly (readonly [method: string, path: RegExp])[] = [
  ['DELETE', /^\/api\/session\/everywhere$/],
  ['PUT', /^\/api\/session\/password$/],
  ['PUT', /^\/api\/jobs\/[^/]+\/here$/],
  ['DELETE', /^\/api\/jobs\/[^/]+\/here\/[^/]+$/],
];

/** What an operator may do besides looking: record samples with their photos, and take orders off the board. */
const OPERATING: readonly (readonly [method: string, path: RegExp])[] = [
  ['POST', /^\/api\/sew-outs(\/[^/]+\/photos)?$/],
  ['PUT', /^\/api\/sew-outs\/([^/]+|photos\/[^/]+)$/],
  ['DELETE', /^\/api\/sew-outs\/photos\/[^/]+$/],
  ['PUT', /^\/api\/board$/],
];

/** What the owner alone does. */
const OWNERS = /^\/api\/(people|export)(\/|$)/;

const isOf = (list: typeof OPEN, method: string, path: string): boolean => list.some(([m, p]) => m === method && p.test(path));

/** Whether somebody in a role (none: not signed in) may ask something. */
export function mayDo(method: string, path: string, role: Role | undefined): 'yes' | 'sign-in' | 'refused' {
  if (isOf(OPEN, method, path)) return 'yes';
  if (role === undefined) return 'sign-in';
  if (OWNERS.test(path)) return role === 'owner' ? 'yes' : 'refused';
  if (method === 'GET' || method === 'HEAD' || isOf(OWN, method, path)) return 'yes';
  if (role === 'owner' || role === 'digitizer') return 'yes';
  return role === 'operator' && isOf(OPERATING, method, path) ? 'yes' : 'refused';
}
