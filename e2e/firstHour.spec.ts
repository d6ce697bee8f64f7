import type { Page } from '@playwright/test';
import { finding, goToStage, painted, passChecks, saved } from './bench.ts';
import { expect, test } from './isola.ts';

/** Two satins of one thread, cut apart for a millimetre, far from the hoop's center: as a file of other hands may come. */
function foreignFile(): string {
  const rows = ['command,x,y,color,note', 'color,,,#1f4e5f,Harbor', 'jump,70,40,,'];
  const lock = (x: number, y: number): void => {
    for (let k = 0; k < 4; k++) rows.push(`stitch,${k % 2 === 0 ? x : x + 0.7},${y},,`);
  };
  const column = (x: number, from: number, by: number): void => {
    for (let k = 0; k < 60; k++) rows.push(`stitch,${x + (k % 2) * 3},${(from + by * k).toFixed(2)},,`);
  };
  lock(70, 40);
  column(70, 40, 0.2);
  lock(73, 51.8);
  rows.push('trim,,,,', 'jump,74.2,51.8,,');
  lock(74.2, 51.8);
  column(74.2, 51.8, -0.2);
  lock(74.2, 40);
  return [...rows, 'trim,,,,', 'end,,,,'].join('\n');
}

test('the first hour: a foreign file is taken in, centered, understood, repaired, released, changed, and put back', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/');
  await page.getByLabel('Stitch file').setInputFiles({ name: 'badge.csv', mimeType: 'text/csv', buffer: Buffer.from(foreignFile()) });
  await painted(page);

  // It is not centered: that is said with its figures, and repaired from where it is seen; the stitches stay as they are.
  await expect(page.getByText(/Its middle lies 73\.6, 45\.9 mm from the hoop’s center/)).toBeVisible();
  await page.getByRole('link', { name: 'See what is wrong with it for this cloth' }).click();
  const hoop = finding(page, /would leave the field of the round 120 hoop/);
  await hoop.getByRole('button').first().click();
  await expect(hoop).toContainText('wear eye protection');
  await hoop.getByRole('button', { name: 'Try: center it in the hoop' }).click();
  await hoop.getByRole('button', { name: 'Accept' }).click();
  await expect(hoop).toHaveCount(0);
  await goToStage(page, 'Take in');
  await expect(page.getByLabel('Middle, mm right')).toHaveValue('0.0');
  await page.getByLabel('Turned, ° left').fill('90');
  await page.getByLabel('Turned, ° left').press('Enter');
  await expect(page.getByTitle('undo: turn it to 90° in the hoop')).toBeEnabled();
  await page.getByRole('button', { name: 'Undo' }).click();

  // A finding names what it is about; what is tried is made by Enter, wherever the focus is.
  await goToStage(page, 'Audit');
  const trim = finding(page, /1 trim between parts that lie 0\.5 mm apart/);
  await trim.getByRole('button').first().click();
  await page.keyboard.press('t');
  await expect(page.locator('.other')).toHaveText(/if accepted .* less/);
  await page.keyboard.press('Enter');
  await expect(trim).toHaveCount(0);
  await expect(page.locator('.other')).toHaveText(/as it came .* saved since/);
  await saved(page);

  // It goes out under the number of its release; what is changed later is another, and both are told apart.
  await goToStage(page, 'Release');
  await passChecks(page);
  await page.getByRole('button', { name: 'Release', exact: true }).click();
  await expect(page.locator('.revisions li')).toHaveCount(2);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download CSV' }).click()]);
  expect(download.suggestedFilename()).toBe('badge-r2.csv');
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  await expect(page.getByRole('status').filter({ hasText: 'Revision 2 was released' })).toContainText(
    'What is on the bench now is another',
  );
  await page.getByRole('link', { name: /Isola/ }).first().click();
  const row = page.getByRole('listitem').filter({ hasText: 'Badge' });
  await expect(row).toContainText('Released, changed since');
  await page.getByLabel('Search the jobs').fill('released badge');
  await row.getByRole('link').click();
  await goToStage(page, 'Release');
  await page.getByRole('button', { name: 'Put revision 2 back on the bench' }).click();
  await expect(page.getByText('Revision 2 is on the bench again')).toBeVisible();
  await saved(page);
  await goToStage(page, 'Audit');
  await expect(trim).toHaveCount(0);
  await removeJob(page);
});

/** The job that is open leaves nothing for the tests after it. */
async function removeJob(page: Page): Promise<void> {
  const id = /jobs\/([^/]+)/.exec(page.url())![1]!;
  await page.goto('/');
  expect((await page.request.delete(`/api/jobs/${id}`)).status()).toBe(204);
}

/** Goes on by Tab until what has the focus is called so. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let k = 0; k < 120; k++) {
    await page.keyboard.press('Tab');
    const at = await page.evaluate(() => {
      const { activeElement: e } = document;
      return (e?.getAttribute('aria-label') ?? e?.textContent ?? '').trim();
    });
    if (name.test(at)) return;
  }
  throw new Error(`Tab does not come to ${name}`);
}

test('from audit to release by keyboard alone', { tag: '@commit' }, async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  const file = { name: 'pennant.csv', mimeType: 'text/csv', buffer: Buffer.from(foreignFile()) };
  expect((await page.request.post('/api/jobs', { multipart: { file } })).status()).toBe(201);
  await page.goto('/');
  await expect(page.locator('figure').first()).toBeVisible();
  await page.getByText('Pennant', { exact: true }).waitFor();
  await tabTo(page, /^Pennant/);
  await page.keyboard.press('Enter');
  await painted(page);
  await tabTo(page, /^Audit$/);
  await page.keyboard.press('Enter');
  await painted(page);
  await expect(page.locator('.finding').first()).toBeVisible();
  const count = await page.locator('.finding').count();
  // Each finding in turn: what can be repaired is, all else is kept with a reason.
  for (let k = 0; k < count; k++) {
    const left = count - k;
    await expect(page.locator('.finding')).toHaveCount(left);
    await page.keyboard.press('n');
    await expect(page.locator('.finding.open')).toHaveCount(1);
    if ((await page.locator('.finding.open .check').count()) > 0) {
      await page.keyboard.press('t');
      await expect(page.locator('.finding.open').getByRole('button', { name: 'Accept' })).toBeVisible();
      await page.keyboard.press('Enter');
    } else {
      await page.keyboard.press('k');
      await expect(page.getByLabel('Because…')).toBeFocused();
      await page.keyboard.type('the customer has seen it');
      await tabTo(page, /^Keep it$/);
      await page.keyboard.press('Enter');
      await expect(page.getByLabel('Because…')).toHaveCount(0);
    }
    if (left > 1) await expect(page.locator('.finding')).toHaveCount(left - 1);
  }
  await saved(page);
  await tabTo(page, /^Release$/);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Nothing stands against sewing it.')).toBeVisible();
  // The check list: a tick for the cautions, a name, and then the button that they free.
  await page.evaluate(() => document.querySelector<HTMLElement>('.column')!.focus());
  while ((await page.evaluate(() => document.activeElement?.getAttribute('type'))) !== 'checkbox') await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Mara');
  await tabTo(page, /^Keep without releasing$/);
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(page.locator('.revisions li')).toHaveCount(2);
  await removeJob(page);
});
