import { openJob, saved } from './bench.ts';
import { expect, test } from './isola.ts';

test('an ugly corner is mended stitch by stitch, by keyboard alone, and undone', { tag: '@commit' }, async ({ page }) => {
  await openJob(page, 'Lantern', 'Rework');
  const side = page.getByRole('complementary', { name: 'The selected object' });
  await side.getByRole('button', { name: 'shape', exact: true }).focus();
  await page.keyboard.press('Enter');
  await side.getByRole('button', { name: 'Points', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(side.getByText('Nothing picked', { exact: true })).toBeVisible();
  await page.getByRole('application', { name: /^Penetrations/ }).focus();
  // From the end to a stitch of the last object, which is picked, moved and smoothed with its neighbours.
  for (let k = 0; k < 12; k++) await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(side.getByText('1 picked', { exact: true })).toBeVisible();
  const undo = page.getByRole('button', { name: 'Undo' });
  const start = (await undo.getAttribute('title'))!;
  const x = side.getByRole('textbox', { name: 'x, mm' });
  const y = side.getByRole('textbox', { name: 'y, mm' });
  const [wasX, wasY] = [Number(await x.inputValue()), Number(await y.inputValue())];
  await page.keyboard.press('ArrowUp');
  await expect(undo).toHaveAttribute('title', /^undo: move a stitch/);
  await expect(y).toHaveValue((wasY + 0.1).toFixed(2));
  await page.keyboard.press('Shift+ArrowRight');
  await expect(x).toHaveValue((wasX + 1).toFixed(2));
  await page.keyboard.press('i');
  await expect(undo).toHaveAttribute('title', /^undo: set a stitch/);
  await page.keyboard.press('Delete');
  await expect(undo).toHaveAttribute('title', /^undo: delete a stitch/);
  await saved(page);
  // What was deleted is not picked any more; Escape leaves the tool then.
  await expect(side.getByText('Nothing picked', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('application', { name: /^Penetrations/ })).toBeHidden();
  // Four steps, two of which have one name.
  for (let k = 0; k < 4; k++) await page.keyboard.press('Control+z');
  await expect(undo).toHaveAttribute('title', start);
});

test('a part is taken out by a lasso and leaves clean ends; stitches that get too long are parted or refused', async ({ page }) => {
  await openJob(page, 'Chainring', 'Rework');
  const side = page.getByRole('complementary', { name: 'The selected object' });
  await side.getByRole('button', { name: 'shape', exact: true }).click();
  await side.getByRole('button', { name: 'Points', exact: true }).click();
  const box = (await page.locator('canvas.surface').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const around = async (size: number): Promise<void> => {
    await page.mouse.move(x - size, y - 150 - size);
    await page.mouse.down();
    for (const [dx, dy] of [
      [size, -size],
      [size, size],
      [-size, size],
      [-size, -size + 4],
    ] as const)
      await page.mouse.move(x + dx, y - 150 + dy, { steps: 4 });
    await page.mouse.up();
  };
  await around(40);
  await expect(side.getByText(/^\d+ picked$/)).toBeVisible();
  const undo = page.getByRole('button', { name: 'Undo' });
  const start = (await undo.getAttribute('title'))!;
  await side.getByRole('button', { name: /^Take out/ }).click();
  await expect(undo).toHaveAttribute('title', /^undo: take out \d+ stitches/);
  await saved(page);
  // Nothing but what ends there is left in it.
  await around(36);
  await expect(side.getByText('Nothing picked', { exact: true })).toBeVisible();
  await undo.click();
  await expect(undo).toHaveAttribute('title', start);
  await saved(page);
});
