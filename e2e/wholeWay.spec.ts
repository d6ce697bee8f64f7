import { readFileSync } from 'node:fs';
import path from 'node:path';
import { decodeLayout, readStitchFile, SIMULATED_LAYOUT } from '@isola/core';
import { finding, goToStage, lookAtAccess, painted, passChecks, saved } from './bench.ts';
import { expect, test } from './isola.ts';

const FILE = path.join(import.meta.dirname, '../demo/birch.csv');

test('the whole way by keyboard: taken in, repaired, released, sewn on the simulated machine, and a sample recorded that the cloth learns of', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Take in a file' }).press('Enter'),
  ]);
  await chooser.setFiles(FILE);
  await painted(page);
  const go = (stage: string): Promise<void> =>
    page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: stage }).press('Enter');

  // Audit: the first repair is tried and made by its keys.
  await go('Audit');
  await painted(page);
  const open = finding(page, /./).first();
  await open.getByRole('button').first().press('Enter');
  await page.keyboard.press('t');
  await expect(page.locator('.other')).toHaveText(/if accepted/);
  await page.keyboard.press('Enter');
  await saved(page);

  // Release: gone through, signed, and taken away as the machine's own file.
  await go('Release');
  const release = page.getByRole('button', { name: 'Release', exact: true });
  await expect(release).toBeDisabled();
  const stops = await page.getByLabel(/Why this may stay so: This stands against/).count();
  await passChecks(page, stops > 0 ? { 'This stands against sewing it': 'sewn before on pique' } : {});
  await expect(release).toBeEnabled();
  await release.press('Enter');
  await expect(page.getByText('Released as revision 2.')).toBeVisible();
  const download = async (name: string): Promise<Buffer> => {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page
        .locator('.files a, .files button')
        .filter({ hasText: `Download ${name}` })
        .press('Enter'),
    ]);
    return readFileSync(await file.path());
  };
  const decoded = decodeLayout(await download('ISLA'), SIMULATED_LAYOUT);
  expect(decoded.ok && decoded.value.program.threads.length).toBeGreaterThan(2);
  expect((await download('PNG')).subarray(1, 4).toString()).toBe('PNG');
  const json = readStitchFile(await download('JSON'));
  expect(json.ok && json.value.kind).toBe('json');

  // Sewn to its end on the simulated machine.
  await page.getByRole('link', { name: 'Sew it on the simulated machine' }).press('Enter');
  const machine = page.getByRole('complementary', { name: 'The simulated machine' });
  await machine.getByRole('button', { name: '× 60' }).press('Enter');
  await machine.getByRole('button', { name: 'Start' }).press('Enter');
  await expect(machine.getByRole('alert')).toContainText('The piece is sewn.', { timeout: 120_000 });

  // A sample: measured at the numbered places, recorded, and taken up by the shop.
  await go('Sew-outs');
  const places = page.locator('aside tbody tr');
  await expect(places.first()).toBeVisible();
  await page.getByLabel(/Minutes, without standing/).fill('9.5');
  for (let k = 0; k < (await places.count()); k++) {
    const expected = Number(await places.nth(k).locator('td').nth(1).textContent());
    await places
      .nth(k)
      .getByRole('spinbutton')
      .fill(Math.max(0, expected - 0.3).toFixed(1));
  }
  await page.getByRole('button', { name: 'Record the sample' }).press('Enter');
  const polo = page.getByRole('article', { name: /What pique polo taught/ });
  await expect(polo).toContainText(/pull a side, mm.*→/);
  await lookAtAccess(page, 'Sew-outs');
  await polo.getByRole('button', { name: 'What it moves in open jobs' }).press('Enter');
  await expect(polo.getByRole('status')).toContainText(/(\d+) of \1 jobs looked at/);
  await polo.getByRole('button', { name: 'Take it up' }).press('Enter');
  await expect(polo).toContainText(/In use, from 1 sample/);

  // Its photo lies over the design by three points, moved by arrow keys.
  const photo = await page.locator('section.cloth').screenshot();
  await page.getByLabel('Photos of the sample').setInputFiles({ name: 'sample.png', mimeType: 'image/png', buffer: photo });
  await page.getByRole('button', { name: 'Lay it over the design' }).press('Enter');
  await page.getByRole('button', { name: 'Point 1 in the photo; arrow keys move it' }).press('Shift+ArrowLeft');
  await lookAtAccess(page, 'A photo being laid');
  await page.locator('.foot').getByRole('button', { name: 'Lay it over the design' }).press('Enter');
  await expect(page.locator('.over img')).toBeVisible();
  await page
    .getByLabel('Photos of the sample')
    .setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByText('notes.png is no picture')).toBeVisible();

  // It is in the logbook, after a reload as before.
  await page.reload();
  await expect(page.getByLabel(/Minutes, without standing/)).toHaveValue('9.5');
  await page.getByRole('link', { name: 'All of the shop' }).press('Enter');
  await expect(page.getByRole('link', { name: 'Birch' })).toBeVisible();
  await expect(page.locator('canvas')).toHaveCount(2);
  await lookAtAccess(page, 'Logbook');
});

test('pages of the shop are planned, practised and read without a serious fault of accessibility', async ({ page }) => {
  test.setTimeout(180_000);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/board');
  const orders = page.locator('[data-order]');
  await expect(orders.first()).toBeVisible();
  // By hand, before anything is proposed: on the first machine, and on to the second.
  const name = (await orders.first().locator('b').textContent())!;
  await orders.first().press('ArrowDown');
  const lanes = page.locator('.lane');
  await expect(lanes.first().getByRole('button', { name })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(lanes.nth(1).getByRole('button', { name })).toBeVisible();
  // By mouse: what that makes late is said before it is let go.
  const bar = lanes.nth(1).getByRole('button', { name });
  await bar.dragTo(page.getByRole('region', { name: 'Not planned' }));
  await expect(lanes.nth(1).getByRole('button', { name })).toHaveCount(0);
  await page.getByRole('button', { name: 'Propose a plan' }).click();
  await expect(page.locator('.proposal')).toContainText('Proposed:');
  await lookAtAccess(page, 'Board');
  await page.getByRole('button', { name: 'Take it up' }).click();
  await expect(page.locator('.waiting li')).toHaveCount(0);
  await page.locator('.bar').first().click();
  await expect(page.locator('.card')).toContainText('Estimates.');
  await page.reload();
  await expect(page.locator('.bar').first()).toBeVisible();

  await page.goto('/shop');
  for (const tab of ['Cloths', 'Machines', 'Machine files', 'Rulebook', 'Changes']) {
    await page.getByRole('tab', { name: tab, exact: true }).click();
    await lookAtAccess(page, tab);
  }
  await page.goto('/audits');
  await lookAtAccess(page, 'Folders');

  // Practice: faults planted in the whisk, one of them named, and all told.
  await page.goto('/practice');
  await page.getByRole('radio', { name: /Whisk and wheat/ }).check({ force: true });
  await lookAtAccess(page, 'Practice');
  await page.getByRole('button', { name: 'Plant them and begin' }).click();
  await painted(page);
  const panel = page.getByRole('region', { name: 'Practice' });
  await expect(panel).toContainText('3 faults to find');
  await expect(page.locator('.finding')).toHaveCount(0);
  await page.locator('canvas.surface').click({ position: { x: 320, y: 480 } });
  await panel.getByLabel('What is wrong with it').selectOption({ label: 'Too open to cover' });
  await panel.getByRole('button', { name: 'Say so' }).click();
  await expect(panel.locator('.claims li')).toHaveCount(1);
  await lookAtAccess(page, 'Practice on the bench');
  await panel.getByRole('button', { name: /I am done/ }).click();
  await expect(panel).toContainText(/\d of 3 found, 0 mended/);
  await page.getByRole('button', { name: 'The docket of all that is left' }).click();
  await expect(page.locator('.finding').first()).toBeVisible();
  await goToStage(page, 'Layout');
  await painted(page);
  await lookAtAccess(page, 'Layout');
});
