import { type Person, type Session, ROLES } from '@isola/contract';
import { type Context, Hono, type MiddlewareHandler } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { z } from 'zod';
import { Problem } from '../problem.ts';
import type { Happenings } from '../services/Happenings.ts';
import type { Begun, People } from '../services/People.ts';
import { addressOf } from './addressOf.ts';
import { validate } from './validate.ts';
import { may, mayAsk, termsOf } from './may.ts';

const COOKIE = 'isola_session';
const Name = z.string().trim().min(1, 'say your name').max(200);
/** As NIST SP 800-63B has it: length counts, and no rules of what has to be in it. */
const Password = z.string().min(10, 'at least ten characters').max(200);
const SignIn = z.object({ name: Name, password: z.string().min(1).max(200) });
const Join = z.object({ token: z.string().min(10).max(100), name: Name, password: Password });
const Token = z.object({ token: z.string().min(10).max(100) });
const PersonId = z.object({ id: z.uuid({ error: 'no person has such an id' }) });
const Changed = z.object({ role: z.enum(ROLES).optional(), isOut: z.boolean().optional() });
const Before = z.object({ before: z.coerce.number().int().positive().optional() });
const NewPassword = z.object({ old: z.string().min(1).max(200), password: Password });

declare module 'hono' {
  interface ContextVariableMap {
    /** Who asks, where accounts are asked for. */
    person: Person | undefined;
  }
}

/** Who asks, by the session of their browser; what they may not do is refused. Where `people` is none there are no accounts, and everybody may do everything. */
export function guard(people: People | undefined): MiddlewareHandler {
  return async (c, next) => {
    if (people === undefined) return next();
    const token = tokenOf(c);
    const person = token === undefined ? undefined : await people.who(token);
    c.set('person', person);
    const wanted = mayAsk(termsOf(c), person?.role);
    if (wanted === 'sign-in') throw new Problem(401, 'Sign in first', 'This shop asks who you are. Sign in, then go on where you were.');
    if (wanted === 'refused')
      throw new Problem(403, 'Not yours to do', `Who is here as ${person!.role} may not do this. Ask an owner of the shop.`);
    return next();
  };
}

/** What a browser shows of its session, which may be over. */
export const tokenOf = (c: Context): string | undefined => getCookie(c, COOKIE);

/** The name under which something is done: that of the account, or what was given where there are none. */
export function signedBy(c: Context, given: string): string {
  return c.get('person')?.name ?? given;
}

export function sessionRoutes(people: People | undefined): Hono {
  const app = new Hono();

  app.get('/', may('anybody'), (c) => c.json({ hasAccounts: people !== undefined, person: c.get('person') ?? null } satisfies Session));
  if (people === undefined) return app;

  app.post('/', may('anybody', { says: 'signed in' }), validate('json', SignIn), async (c) => {
    const { name, password } = c.req.valid('json');
    return welcome(c, await people.signIn(name, password, { address: addressOf(c), agent: agentOf(c) }));
  });

  app.delete('/', may('anybody', { says: 'signed out' }), async (c) => {
    const token = tokenOf(c);
    if (token !== undefined) await people.signOut(token);
    deleteCookie(c, COOKIE, { path: '/' });
    return c.body(null, 204);
  });

  app.delete('/everywhere', may('guest', { says: 'signed out everywhere' }), async (c) => {
    const person = c.get('person');
    if (person !== undefined) await people.signOutEverywhere(person.id);
    deleteCookie(c, COOKIE, { path: '/' });
    return c.body(null, 204);
  });

  app.put('/password', may('guest', { says: 'changed their password' }), validate('json', NewPassword), async (c) => {
    const { old, password } = c.req.valid('json');
    await people.changePassword(c.get('person')!.id, old, password, tokenOf(c)!);
    return c.body(null, 204);
  });

  app.post('/invitation', may('anybody', { says: 'opened an invitation' }), validate('json', Token), async (c) =>
    c.json(await people.invitation(c.req.valid('json').token)),
  );

  app.post('/join', may('anybody', { says: 'came in by an invitation' }), validate('json', Join), async (c) => {
    const { token, name, password } = c.req.valid('json');
    return welcome(c, await people.join(token, name, password, agentOf(c)));
  });

  return app;
}

export function peopleRoutes(people: People, happenings: Happenings): Hono {
  const app = new Hono();

  app.get('/happenings', may('owner'), validate('query', Before), async (c) => c.json(await happenings.list(c.req.valid('query').before)));

  app.get('/', may('owner'), async (c) => c.json(await people.list()));

  app.post('/invitations', may('owner', { says: 'invited somebody' }), validate('json', z.object({ role: z.enum(ROLES) })), async (c) =>
    c.json(await people.invite(c.req.valid('json').role, c.get('person')?.name ?? ''), 201),
  );

  app.patch(
    '/:id',
    may('owner', { says: 'changed what somebody may do' }),
    validate('param', PersonId),
    validate('json', Changed),
    async (c) => c.json(await people.change(c.req.valid('param').id, c.req.valid('json'))),
  );

  app.delete('/:id/sessions', may('owner', { says: 'signed somebody out' }), validate('param', PersonId), async (c) => {
    await people.signOutEverywhere(c.req.valid('param').id);
    return c.body(null, 204);
  });

  return app;
}

function welcome(c: Context, { token, person, expires }: Begun): Response {
  // Behind a proxy that speaks TLS the browser is told to keep it to that.
  const isSecure = c.req.header('x-forwarded-proto') === 'https' || new URL(c.req.url).protocol === 'https:';
  setCookie(c, COOKIE, token, { httpOnly: true, sameSite: 'Strict', secure: isSecure, path: '/', expires });
  c.set('person', person);
  return c.json({ hasAccounts: true, person } satisfies Session);
}

const agentOf = (c: Context): string => c.req.header('user-agent') ?? '';
