import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { finding, lookAtAccess, openJob, saved, takeInAnew } from './bench.ts';
import { expect, test } from './isola.ts';

const ROOT = path.resolve(import.meta.dirname, '..');

test('where accounts are asked for, the first owner comes in from the console, invites an operator, and each sees what is theirs', async ({
  page,
  browser,
  isola,
}) => {
  test.setTimeout(240_000);
  await isola.end('SIGTERM');
  await isola.start({ ACCOUNTS: 'on' });
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Who is at the bench?' })).toBeVisible();
  await lookAtAccess(page, 'Sign in');

  // The console gives the first owner a link.
  const said = execFileSync(process.execPath, [path.join(ROOT, 'apps/server/dist/owner.js')], {
    env: { ...process.env, ...isola.environment() },
    encoding: 'utf8',
  });
  const link = /join#[\w-]+/.exec(said)![0];
  await page.goto(`/${link}`);
  await page.getByLabel('Your name, as others read it').fill('Mara');
  await page.getByLabel(/A password, ten/).fill('three blue herons');
  await lookAtAccess(page, 'An invitation');
  await page.getByRole('button', { name: 'Come in' }).click();
  await expect(page.getByRole('link', { name: /Heron crest/ })).toBeVisible();

  // Steps say who made them.
  await takeInAnew(page, 'Heron crest', 'demo/heron.csv', 'Crest of the people');
  await openJob(page, 'Crest of the people');
  await finding(page, /ends are not locked/)
    .getByRole('button')
    .first()
    .click();
  await page.keyboard.press('t');
  await expect(page.locator('.other')).toHaveText(/if accepted/);
  await page.keyboard.press('Enter');
  await saved(page);
  await page.keyboard.press('h');
  await expect(page.getByRole('complementary', { name: 'History' }).locator('li.now')).toContainText('Mara');
  await page.keyboard.press('Escape');

  // An operator on another machine: release, samples and the board, and no steps.
  await page.goto('/people');
  await page.getByRole('combobox', { name: 'Role of who is invited' }).click({ force: true });
  await page.getByRole('option', { name: 'operator', exact: true }).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  const address = await page.getByLabel('The link').inputValue();
  await lookAtAccess(page, 'People');
  const tablet = await browser.newContext({ viewport: { width: 1024, height: 768 }, baseURL: isola.url });
  const other = await tablet.newPage();
  await other.goto(new URL(address).hash === '' ? address : `/join${new URL(address).hash}`);
  await other.getByLabel('Your name, as others read it').fill('Ivo');
  await other.getByLabel(/A password, ten/).fill('four blue herons');
  await other.getByRole('button', { name: 'Come in' }).click();
  await other.getByRole('link', { name: /Heron crest/ }).click();
  const stages = other.getByRole('navigation', { name: 'Stages' }).getByRole('link');
  await expect(stages).toHaveText(['Release', 'Sew-outs']);
  await expect(other.getByText('For the machine')).toBeVisible();
  expect(await other.evaluate(() => fetch('/api/jobs', { method: 'POST' }).then(({ status }) => status))).toBe(403);

  // Shut out, they are out with the next thing they do.
  await page.reload();
  await page
    .getByRole('region', { name: 'Who may come in' })
    .getByRole('row', { name: /Ivo/ })
    .getByRole('button', { name: 'Shut out' })
    .click();
  await expect(page.getByRole('region', { name: 'Who may come in' }).getByRole('row', { name: /Ivo/ })).toContainText('nothing: shut out');
  await other.goto('/');
  await expect(other.getByRole('heading', { name: 'Who is at the bench?' })).toBeVisible();
  await tablet.close();
  await isola.end('SIGTERM');
  await isola.start();
});
