import http from 'node:http';
import type { AddressInfo } from 'node:net';
import type { BrowserContext, Page } from '@playwright/test';
import { finding, keep, openJob, saved } from './bench.ts';
import { expect, test } from './isola.ts';

async function accept(page: Page, text: RegExp): Promise<void> {
  const item = finding(page, text).first();
  await item.getByRole('button').first().click();
  await item.getByRole('button', { name: /^Try/ }).click();
  await item.getByRole('button', { name: 'Accept' }).click();
}

/** A window beside the others that does not hear what they do, as one whose connection was lost for a while. */
async function deafWindow(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  await page.route('**/api/events*', (route) => route.abort());
  return page;
}

test('two windows on one job: each shows what the other does; where one did not hear, its steps are weighed on it, and none is doubled', async ({
  page,
  context,
}) => {
  await openJob(page, 'Kettle');
  const beside = await context.newPage();
  await openJob(beside, 'Kettle');
  const deaf = await deafWindow(context);
  await openJob(deaf, 'Kettle');
  await accept(page, /longer than the machine makes/);
  await saved(page);
  await expect(finding(beside, /longer than the machine makes/)).toHaveCount(0);
  await saved(beside);
  await accept(deaf, /longer than the machine makes/);
  const dialog = deaf.getByRole('dialog');
  await expect(dialog).toContainText('Another window changed what these steps build on. The job stays as they left it.');
  await expect(dialog).toContainText('does not fit:');
  await expect(dialog.getByRole('button', { name: 'None of them fits' })).toBeDisabled();
  // The job as it is now, and nothing on top of it.
  await expect(dialog.locator('tbody tr')).toHaveCount(1);
  await dialog.getByRole('button', { name: 'Leave them on their branch' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(finding(deaf, /longer than the machine makes/)).toHaveCount(0);
  // A step that touches something else goes on top of what another window did, and the others hear of it.
  await keep(page, /^(?!.*58\.4 mm high)/, 'sewn so before');
  await saved(page);
  await keep(deaf, /58\.4 mm high/, 'these caps are cut higher');
  for (const window of [page, beside, deaf]) {
    await expect(window.locator('.kept', { hasText: 'these caps are cut higher' })).toBeVisible();
    await expect(window.locator('.kept', { hasText: 'sewn so before' })).toBeVisible();
  }
});

test('a lost connection says so, and steps made meanwhile survive a closed page', { tag: '@commit' }, async ({ page, context }) => {
  await openJob(page, 'Birch');
  await page.route('**/journal', (route) => route.abort());
  await accept(page, /jumps across/);
  await expect(page.getByText(/Not saved: no connection/)).toBeVisible();
  const address = page.url();
  // Who closes the window is asked first.
  const asked = page.waitForEvent('dialog');
  const closing = page.close({ runBeforeUnload: true });
  const question = await asked;
  expect(question.type()).toBe('beforeunload');
  await question.accept();
  await closing;
  await expect.poll(() => page.isClosed()).toBe(true);
  const again = await context.newPage();
  await again.goto(address);
  await saved(again);
  await expect(finding(again, /jumps across/)).toHaveCount(0);
  await again.reload();
  await expect(finding(again, /jumps across/)).toHaveCount(0);
});

test('a step of a job that was left before it was saved is sent while another is worked on; until then nothing is said to be saved', async ({
  page,
}) => {
  await openJob(page, 'Birch');
  await page.route('**/journal', (route) => route.abort());
  await keep(page, /./, 'left in a hurry');
  await expect(page.getByText(/Not saved: no connection/)).toBeVisible();
  await page.getByRole('link', { name: /Isola/ }).first().click();
  await expect(page.getByText('1 step not saved yet')).toBeVisible();
  await page.getByRole('link', { name: /Kettle/ }).click();
  await expect(page.getByText(/Not saved: no connection/)).toBeVisible();
  await page.unroute('**/journal');
  await saved(page);
  await page.getByRole('link', { name: /Isola/ }).first().click();
  await expect(page.getByText('not saved yet')).toHaveCount(0);
  await openJob(page, 'Birch');
  await expect(page.locator('.kept')).toContainText(['left in a hurry']);
});

test('a job deleted in another window is gone here, too; steps left of it can be kept as a file, and wait in the list', async ({
  page,
  context,
}) => {
  const other = await context.newPage();
  await page.goto('/');
  await page.getByLabel('Stitch file').setInputFiles('demo/birch.csv');
  await expect(page.getByRole('navigation', { name: 'Stages' })).toBeVisible();
  const address = page.url().replace(/take-in$/, 'audit');
  await other.goto(address);
  const deaf = await deafWindow(context);
  await deaf.goto(address);
  await expect(finding(deaf, /./).first()).toBeVisible();
  expect((await page.request.delete(`/api/jobs/${/jobs\/([^/]+)/.exec(address)![1]}`)).status()).toBe(204);
  await expect(other.getByRole('heading', { name: 'This job was deleted' })).toBeVisible();
  await keep(deaf, /./, 'too late');
  const dialog = deaf.getByRole('dialog');
  await expect(dialog).toContainText('it may have been deleted');
  const download = deaf.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save them as a file' }).click();
  expect((await download).suggestedFilename()).toBe('Birch.steps.json');
  await deaf.goto('/');
  await expect(deaf.getByRole('alert')).toContainText('was deleted before all of its steps were saved');
  await deaf.getByRole('button', { name: 'Put the job back' }).click();
  await dialog.getByRole('button', { name: 'Make them again' }).click();
  await expect(deaf.locator('.kept', { hasText: 'too late' })).toBeVisible();
  await saved(deaf);
});

test('a page of another origin on this machine reaches nothing', { tag: '@commit' }, async ({ page, isola }) => {
  const other = http.createServer((_, response) => response.setHeader('Content-Type', 'text/html').end('<h1>Another program</h1>'));
  await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve));
  try {
    await page.goto(`http://127.0.0.1:${(other.address() as AddressInfo).port}`);
    const before = await (await page.request.get('/api/jobs')).text();
    const tried = await page.evaluate(async (url) => {
      const form = new FormData();
      form.set('file', new File(['command,x,y\nstitch,0,0\nstitch,3,0\nend,,\n'], 'planted.csv'));
      const acts = [
        fetch(`${url}/api/jobs`, { method: 'POST', body: form, mode: 'no-cors' }),
        fetch(`${url}/api/shop/defaults`, { method: 'POST', mode: 'no-cors' }),
        fetch(`${url}/api/jobs`),
      ];
      return Promise.all(acts.map((act) => act.then(({ type }) => type).catch(() => 'refused')));
    }, isola.url);
    // What a page may send without asking is sent, and turned away; what it wants to read it is not given.
    expect(tried[2]).toBe('refused');
    expect(await (await page.request.get('/api/jobs')).text()).toBe(before);
  } finally {
    other.close();
  }
});
