import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { isSameProgram, readStitchFile } from '@isola/core';
import type { Page } from '@playwright/test';
import { expect, test } from './isola.ts';

async function openJob(page: Page, name: string, stage = 'Audit'): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: new RegExp(name) }).click();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: stage }).click();
  await painted(page);
}

/** Waits until the cloth shows a picture. */
async function painted(page: Page): Promise<void> {
  await expect(page.locator('.cloth[data-painted=true]').first()).toBeVisible();
}

const finding = (page: Page, text: string | RegExp) => page.locator('.finding', { hasText: text });
const figure = (page: Page, name: string) => page.locator('.head > div', { hasText: name }).locator('dd').first();
const saved = (page: Page) => expect(page.getByText(/^Saved \d/)).toBeVisible();

/** How many pixels of the cloth are about a color (each channel within 40). */
function countPixels(page: Page, color: readonly [number, number, number]): Promise<number> {
  return page.evaluate(([r, g, b]) => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas.surface')!;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    let count = 0;
    for (let k = 0; k < data.length; k += 4)
      if (Math.abs(data[k]! - r) < 40 && Math.abs(data[k + 1]! - g) < 40 && Math.abs(data[k + 2]! - b) < 40) count++;
    return count;
  }, color);
}

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
  await expect(page.locator('figure[data-state=drawn]')).toHaveCount(6);
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
  const trims = finding(page, /25 trims between parts that lie 1\.4 mm apart/);
  const scaleBefore = await page.locator('.scale').textContent();
  await trims.getByRole('button').first().click();
  await expect(page.locator('.places .ring')).toHaveCount(25);
  await expect(page.locator('.scale')).not.toHaveText(scaleBefore ?? '');
  await expect(figure(page, 'trims')).toHaveText('43');

  // Try: figures and tape show the result, and nothing is changed by it.
  await trims.getByRole('button', { name: /^Try/ }).click();
  await expect(page.getByText('→ 18')).toBeVisible();
  await expect(page.getByText(/if accepted \d+:\d\d \(−3:5\d\)/)).toBeVisible();
  await trims.getByRole('button', { name: 'Put back' }).click();
  await expect(page.getByText('→ 18')).toHaveCount(0);
  await trims.getByRole('button', { name: /^Try/ }).click();
  await trims.getByRole('button', { name: 'Accept' }).click();
  await expect(figure(page, 'trims')).toHaveText('18');
  await expect(page.getByText('43 as it came')).toBeVisible();
  await expect(finding(page, /25 trims/)).toHaveCount(0);

  // Keep one with a reason; undo and redo by keys.
  const stacked = finding(page, /layers pile up/);
  await stacked.getByRole('button').first().click();
  await stacked.getByRole('button', { name: 'Keep, because…' }).click();
  await page.getByRole('button', { name: 'Sewn before and sewed well' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.locator('.kept')).toContainText('Sewn before and sewed well');
  await page.keyboard.press('Control+z');
  await expect(page.locator('.kept')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(figure(page, 'trims')).toHaveText('43');
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
  await expect(page.getByRole('button', { name: /^Try (all|the)/ })).toHaveCount(0);
  await saved(page);

  // Compare, for a piece and for the order.
  await page.getByRole('link', { name: 'Compare' }).click();
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) }).first();
  await expect(row('Trims')).toContainText('43');
  await expect(row('Trims')).toContainText('−25');
  await expect(page.getByText('The order, 240 pieces')).toBeVisible();
  await expect(page.locator('ol.steps')).toContainText('because: Sewn before and sewed well');
  await page.getByRole('button', { name: 'One over the other' }).click();
  await page.getByRole('slider', { name: /as it came ends/ }).press('ArrowRight');

  // Release: what stands against it, and the files.
  await page.getByRole('link', { name: 'Release' }).click();
  await expect(page.getByText('Keep hands, hair and sleeves')).toBeVisible();
  await expect(page.getByText(/Pale mist lies as if/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Release', exact: true })).toBeDisabled();
  const files: Buffer[] = [];
  for (const format of ['CSV', 'SVG']) {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: `Download ${format}` }).click()]);
    files.push(readFileSync(await download.path()));
  }
  const [csv, svg] = files.map((file) => readStitchFile(file));
  expect(csv!.ok && svg!.ok && isSameProgram(csv!.value.program, svg!.value.program)).toBe(true);
  expect(csv!.ok && [...csv!.value.program.command].filter((c) => c === 2)).toHaveLength(18);
  await page.getByLabel('Note to go with it').fill('before the sample');
  await page.getByRole('button', { name: 'Keep without releasing' }).click();
  await expect(page.locator('.revisions li')).toHaveCount(2);

  // A reload, a server that is killed, a database that is restarted: all is as it was left.
  const asLeft = async (): Promise<void> => {
    await page.getByRole('link', { name: 'Audit' }).click();
    await expect(figure(page, 'trims')).toHaveText('18');
    await expect(page.locator('.kept')).toContainText('Sewn before and sewed well');
    await page.getByRole('link', { name: 'Release' }).click();
    await expect(page.locator('.revisions')).toContainText('before the sample');
    await expect(page.getByTitle(/^undo: lock/)).toBeEnabled();
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

test('a file of one’s own is taken in by choosing or dropping it; a bad one is refused in words and nothing is stored', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.locator('figure')).toHaveCount(6);
  const choose = (name: string, text: string) =>
    page.getByLabel('Stitch file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await choose('torn.csv', 'command,x,y\nstitch,1,2\nstitch,1,oops\n');
  await expect(page.getByRole('alert')).toContainText('torn.csv: Line 3: found “oops” as y; expected a number in mm.');
  await choose('notes.csv', 'Dear customer');
  await expect(page.getByRole('alert')).toContainText('text of another kind');
  await choose('moves.csv', `command,x,y\n${'jump,1,2\n'.repeat(3000)}`);
  await expect(page.getByRole('alert')).toContainText('3,000 jumps and no stitch');
  await page.reload();
  await expect(page.locator('figure')).toHaveCount(6);

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
  await expect(page.locator('figure')).toHaveCount(6);
});

test('two windows on one job: the second is told, nothing is lost, and its step can be made again on top', async ({ page, context }) => {
  await openJob(page, 'Kettle');
  const other = await context.newPage();
  await openJob(other, 'Kettle');
  const accept = async (on: Page, text: RegExp): Promise<void> => {
    const item = finding(on, text).first();
    await item.getByRole('button').first().click();
    await item.getByRole('button', { name: /^Try/ }).click();
    await item.getByRole('button', { name: 'Accept' }).click();
  };
  await accept(page, /longer than the machine makes/);
  await saved(page);
  const kept = finding(other, /58\.4 mm high/);
  await kept.getByRole('button').first().click();
  await kept.getByRole('button', { name: 'Keep, because…' }).click();
  await other.getByLabel('Because…').fill('these caps are cut higher');
  await other.getByRole('button', { name: 'Keep it' }).click();
  await expect(other.getByText('This job was changed in another window')).toBeVisible();
  await expect(other.getByRole('dialog')).toContainText('58.4 mm high');
  await other.getByRole('button', { name: 'Load the job and make them again' }).click();
  await expect(other.locator('.kept')).toContainText('these caps are cut higher');
  await expect(finding(other, /longer than the machine makes/)).toHaveCount(0);
  await saved(other);
  await page.reload();
  await expect(page.locator('.kept')).toContainText('these caps are cut higher');
});

test('a lost connection says so, and steps made meanwhile survive a closed page', async ({ page, context }) => {
  await openJob(page, 'Birch');
  await page.route('**/journal', (route) => route.abort());
  const jumps = finding(page, /jumps across/).first();
  await jumps.getByRole('button').first().click();
  await jumps.getByRole('button', { name: /^Try/ }).click();
  await jumps.getByRole('button', { name: 'Accept' }).click();
  await expect(page.getByText(/Not saved: no connection/)).toBeVisible();
  const address = page.url();
  await page.close();
  const again = await context.newPage();
  await again.goto(address);
  await saved(again);
  await expect(finding(again, /jumps across/)).toHaveCount(1);
  await again.reload();
  await expect(finding(again, /jumps across/)).toHaveCount(1);
});

test('the bench works by keyboard: findings, trying, views, replay, stitches, and back', async ({ page }) => {
  await openJob(page, 'Lantern');
  const pressed = (name: string) => expect(page.getByRole('button', { name, pressed: true })).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.locator('.finding.open')).toHaveCount(1);
  await page.keyboard.press('t');
  await expect(page.getByText('This one is repaired by hand')).toBeVisible();
  await page.keyboard.press('p');
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: 'Put back' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Put back' })).toHaveCount(0);
  await page.keyboard.press('k');
  await expect(page.getByText('Keep it as it is')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Keep it as it is')).toHaveCount(0);
  for (const [key, name] of [
    ['2', 'Penetrations'],
    ['3', 'Cover map'],
    ['4', 'Paths'],
    ['1', 'Thread'],
  ] as const) {
    await page.keyboard.press(key);
    await pressed(name);
  }
  const time = page.getByRole('slider', { name: 'Time in the run' });
  await page.keyboard.press('ArrowLeft');
  const last = Number(await time.getAttribute('aria-valuenow'));
  for (let k = 0; k < 30; k++) await page.keyboard.press('Shift+ArrowLeft');
  expect(Number(await time.getAttribute('aria-valuenow'))).toBeLessThan(last - 5);
  await page.keyboard.press('Alt+ArrowLeft');
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Replay' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByText('Keys on the bench')).toBeVisible();
});

test('scrubbing the tape takes stitches off the cloth and puts them back', async ({ page }) => {
  await openJob(page, 'Chainring', 'Take in');
  await page.getByRole('button', { name: 'Fit' }).click();
  const red: readonly [number, number, number] = [194, 69, 45];
  await expect.poll(() => countPixels(page, red)).toBeGreaterThan(3000);
  const strip = page.getByRole('slider', { name: 'Time in the run' });
  await strip.click({ position: { x: 4, y: 30 } });
  await expect.poll(() => countPixels(page, red)).toBeLessThan(2000);
  await page.keyboard.press('Escape');
  await expect.poll(() => countPixels(page, red)).toBeGreaterThan(3000);
});

test('a job whose cloth was deleted from the shop still opens and says so', async ({ page }) => {
  await page.goto('/shop');
  await page.getByRole('button', { name: 'Delete canvas tote' }).click();
  await expect(page.getByRole('rowheader', { name: 'canvas tote' })).toHaveCount(0);
  await openJob(page, 'Whisk', 'Take in');
  await expect(page.getByText('canvas tote was deleted from the shop')).toBeVisible();
  await page.goto('/shop');
  await page.getByRole('button', { name: 'Bring back the defaults' }).click();
  await expect(page.getByRole('rowheader', { name: 'canvas tote' })).toBeVisible();
  await page.getByRole('tab', { name: 'Rulebook' }).click();
  await expect(page.getByText('A trim costs about as much machine time as 120 stitches')).toBeVisible();
});

test('screens have no serious fault of accessibility', async ({ page }) => {
  await openJob(page, 'Heron');
  for (const stage of ['Take in', 'Audit', 'Compare', 'Release', 'Rework']) {
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: stage }).click();
    await page.waitForTimeout(300);
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect({
      stage,
      faults: violations.filter((v) => ['serious', 'critical'].includes(v.impact ?? '')).map((v) => `${v.id}: ${v.nodes[0]?.html}`),
    }).toEqual({ stage, faults: [] });
  }
  await page.goto('/');
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.filter((v) => ['serious', 'critical'].includes(v.impact ?? '')).map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
});
