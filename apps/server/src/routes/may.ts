import type { Role } from '@isola/contract';
import type { Context, MiddlewareHandler } from 'hono';
import { matchedRoutes } from 'hono/route';

/** Who may ask a route: anybody, signed in or not; else those in this role, and in the roles that may more. */
export type Asker = 'anybody' | Role;

/** What stands at a route about who asks it, what it takes and what is written of it. */
export interface RouteTerms {
  readonly asker: Asker;
  /**
   * What its body may be. `small`: up to 1 MB, which the application sees to. Of others the route itself says how large: `steps`; `file`, which needs
   * room and counts against what its sender may send; `listed-file`, one of a list that has a limit of its own.
   */
  readonly takes: 'small' | 'steps' | 'file' | 'listed-file';
  /** What is noted of a request that changes something: what somebody did, in words; nothing where that is told elsewhere or is no event. */
  readonly says: string | undefined;
}

const RANKS: Readonly<Record<Role, number>> = { guest: 1, operator: 2, digitizer: 3, owner: 4 };
const TERMS = Symbol('terms of a route');
type Marked = MiddlewareHandler & { readonly [TERMS]?: RouteTerms };

/** The terms of a route, put before its handler. They are read before anything of the route runs ({@link termsOf}); by itself this does nothing. */
export function may(asker: Asker, { says, takes = 'small' }: { readonly says?: string; readonly takes?: RouteTerms['takes'] } = {}) {
  const handler: MiddlewareHandler = (_, next) => next();
  return Object.assign(handler, { [TERMS]: { asker, takes, says } satisfies RouteTerms });
}

/** The terms of the route that a request is for; nothing where there is no such route. */
export function termsOf(c: Context): RouteTerms | undefined {
  return matchedRoutes(c)
    .map(({ handler }) => (handler as Marked)[TERMS])
    .find((terms) => terms !== undefined);
}

/** The terms that a handler carries, where it does. */
export const termsOfHandler = (handler: unknown): RouteTerms | undefined => (handler as Marked)[TERMS];

/** Whether somebody in a role (none: not signed in) may ask what has such terms. What is nowhere is refused to nobody who is signed in. */
export function mayAsk(terms: RouteTerms | undefined, role: Role | undefined): 'yes' | 'sign-in' | 'refused' {
  if (terms?.asker === 'anybody') return 'yes';
  if (role === undefined) return 'sign-in';
  return terms === undefined || RANKS[role] >= RANKS[terms.asker] ? 'yes' : 'refused';
}
