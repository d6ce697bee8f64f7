import { readFileSync } from 'node:fs';
import { isSameProgram, readStitchFile } from '@isola/core';
import { countPixels, figure, finding, painted, passChecks, saved } from './bench.ts';
import { expect, test } from './isola.ts';

test('a job from its picture to its repaired file: find, try, accept, keep, undo, compare, take away; all of it outlives every restart', async ({
  page,
  isola,
}) => {
  test.slow();
  const foreign: string[] = [];
  page.on(
    'request',
    (request) => !request.url().startsWith(isola.url) && !/^(blob|data):/.test(request.url()) && foreign.push(request.url()),
  );
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));

  await page.goto('/');
  // Pictures are drawn as they come into sight.
  // The demo's eight, and what other tests left.
  await expect(page.locator('figure').nth(7)).toBeAttached();
  await expect(page.locator('figure[data-state=drawn]').nth(5)).toBeVisible();
  await page.getByLabel('Search the jobs').fill('rowing polo');
  await expect(page.getByRole('listitem').filter({ has: page.locator('figure') })).toHaveCount(1);
  await page.getByRole('link', { name: /Heron crest/ }).click();

  // Take in: what the file is, and what it is sewn on. A change of cloth is a step that can be undone by name.
  await painted(page);
  await expect(page.getByText('heron.csv')).toBeVisible();
  await page.getByLabel('Cloth', { exact: true }).click({ force: true });
  await page.getByRole('option', { name: 'single jersey T-shirt' }).click();
  await expect(page.getByText(/160 g\/m², stretch 35/)).toBeVisible();
  await page.getByTitle('undo: sew on single jersey T-shirt').click();
  await expect(page.getByText(/210 g\/m², stretch 18/)).toBeVisible();

  // Audit: the rivets' trims. Selecting the finding takes the cloth to its place and marks it there and on the tape.
  await page.getByRole('link', { name: 'See what is wrong with it for this cloth' }).click();
  await painted(page);
  await expect.poll(() => countPixels(page, [201, 166, 103])).toBeGreaterThan(4000);
  const trims = finding(page, /26 trims that need not be/);
  const scaleBefore = await page.locator('.scale').textContent();
  await trims.getByRole('button').first().click();
  await expect(page.locator('.places .ring')).toHaveCount(26);
  await expect(page.locator('.scale')).not.toHaveText(scaleBefore ?? '');
  await expect(figure(page, 'trims')).toHaveText('44');

  // Try: figures and tape show the result, and nothing is changed by it.
  await trims.getByRole('button', { name: /^Try/ }).click();
  await expect(page.getByText('→ 18')).toBeVisible();
  await expect(page.locator('.other')).toHaveText(/if accepted \d+:\d\d, 4:0\d less/);
  await trims.getByRole('button', { name: 'Put back' }).click();
  await expect(page.getByText('→ 18')).toHaveCount(0);
  await trims.getByRole('button', { name: /^Try/ }).click();
  await trims.getByRole('button', { name: 'Accept' }).click();
  await expect(figure(page, 'trims')).toHaveText('18');
  await expect(page.getByText('44 as it came')).toBeVisible();
  await expect(finding(page, /26 trims/)).toHaveCount(0);

  // What stands against sewing it keeps it from being released.
  await page.getByRole('link', { name: 'Release' }).click();
  await expect(page.getByText(/layers thick/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Release', exact: true })).toBeDisabled();
  await page.getByRole('link', { name: 'Audit' }).click();
  await painted(page);

  // Keep one with a reason; undo and redo by keys.
  const stacked = finding(page, /layers thick/);
  await stacked.getByRole('button').first().click();
  await stacked.getByRole('button', { name: 'Keep, because…' }).click();
  await page.getByRole('button', { name: 'Sewn before and sewed well' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.locator('.kept')).toContainText('Sewn before and sewed well');
  await page.keyboard.press('Control+z');
  await expect(page.locator('.kept')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(figure(page, 'trims')).toHaveText('44');
  await page.keyboard.press('Control+Shift+z');
  await page.keyboard.press('Control+Shift+z');
  await expect(page.locator('.kept')).toHaveCount(1);
  await expect(figure(page, 'trims')).toHaveText('18');

  // All that is left to repair, as one step.
  await page.getByRole('button', { name: /^Try (all|the)/ }).click();
  await page
    .getByRole('button', { name: /^Accept/ })
    .first()
    .click();
  await expect(finding(page, /ends are not locked/)).toHaveCount(0);
  await saved(page);

  // Compare, for a piece and for the order.
  await page.getByRole('link', { name: 'Compare' }).click();
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) }).first();
  await expect(row('Trims')).toContainText('44');
  await expect(row('Trims')).toContainText('25 less');
  await expect(page.getByText('The order, 240 pieces')).toBeVisible();
  await expect(page.locator('ol.steps')).toContainText('because: Sewn before and sewed well');
  await page.getByRole('button', { name: 'One over the other' }).click();
  await page.getByRole('slider', { name: /as it came ends/ }).press('ArrowRight');

  // Release: what stands against it, and the files.
  await page.getByRole('link', { name: 'Release' }).click();
  await expect(page.getByText('Keep hands, hair and sleeves')).toBeVisible();
  await expect(page.getByText('Nothing stands against sewing it.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Release', exact: true })).toBeDisabled();
  await passChecks(page);
  await expect(page.getByRole('button', { name: 'Release', exact: true })).toBeEnabled();
  const files: Buffer[] = [];
  for (const format of ['CSV', 'SVG']) {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: `Download ${format}` }).click()]);
    files.push(readFileSync(await download.path()));
  }
  const [csv, svg] = files.map((file) => readStitchFile(file));
  expect(csv!.ok && svg!.ok && isSameProgram(csv!.value.program, svg!.value.program)).toBe(true);
  expect(csv!.ok && [...csv!.value.program.command].filter((c) => c === 2)).toHaveLength(19);
  await page.getByLabel('Note to go with it').fill('before the sample');
  await page.getByRole('button', { name: 'Keep without releasing' }).click();
  await expect(page.locator('.revisions li')).toHaveCount(2);

  // A reload, a server that is killed, a database that is restarted: all is as it was left.
  const asLeft = async (): Promise<void> => {
    await page.getByRole('link', { name: 'Audit' }).click();
    await expect(figure(page, 'trims')).toHaveText('19');
    await expect(page.locator('.kept')).toContainText('Sewn before and sewed well');
    await page.getByRole('link', { name: 'Release' }).click();
    await expect(page.locator('.revisions')).toContainText('before the sample');
    await expect(page.getByTitle(/^undo: 3 repairs/)).toBeEnabled();
  };
  await page.reload();
  await asLeft();
  await isola.end('SIGKILL');
  await isola.start();
  await page.reload();
  await asLeft();
  isola.restartDatabase();
  await page.reload();
  await asLeft();
  expect(foreign).toEqual([]);
  expect(errors).toEqual([]);
});

test(
  'a file of one’s own is taken in by choosing or dropping it; a bad one is refused in words and nothing is stored',
  { tag: '@commit' },
  async ({ page }) => {
    await page.goto('/');
    // The demo's eight, and what other tests left.
    await expect(page.locator('figure').nth(7)).toBeAttached();
    const count = await page.locator('figure').count();
    const choose = (name: string, text: string) =>
      page.getByLabel('Stitch file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
    await choose('torn.csv', 'command,x,y\nstitch,1,2\nstitch,1,oops\n');
    await expect(page.getByRole('alert')).toContainText('torn.csv: Line 3: found “oops” as y; expected a number in mm.');
    await choose('notes.csv', 'Dear customer');
    await expect(page.getByRole('alert')).toContainText('text of another kind');
    await choose('moves.csv', `command,x,y\n${'jump,1,2\n'.repeat(3000)}`);
    await expect(page.getByRole('alert')).toContainText('3\u202f000 jumps and no stitch');
    await page.reload();
    await expect(page.locator('figure')).toHaveCount(count);

    const drawing =
      '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="-30 -20 60 40"><path d="M-25 0C-10 -30 10 30 25 0" stroke="#b03040" fill="none"/></svg>';
    const data = await page.evaluateHandle((text) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([text], 'ribbon.svg', { type: 'image/svg+xml' }));
      return transfer;
    }, drawing);
    await page.dispatchEvent('.jobs', 'dragover', { dataTransfer: data });
    await expect(page.getByText('Let go to take it in')).toBeVisible();
    await page.dispatchEvent('.jobs', 'drop', { dataTransfer: data });
    await expect(page.getByRole('heading', { name: 'Ribbon', exact: true })).toBeVisible();
    await painted(page);
    await expect.poll(() => countPixels(page, [176, 48, 64])).toBeGreaterThan(50);
    await page.getByRole('link', { name: 'Isola: to the jobs' }).click();
    await page.getByRole('button', { name: 'Delete Ribbon' }).click();
    await page.getByRole('button', { name: 'Delete', exact: true }).click();
    await expect(page.locator('figure')).toHaveCount(count);
  },
);
