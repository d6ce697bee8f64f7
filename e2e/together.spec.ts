import { execFileSync } from 'node:child_process';
import path from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { finding, keep, lookAtAccess, openJob, saved, takeInAnew } from './bench.ts';
import { expect, type IsolaServer, test } from './isola.ts';

const ROOT = path.resolve(import.meta.dirname, '..');
const PASSWORD = 'three blue herons';
/** Whatever is found besides. */
const OTHERS = /^(?!.*(58\.4|longer than))/;

/** A browser of somebody who came in by an invitation's token. */
async function comeIn(browser: Browser, isola: IsolaServer, token: string, name: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: isola.url });
  const page = await context.newPage();
  const joined = await page.request.post('/api/session/join', { data: { token, name, password: PASSWORD } });
  expect(joined.status()).toBe(200);
  return page;
}

test(
  'two people in one job see each other; what they do goes together, or is told and kept as a branch; who is shut out hears no more',
  { tag: '@commit' },
  async ({ browser, isola }) => {
    test.setTimeout(300_000);
    await isola.end('SIGTERM');
    // Two processes of the server: what one is told, pages at the other hear.
    await isola.start({ ACCOUNTS: 'on', PROCESSES: '2' });
    const said = execFileSync(process.execPath, [path.join(ROOT, 'apps/server/dist/owner.js')], {
      env: { ...process.env, ...isola.environment() },
      encoding: 'utf8',
    });
    const nela = await comeIn(browser, isola, /join#([\w-]+)/.exec(said)![1]!, 'Nela');
    const invitation = await nela.request.post('/api/people/invitations', { data: { role: 'digitizer' } });
    const { token } = (await invitation.json()) as { token: string };
    const otto = await comeIn(browser, isola, token, 'Otto');
    await takeInAnew(nela, 'Kettle', 'demo/kettle.csv', 'Pot of two');
    await openJob(nela, 'Pot of two');
    await openJob(otto, 'Pot of two');
    const here = nela.getByRole('list', { name: 'Who else has this job open' });
    await expect(here).toContainText('Otto, Otto is at Audit');
    await expect(otto.getByRole('list', { name: 'Who else has this job open' })).toContainText('Nela');
    await lookAtAccess(nela, 'Somebody else in the job');

    // A step of one is on the bench of the other within a second, with whose it is.
    await keep(nela, /longer than the machine makes/, 'sewn so before');
    await expect(otto.getByText('Nela changed this job')).toBeVisible();
    await expect(otto.locator('.kept', { hasText: 'sewn so before' })).toContainText(/Nela, \d+ \w+, \d\d:\d\d/);
    await expect(otto.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', /^undo: what Nela did/);

    // One who heard nothing for a while: other places go together by themselves.
    await otto.route('**/api/events*', (route) => route.abort());
    await otto.reload();
    await expect(finding(otto, /./).first()).toBeVisible();
    await saved(otto);
    await keep(nela, /58\.4 mm high/, 'these caps are cut higher');
    await saved(nela);
    await keep(otto, OTHERS, 'Otto says it holds');
    for (const page of [nela, otto])
      for (const reason of ['these caps are cut higher', 'Otto says it holds'])
        await expect(page.locator('.kept', { hasText: reason })).toBeVisible();
    await saved(otto);
    await expect(otto.getByRole('dialog')).toHaveCount(0);

    // The same place: told by name, and on a branch before anybody is asked.
    await keep(nela, OTHERS, 'Nela keeps it');
    await saved(nela);
    await keep(otto, OTHERS, 'Otto keeps it');
    const dialog = otto.getByRole('dialog');
    await expect(dialog).toContainText('Nela changed');
    await expect(dialog).toContainText('kept as a branch');
    await lookAtAccess(otto, 'Somebody changed the same');
    await dialog.getByRole('button', { name: 'Leave them on their branch' }).click();
    await expect(otto.locator('.kept', { hasText: 'Nela keeps it' })).toBeVisible();
    await otto.keyboard.press('h');
    const history = otto.getByRole('complementary', { name: 'History' });
    await expect(history.locator('li', { hasText: 'Otto' }).first()).toBeVisible();
    await otto.keyboard.press('Escape');

    // Leaving is seen, and being shut out ends what is open.
    await otto.unroute('**/api/events*');
    await otto.goto('/');
    await expect(here).toHaveCount(0);
    const people = (await (await nela.request.get('/api/people')).json()) as { id: string; name: string }[];
    await nela.request.patch(`/api/people/${people.find(({ name }) => name === 'Otto')!.id}`, { data: { isOut: true } });
    await expect(otto.getByRole('heading', { name: 'Who is at the bench?' })).toBeVisible();
    await nela.context().close();
    await otto.context().close();
    await isola.end('SIGTERM');
    await isola.start();
  },
);
