import { mkdtempSync, copyFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openJob, painted, saved } from './bench.ts';
import { expect, test } from './isola.ts';

const DEMO = path.resolve(import.meta.dirname, '../demo');

test('a limit and a cloth are changed by the shop, seen in a job, taken up there, and taken back', { tag: '@commit' }, async ({ page }) => {
  test.setTimeout(400_000);
  await page.goto('/shop');
  await page.getByRole('tab', { name: 'Rulebook' }).click();
  await page.getByRole('spinbutton', { name: /^Limit of Needless trim/ }).fill('4');
  await page.keyboard.press('Tab');
  const change = page.getByRole('form', { name: 'Change of the rulebook' });
  await change.getByRole('button', { name: 'What it moves in the jobs' }).click();
  // Each job is audited twice, behind whatever else the machine does: the largest takes a while on a busy one.
  await expect(change.getByRole('status')).toHaveText(/^(\d+) of \1 jobs judged by it/, { timeout: 180_000 });
  await expect(change.locator('.effects li').first()).toContainText(/comes|goes/);
  await change.getByLabel('Who').fill('Mara');
  await change.getByRole('button', { name: 'Keep it so' }).click();
  await expect(change).toBeHidden();

  await page.getByRole('tab', { name: 'Cloths' }).click();
  await page.getByRole('button', { name: 'pique polo' }).click();
  const cloth = page.getByRole('form', { name: 'The cloth' });
  await expect(cloth.getByRole('link', { name: /Heron/ })).toBeVisible();
  await cloth.getByLabel('Closed layers it bears (K)').fill('2.2');
  await cloth.getByLabel('Why').fill('the sample came out stiff');
  await cloth.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByRole('row', { name: /^pique polo/ })).toContainText('2.2');

  await openJob(page, 'Heron', 'Take in');
  const news = page.locator('.news');
  await expect(news).toContainText('pique polo: Closed layers it bears (K): 2.4 → 2.2');
  await expect(news).toContainText('Needless trim: as usual → 4 mm');
  await news.getByRole('button', { name: 'Take the new values' }).click();
  await expect(news).toBeHidden();
  await saved(page);
  await page.reload();
  await painted(page);
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', 'undo: take the shop’s new values');
  await expect(news).toBeHidden();

  await page.goto('/shop');
  await page.getByRole('tab', { name: 'Changes' }).click();
  const changes = page.getByRole('region', { name: 'Changes of the shop' });
  await expect(changes.locator('li').first()).toContainText(/Mara, .*: the sample came out stiff/);
  // A row has no button once its change was taken back; those that another test made stand below.
  const before = await changes.locator('li').count();
  for (const [nth, what] of ['Cloth pique polo', 'Rulebook'].entries()) {
    await changes.locator('li', { hasText: what }).first().getByRole('button', { name: 'Take back' }).click();
    await expect(changes.locator('li')).toHaveCount(before + nth + 1);
  }
  await page.getByRole('tab', { name: 'Cloths' }).click();
  await expect(page.getByRole('row', { name: /^pique polo/ })).toContainText('2.4');
});

test('a folder is audited in the background: each file its line, what saves most first, broken ones said; one becomes a job', async ({
  page,
}) => {
  const folder = mkdtempSync(path.join(tmpdir(), 'isola-folder-'));
  try {
    for (const name of ['heron', 'kettle', 'pears']) copyFileSync(path.join(DEMO, `${name}.csv`), path.join(folder, `${name}.csv`));
    writeFileSync(path.join(folder, 'torn.csv'), 'command,x,y\nstitch,1,over there\n');
    await page.goto('/');
    await page.getByRole('link', { name: 'Folders' }).click();
    await page.getByLabel('Folder of stitch files').setInputFiles(folder);
    await page.getByLabel('Called').fill('Spring order');
    await page.getByRole('button', { name: 'Audit 4 files' }).click();
    await expect(page.getByRole('heading', { name: 'Spring order' })).toBeVisible();
    await expect(page.getByRole('status')).toContainText('4 of 4 judged, 1 could not be.', { timeout: 90_000 });
    const rows = page.locator('tbody tr');
    await expect(rows).toHaveCount(4);
    await expect(rows.first()).toContainText('heron.csv');
    await expect(rows.last()).toContainText(/torn\.csv.*line 2/i);
    const [table] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Table as CSV' }).click()]);
    expect(table.suggestedFilename()).toBe('Spring order.csv');
    await page.getByRole('button', { name: /^Take in .*pears\.csv/ }).click();
    await painted(page);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Pears');
  } finally {
    rmSync(folder, { recursive: true });
  }
});
