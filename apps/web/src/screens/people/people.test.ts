import { describe, expect, test } from '@jest/globals';
import type { Person, Session } from '@isola/contract';
import { flushPromises } from '@vue/test-utils';
import { nextTick } from 'vue';
import App from '../../App.vue';
import { api, ApiError } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useShop } from '../../stores/shop.ts';
import { buttonIn, click, said, setTheStage, show, stage } from '../testing/onScreens.ts';
import JoinScreen from './JoinScreen.vue';
import PeopleScreen from './PeopleScreen.vue';
import { sayHappening } from './sayHappening.ts';

setTheStage();

const MARA: Person = { id: 'm', name: 'Mara', role: 'owner', isOut: false };
const IVO: Person = { id: 'i', name: 'Ivo', role: 'guest', isOut: false };

describe('who is here', () => {
  test('is asked before anything is shown where the server wants to know; whose session is over signs in again on the page they were at', async () => {
    let isIn = false;
    stage.answers = (method, path, body) => {
      if (path === '/session' && method === 'GET') return { hasAccounts: true, person: isIn ? MARA : null } satisfies Session;
      if (path === '/session') {
        if ((body as { password: string }).password !== 'three blue herons')
          throw new ApiError(403, 'Not let in', 'Name and password do not fit together.');
        isIn = true;
        return { hasAccounts: true, person: MARA } satisfies Session;
      }
      if (!isIn) throw new ApiError(401, 'Sign in first', 'This shop asks who you are.');
      return [];
    };
    const app = await show(App);
    expect(said(app)).toContain('Who is at the bench?');
    const [name, password] = app.findAll<HTMLInputElement>('form input');
    expect((buttonIn(app.element as ParentNode, /^\s*Sign in/) as HTMLButtonElement).disabled).toBe(true);
    await name!.setValue('mara');
    await password!.setValue('wrong');
    await app.find('form').trigger('submit');
    await flushPromises();
    expect(said(app.find('.problem'))).toBe('Name and password do not fit together.');
    expect(password!.element.value).toBe('');
    await password!.setValue('three blue herons');
    await app.find('form').trigger('submit');
    await flushPromises();
    expect(app.find('form[aria-label="Sign in"]').exists()).toBe(false);
    // What is signed from now on is signed with the account's name.
    expect([useSession().person?.name, useShop().who]).toEqual(['Mara', 'Mara']);
    isIn = false;
    await expect(api.jobs()).rejects.toThrow('This shop asks who you are');
    await nextTick();
    expect(said(app)).toContain('Who is at the bench?');
  });

  test('is not asked where the server has no accounts: everybody may do everything', async () => {
    stage.answers = (_, path) => (path === '/session' ? { hasAccounts: false, person: null } : []);
    const app = await show(App);
    const session = useSession();
    expect(said(app)).not.toContain('Who is at the bench?');
    expect([session.mustSignIn, session.mayEdit, session.mayOperate]).toEqual([false, true, true]);
    const people = await show(PeopleScreen);
    expect(said(people)).toMatch(/Nobody has to sign in.*npm run owner/);
  });

  test('comes in by a link, once; a link that is over says so', async () => {
    stage.answers = (_, path) => {
      if (path === '/session/invitation') return { role: 'digitizer', invitedBy: 'Mara' };
      return { hasAccounts: true, person: { ...IVO, role: 'digitizer' } } satisfies Session;
    };
    window.location.hash = '#sometoken-of-a-link';
    const join = await show(JoinScreen);
    expect(said(join)).toContain('Mara invites you as digitizer: may change designs and the shop, and release.');
    const [name, password] = join.findAll<HTMLInputElement>('input');
    await name!.setValue('Ivo');
    await password!.setValue('short');
    expect((buttonIn(join.element as ParentNode, /^\s*Come in/) as HTMLButtonElement).disabled).toBe(true);
    await password!.setValue('four blue herons');
    await join.find('form').trigger('submit');
    await flushPromises();
    expect(stage.asked).toContainEqual([
      'POST',
      '/session/join',
      { token: 'sometoken-of-a-link', name: 'Ivo', password: 'four blue herons' },
    ]);
    expect(stage.router.currentRoute.value.name).toBe('jobs');
    stage.answers = () => {
      throw new ApiError(404, 'Not found', 'There is no such invitation: it was taken up already, or is over.');
    };
    const late = await show(JoinScreen);
    expect(said(late)).toMatch(/taken up already.*Ask who sent it for another link/);
    window.location.hash = '';
  });
});

describe('people on screen', () => {
  test('are invited by a link, given roles, signed out and shut out by an owner; what is refused is said', async () => {
    let people = [IVO, MARA];
    stage.answers = (method, path, body) => {
      if (path === '/people' && method === 'GET') return people;
      if (path.startsWith('/people/happenings'))
        return [
          {
            seq: 2,
            at: '2026-11-30T08:00:00.000Z',
            who: 'Ivo',
            address: '10.0.0.7',
            method: 'DELETE',
            path: '/api/jobs/x',
            words: 'deleted a job',
            status: 403,
          },
          {
            seq: 1,
            at: '2026-11-30T07:00:00.000Z',
            who: null,
            address: '10.0.0.7',
            method: 'POST',
            path: '/api/session',
            words: 'signed in',
            status: 200,
          },
        ];
      if (path === '/people/invitations') return { token: 'abc', role: (body as Person).role, expiresAt: '2026-12-07T08:00:00.000Z' };
      if (method === 'PATCH' && path === '/people/m')
        throw new ApiError(422, 'It does not fit', 'Somebody has to be the owner: make another one first.');
      if (method === 'PATCH') people = people.map((one) => (path.endsWith(one.id) ? { ...one, ...(body as object) } : one));
      return method === 'DELETE' ? undefined : people;
    };
    const session = useSession();
    [session.hasAccounts, session.person, session.isKnown] = [true, MARA, true];
    const screen = await show(PeopleScreen);
    expect(screen.findAll('section:first-child tbody tr').map((row) => said(row.find('th')))).toEqual(['Ivo', 'Mara you']);
    const happened = screen.findAll('.happened tr').map((row) => said(row));
    expect(happened).toEqual([
      expect.stringContaining('deleted a job: refused (403)'),
      expect.stringMatching(/nobody signed in\s*signed in/),
    ]);
    await click(screen, /Make a link/);
    expect(screen.find<HTMLInputElement>('.link input').element.value).toMatch(/\/join#abc$/);
    expect(said(screen.find('.link'))).toContain('For one digitizer, once, until 7 December 2026');
    const [ivo, mara] = screen.findAll('tbody tr');
    await click(ivo!.element, /Shut out/);
    expect(said(screen.findAll('tbody tr')[0]!)).toContain('nothing: shut out');
    await click(ivo!.element, /Sign out everywhere/);
    expect(useNotices().notice?.title).toBe('Ivo is signed out everywhere');
    await click(mara!.element, /Shut out/);
    expect(useNotices().notice?.text).toContain('Somebody has to be the owner');
  });

  test('change their own password and sign out; a guest sees nobody else', async () => {
    stage.answers = () => undefined;
    const session = useSession();
    [session.hasAccounts, session.person, session.isKnown] = [true, IVO, true];
    const screen = await show(PeopleScreen);
    expect(screen.find('table').exists()).toBe(false);
    expect(session.mayEdit).toBe(false);
    const [old, next] = screen.findAll<HTMLInputElement>('input[type=password]');
    await old!.setValue('three blue herons');
    await next!.setValue('four blue herons');
    await screen.find('form[aria-label="Another password"]').trigger('submit');
    await flushPromises();
    expect(stage.asked.at(-1)).toEqual(['PUT', '/session/password', { old: 'three blue herons', password: 'four blue herons' }]);
    await click(screen, /Sign out here/);
    expect([stage.asked.at(-1)!.slice(0, 2), session.mustSignIn]).toEqual([['DELETE', '/session'], true]);
  });
});

describe('what happened, in words', () => {
  test('says what each request does, what was refused, and of what it has no words the address', () => {
    const say = (words: string | null, status = 200): string => sayHappening({ method: 'POST', path: '/api/jobs/1/x', words, status });
    expect([say('signed in'), say('signed in', 429), say(null), say(null, 404)]).toEqual([
      'signed in',
      'signed in: refused (429)',
      'POST /api/jobs/1/x',
      'POST /api/jobs/1/x: refused (404)',
    ]);
  });
});
