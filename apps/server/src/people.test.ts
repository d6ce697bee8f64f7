import { beforeEach, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import {
  type Happening,
  type Invitation,
  type JobHistory,
  type JobSummary,
  type Person,
  type ProblemDetails,
  type Role,
  ROLES,
  type Session,
  type Shop,
  type SignOff,
} from '@isola/contract';
import { FABRICS } from '@isola/core';
import { Hono } from 'hono';
import { createApp, refuseWithoutTerms } from './app.ts';
import { may } from './routes/may.ts';
import { Audits } from './services/Audits.ts';
import { JobService } from './services/JobService.ts';
import { People } from './services/People.ts';
import { SewOuts } from './services/SewOuts.ts';
import { ShopService } from './services/ShopService.ts';
import { answer, AppUnderTest, CONFIG, HERON, step } from './testing/AppUnderTest.ts';

const open = new AppUnderTest('isola_test_people');
let app: Hono;
let people: People;
const PASSWORD = 'three blue herons';

beforeEach(async () => {
  const { models, pool, queue } = open;
  await Promise.all([
    models.Person.destroy({ where: {} }),
    models.sequelize.query('delete from rate_limits'),
    models.sequelize.query('delete from invitations'),
  ]);
  const { bus } = open;
  const jobs = new JobService(models, pool, bus);
  people = new People(models, bus);
  const services = {
    models,
    bus,
    jobs,
    pool,
    audits: new Audits(models, queue, jobs),
    sewOuts: new SewOuts(models),
    shop: new ShopService(models),
    people,
  };
  app = createApp({ ...CONFIG, publicUrl: 'https://isola.example' }, services);
});

/** Asks as a browser does, with the cookie that it was given. */
function ask(method: string, at: string, body?: unknown, cookie = '', headers: Record<string, string> = {}): Promise<Response> {
  const isForm = body instanceof FormData;
  const init = {
    method,
    headers: {
      host: 'isola.example',
      ...(cookie === '' ? {} : { cookie }),
      ...(body === undefined || isForm ? {} : { 'Content-Type': 'application/json' }),
      ...headers,
    },
    ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
  };
  return Promise.resolve(app.request(`https://isola.example${at}`, init));
}
const cookieOf = (response: Response): string => response.headers.get('set-cookie')!.split(';')[0]!;

/** Lets somebody in by an invitation, and gives the cookie of their browser. */
async function letIn(name: string, role: Role): Promise<{ cookie: string; person: Person }> {
  const { token } = await people.invite(role, 'the console');
  const joined = await ask('POST', '/api/session/join', { token, name, password: PASSWORD });
  expect(joined.status).toBe(200);
  return { cookie: cookieOf(joined), person: ((await joined.json()) as Session).person! };
}

describe('who may come in', () => {
  test('nobody who is not signed in is answered anything but who they are and how the server is', async () => {
    for (const at of [
      '/api/jobs',
      '/api/shop',
      '/api/sew-outs',
      '/api/board',
      '/api/events',
      '/api/people',
      '/api/design-schema',
      '/api/export',
    ])
      expect([at, (await ask('GET', at)).status]).toEqual([at, 401]);
    expect(await answer<Session>(ask('GET', '/api/session'), 200)).toEqual({ hasAccounts: true, person: null });
    expect((await ask('GET', '/api/health')).status).toBe(200);
    expect((await ask('GET', '/api/jobs', undefined, `isola_session=${'x'.repeat(43)}`)).status).toBe(401);
    // The server answers under its public name, and under no other.
    expect((await app.request('https://elsewhere.example/api/health', { headers: { host: 'elsewhere.example' } })).status).toBe(421);
  });

  test('a link lets one person in, once; the cookie is out of reach of scripts and of other pages', async () => {
    const { token } = await people.invite('owner', 'the console');
    expect(await answer(ask('POST', '/api/session/invitation', { token }), 200)).toEqual({ role: 'owner', invitedBy: 'the console' });
    const join = (name: string, password = PASSWORD) => ask('POST', '/api/session/join', { token, name, password });
    expect((await answer<ProblemDetails>(join('Mara', 'short'), 422)).detail).toContain('at least ten characters');
    const joined = await join('Mara');
    expect(joined.headers.get('set-cookie')).toMatch(/^isola_session=[\w-]{43}; .*Path=\/; .*HttpOnly; Secure; SameSite=Strict$/);
    expect((await answer<ProblemDetails>(join('Ada'), 404)).detail).toContain('taken up already');
    expect(await answer<Session>(ask('GET', '/api/session', undefined, cookieOf(joined)), 200)).toMatchObject({
      person: { name: 'Mara', role: 'owner' },
    });
    // Neither token nor password can be read from the database.
    const [person] = await open.models.Person.findAll();
    expect(person!.password).toMatch(/^\$argon2id\$/);
    expect((await open.models.Session.findAll()).map(({ tokenHash }) => cookieOf(joined).includes(tokenHash))).toEqual([false]);
    const { token: other } = await people.invite('guest', 'Mara');
    expect(
      (await answer<ProblemDetails>(ask('POST', '/api/session/join', { token: other, name: 'MARA', password: PASSWORD }), 422)).detail,
    ).toContain('called MARA already');
  });

  test('what a page hears ends with its session, wherever that is ended', async () => {
    const { cookie: owner } = await letIn('Mara', 'owner');
    const { cookie, person } = await letIn('Ivo', 'operator');
    const stream = await ask('GET', '/api/events', undefined, cookie);
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
    expect((await reader.read()).value).toContain('event: here');
    // Another one's session is none of theirs.
    const gone = await letIn('Gone', 'guest');
    await answer(ask('DELETE', '/api/session', undefined, gone.cookie), 204);
    await answer(ask('DELETE', `/api/people/${person.id}/sessions`, undefined, owner), 204);
    let heard = '';
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      heard += value;
    }
    expect(heard.match(/event: \w+/g)).toEqual(['event: out']);
    expect((await ask('GET', '/api/events', undefined, cookie)).status).toBe(401);
  });

  test('signing in takes name and password, whatever the case of the name; too many tries have to wait, of a name that nobody has, too', async () => {
    await letIn('Mara', 'owner');
    const signIn = (name: string, password: string) => ask('POST', '/api/session', { name, password });
    expect((await signIn(' mara ', PASSWORD)).status).toBe(200);
    const wrong = (await answer<ProblemDetails>(signIn('Mara', 'three red herons'), 403)).detail;
    expect((await answer<ProblemDetails>(signIn('Nobody', 'three red herons'), 403)).detail).toBe(wrong);
    for (const name of ['Mara', 'Nobody']) {
      let status = 0;
      for (let k = 0; k < 10 && status !== 429; k++) ({ status } = await signIn(name, `guess number ${k}`));
      expect([name, status]).toEqual([name, 429]);
      const refused = await signIn(name, PASSWORD);
      expect([refused.status, Number(refused.headers.get('retry-after')) > 0]).toEqual([429, true]);
    }
  }, 120_000);

  test('sessions end where somebody signs out, everywhere where they say so, and when they are over', async () => {
    const { cookie, person } = await letIn('Mara', 'owner');
    const other = cookieOf(await ask('POST', '/api/session', { name: 'Mara', password: PASSWORD }));
    const isIn = async (of: string): Promise<boolean> => (await ask('GET', '/api/jobs', undefined, of)).status === 200;
    await answer(ask('DELETE', '/api/session', undefined, other), 204);
    expect([await isIn(cookie), await isIn(other)]).toEqual([true, false]);
    const third = cookieOf(await ask('POST', '/api/session', { name: 'Mara', password: PASSWORD }));
    await answer(ask('PUT', '/api/session/password', { old: 'no', password: 'four blue herons' }, cookie), 403);
    await answer(ask('PUT', '/api/session/password', { old: PASSWORD, password: 'four blue herons' }, cookie), 204);
    expect([await isIn(cookie), await isIn(third)]).toEqual([true, false]);
    await open.models.Session.update({ expiresAt: new Date(Date.now() - 1000) }, { where: { personId: person.id } });
    expect(await isIn(cookie)).toBe(false);
    const fourth = cookieOf(await ask('POST', '/api/session', { name: 'Mara', password: 'four blue herons' }));
    await answer(ask('DELETE', '/api/session/everywhere', undefined, fourth), 204);
    expect(await isIn(fourth)).toBe(false);
  });
});

describe('what each may do', () => {
  // Said here once more, apart from the routes: what each role may ask besides what those before it may. Whatever stands nowhere is for digitizers and owners.
  const ANYBODYS = [
    'GET /api/session',
    'POST /api/session',
    'DELETE /api/session',
    'POST /api/session/join',
    'POST /api/session/invitation',
  ];
  const GUESTS = [
    'DELETE /api/session/everywhere',
    'PUT /api/session/password',
    'PUT /api/jobs/:id/here',
    'DELETE /api/jobs/:id/here/:page',
  ];
  const SAMPLES = ['POST /api/sew-outs', 'PUT /api/sew-outs/:id', 'POST /api/sew-outs/:id/photos', 'PUT /api/sew-outs/photos/:id'];
  const OPERATORS = [...SAMPLES, 'DELETE /api/sew-outs/photos/:id', 'PUT /api/board'];
  const mayAsk = (route: string, role: Role | undefined): boolean => {
    if ([...ANYBODYS, 'GET /api/health', 'GET /api/metrics'].includes(route)) return true;
    if (role === undefined) return false;
    if (/^\w+ \/api\/(people|export)/.test(route)) return role === 'owner';
    if (route.startsWith('GET ') || GUESTS.includes(route) || role === 'owner' || role === 'digitizer') return true;
    return role === 'operator' && OPERATORS.includes(route);
  };

  test('holds on every route there is, for every role, and for who is not signed in', async () => {
    const routes = [...new Set(app.routes.filter(({ method }) => method !== 'ALL').map(({ method, path }) => `${method} ${path}`))];
    const asked = routes.filter((route) => route.includes(' /api/'));
    expect(asked.length).toBeGreaterThan(60);
    const cookies = new Map<Role | undefined, string>([[undefined, '']]);
    for (const role of ROLES) cookies.set(role, (await letIn(`A ${role}`, role)).cookie);
    for (const route of asked) {
      const [method, path] = route.split(' ') as [string, string];
      const at = path.replaceAll(/:\w+/g, randomUUID());
      for (const [role, cookie] of cookies) {
        // Who signs out is another one each time: the others go on.
        const isLeaving = route.startsWith('DELETE /api/session') && role !== undefined;
        const by = isLeaving ? (await letIn(`Leaving ${route} ${role}`, role)).cookie : cookie;
        const response = await ask(method, at, undefined, by);
        await response.body?.cancel();
        const expected = mayAsk(route, role) ? 'answered' : role === undefined ? 401 : 403;
        // Signing in without a name and a link that was not given are refused by their routes, in another way.
        const got = [401, 403].includes(response.status) ? response.status : 'answered';
        expect([route, role, got]).toEqual([route, role, expected]);
      }
    }
  });

  test('a route that does not say who may ask it does not come into being', () => {
    const routes = new Hono().get('/api/new', (c) => c.text('new'));
    expect(() => refuseWithoutTerms(routes)).toThrow(/GET \/api\/new says not who may ask it/);
    expect(() => refuseWithoutTerms(new Hono().get('/api/new', may('guest'), (c) => c.text('new')))).not.toThrow();
  });

  test('holds at the server: a guest changes nothing, an owner is always left, who is shut out is out at once', async () => {
    const [owner, guest] = [await letIn('Mara', 'owner'), await letIn('Ivo', 'guest')];
    const form = new FormData();
    form.set('file', new File([new Uint8Array(HERON)], 'heron.csv'));
    expect((await answer<ProblemDetails>(ask('POST', '/api/jobs', form, guest.cookie), 403)).detail).toContain('as guest may not do this');
    const change = (id: string, more: object, cookie = owner.cookie) => ask('PATCH', `/api/people/${id}`, more, cookie);
    expect((await answer<ProblemDetails>(change(owner.person.id, { role: 'guest' }), 422)).detail).toContain(
      'Somebody has to be the owner',
    );
    await answer(change(guest.person.id, { role: 'owner' }, guest.cookie), 403);
    const listed = await answer<Person[]>(change(guest.person.id, { role: 'digitizer' }), 200);
    expect(listed.map(({ name, role }) => [name, role])).toEqual([
      ['Ivo', 'digitizer'],
      ['Mara', 'owner'],
    ]);
    expect((await ask('POST', '/api/jobs', form, guest.cookie)).status).toBe(201);
    await answer(change(guest.person.id, { isOut: true }), 200);
    expect((await ask('GET', '/api/jobs', undefined, guest.cookie)).status).toBe(401);
    expect((await ask('POST', '/api/session', { name: 'Ivo', password: PASSWORD })).status).toBe(403);
    const invited = await answer<Invitation>(ask('POST', '/api/people/invitations', { role: 'operator' }, owner.cookie), 201);
    expect(await people.invitation(invited.token)).toEqual({ role: 'operator', invitedBy: 'Mara' });
    await answer(change(randomUUID(), { role: 'guest' }), 404);
  });

  test('every step, signature and change of the shop says who, by the account and not by what is written', async () => {
    const { cookie } = await letIn('Mara', 'digitizer');
    const form = new FormData();
    form.set('file', new File([new Uint8Array(HERON)], 'heron.csv'));
    const job = await answer<JobSummary>(ask('POST', '/api/jobs', form, cookie), 201);
    await answer(ask('POST', `/api/jobs/${job.id}/journal`, { baseVersion: 0, entries: [step('looked at')] }, cookie), 200);
    const history = await answer<JobHistory>(ask('GET', `/api/jobs/${job.id}/history`, undefined, cookie), 200);
    expect(history.steps.map(({ who }) => who)).toEqual(['Mara']);
    const signed = { baseVersion: 1, who: 'Somebody else', reason: 'sewn before' };
    expect((await answer<SignOff>(ask('POST', `/api/jobs/${job.id}/sign-offs`, signed, cookie), 201)).who).toBe('Mara');
    const record = { ...FABRICS[0]!, id: 'ours', name: 'our poplin' };
    await answer<Shop>(ask('PUT', '/api/shop/fabrics/ours', { record, was: null, who: 'Somebody else', why: '' }, cookie), 200);
    expect((await open.models.ShopChange.findAll()).map(({ who }) => who)).toContain('Mara');
    // A page elsewhere cannot use the browser of who is signed in.
    expect((await ask('POST', `/api/jobs/${job.id}/sign-offs`, signed, cookie, { origin: 'https://elsewhere.example' })).status).toBe(403);
    expect((await ask('GET', '/api/jobs', undefined, cookie, { 'sec-fetch-site': 'cross-site' })).status).toBe(403);
  });

  test('is noted for good, with who asked and what it was answered; owners read it, and nobody changes it', async () => {
    const [owner, guest] = [await letIn('Mara', 'owner'), await letIn('Ivo', 'guest')];
    await ask('DELETE', `/api/jobs/${randomUUID()}`, undefined, guest.cookie);
    await ask('POST', '/api/session', { name: 'Nobody', password: 'no such password' });
    await ask('GET', '/api/jobs', undefined, owner.cookie);
    await answer(ask('GET', '/api/people/happenings', undefined, guest.cookie), 403);
    const happened = await answer<Happening[]>(ask('GET', '/api/people/happenings', undefined, owner.cookie), 200);
    const said = happened.slice(0, 4).map(({ who, method, path, status }) => [who, method, path.replace(/[0-9a-f-]{36}/, 'ID'), status]);
    expect(said).toEqual([
      [null, 'POST', '/api/session', 403],
      ['Ivo', 'DELETE', '/api/jobs/ID', 403],
      ['Ivo', 'POST', '/api/session/join', 200],
      ['Mara', 'POST', '/api/session/join', 200],
    ]);
    expect(JSON.stringify(happened)).not.toContain('no such password');
    const earlier = await answer<Happening[]>(
      ask('GET', `/api/people/happenings?before=${happened[1]!.seq}`, undefined, owner.cookie),
      200,
    );
    expect(earlier[0]).toEqual(happened[2]);
    await expect(open.models.Happening.update({ who: 'Ivo' }, { where: {} })).rejects.toThrow(/never changed/);
    await expect(open.models.Happening.destroy({ where: {} })).rejects.toThrow(/never changed/);
  });

  test('is counted in the usual text format, told to programs of this machine and to nobody whom a proxy lets in', async () => {
    await ask('GET', '/api/jobs');
    const told = await ask('GET', '/api/metrics');
    expect(told.headers.get('content-type')).toMatch(/^text\/plain; version=/);
    const text = await told.text();
    expect(text).toMatch(/^isola_requests_total\{method="GET",status="401"\} 1$/m);
    expect(text).toMatch(/^isola_request_seconds_count\{method="GET",part="jobs"\} 1$/m);
    expect(text).toMatch(/^isola_jobs \d+$/m);
    // Each line is a comment, or a name with labels and a number.
    const wrong = text
      .split('\n')
      .filter((line) => line !== '' && !/^(?:# (?:HELP|TYPE) \w+ .+|\w+(?:\{[^}]*\})? (?:[-\d.e+]+|[Nn]a[Nn]|\+Inf))$/.test(line));
    expect(wrong).toEqual([]);
    expect((await ask('GET', '/api/metrics', undefined, '', { 'x-forwarded-for': '203.0.113.9' })).status).toBe(403);
  });

  test('without accounts the server asks nobody, and says so', async () => {
    expect(await answer<Session>(open.request('GET', '/api/session'), 200)).toEqual({ hasAccounts: false, person: null });
    expect((await open.request('GET', '/api/jobs')).status).toBe(200);
    expect((await open.request('GET', '/api/people')).status).toBe(404);
  });
});
