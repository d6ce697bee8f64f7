import { countPixels, goToStage, lookAtAccess, openJob } from './bench.ts';
import { expect, test } from './isola.ts';

test('the bench works by keyboard: findings, trying, views, replay, stitches, and back', { tag: '@commit' }, async ({ page }) => {
  await openJob(page, 'Lantern');
  const pressed = (name: string) => expect(page.getByRole('button', { name, pressed: true })).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.locator('.finding.open')).toHaveCount(1);
  await page.keyboard.press('n');
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
  await page.getByRole('button', { name: 'canvas tote' }).click();
  const cloth = page.getByRole('form', { name: 'The cloth' });
  await cloth.getByLabel('Who').fill('Mara');
  await cloth.getByRole('button', { name: 'Delete' }).click();
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
  const look = (screen: string): Promise<void> => lookAtAccess(page, screen);
  await openJob(page, 'Heron');
  for (const stage of ['Take in', 'Audit', 'Compare', 'Release', 'Rework']) {
    await goToStage(page, stage);
    if (stage === 'Compare') await expect(page.locator('.charts canvas')).toHaveCount(2);
    await look(stage);
  }
  await page.keyboard.press('h');
  await expect(page.getByRole('complementary', { name: 'History' })).toBeVisible();
  await look('History');
  await page.keyboard.press('Escape');
  await goToStage(page, 'Release');
  await page.getByRole('link', { name: 'Sew it on the simulated machine' }).click();
  // It is worked by keyboard: begun, its thread broken, put right and gone on.
  await expect(page.locator('.machine .cloth[data-painted=true]')).toBeVisible();
  const machine = page.getByRole('complementary', { name: 'The simulated machine' });
  await machine.getByRole('button', { name: '× 60' }).click();
  await machine.getByRole('button', { name: 'Start' }).press('Enter');
  await expect(machine.getByRole('button', { name: 'Halt' })).toBeVisible();
  await expect(machine.locator('.clock').nth(1)).toHaveText(/[1-9]/);
  await machine.getByRole('button', { name: 'Break the thread' }).press('Enter');
  await expect(machine.getByRole('alert')).toContainText('Thread it again');
  await look('The simulated machine');
  await machine.getByRole('button', { name: 'Done, go on' }).press('Enter');
  await expect(machine.getByRole('alert')).toContainText('The piece is sewn.', { timeout: 120_000 });
  await expect(machine.getByText('The thread broke once.')).toBeVisible();
  await page.goto('/');
  await expect(page.locator('figure').nth(7)).toBeAttached();
  await look('Jobs');
});
