import type { Locator, Page } from '@playwright/test';
import { chooseIn, countPixels, goToStage, openJob, painted, saved } from './bench.ts';
import { expect, test } from './isola.ts';

const facts = (page: Page): Locator => page.getByRole('complementary', { name: 'The selected object' });
const rows = (page: Page): Locator => page.getByRole('region', { name: 'Objects' }).locator('.row');

async function sewItSo(page: Page): Promise<void> {
  await facts(page).getByRole('button', { name: 'Sew it so' }).click();
  await saved(page);
}

test('a badge of four objects is drawn from nothing, by pointer and by typed places, and its edge is moved by a node', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Draw anew' }).click();
  await page.getByLabel('What it is called').fill('Regatta pennant');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Regatta pennant');
  await page.getByRole('link', { name: 'Draw it' }).click();
  await painted(page);
  const side = facts(page);
  await side.getByRole('button', { name: 'Draw', exact: true }).click();

  // A round shape: four nodes, each pulled along the edge.
  const box = (await page.locator('canvas.surface').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  for (const [dx, dy, px, py] of [
    [0, -150, 80, 0],
    [150, 0, 0, 80],
    [0, 150, -80, 0],
    [-150, 0, 0, -80],
  ] as const) {
    await page.mouse.move(x + dx, y + dy);
    await page.mouse.down();
    await page.mouse.move(x + dx + px, y + dy + py, { steps: 4 });
    await page.mouse.up();
  }
  await page.keyboard.press('Enter');
  await expect(side.getByRole('table', { name: 'Before and after' })).toBeVisible();
  await sewItSo(page);
  await expect(rows(page)).toHaveCount(1);

  // The others by places that are typed, each in a color and form of its own.
  const draw = async (form: string, color: string, places: readonly string[]): Promise<void> => {
    await chooseIn(side, 'What is drawn', form);
    await side.getByLabel('Color').fill(color);
    for (const place of places) {
      await side.getByLabel('Node at, x and y in mm').fill(place);
      await side.getByRole('button', { name: 'Set', exact: true }).click();
    }
    await side.getByRole('button', { name: 'End it and try' }).click();
    await sewItSo(page);
  };
  await draw('a column by its middle', '#e0a526', ['-18 -4', '0 8', '18 -4']);
  await draw('a column by its two sides', '#c0392b', ['-12 -12', '-12 -16', '0 -11', '0 -15', '12 -12', '12 -16']);
  await draw('a line', '#f5f1e6', ['-16 14', '16 14']);
  await expect(rows(page)).toHaveCount(4);
  await page.keyboard.press('Escape');

  await rows(page).first().click();
  await side.getByRole('button', { name: 'Nodes', exact: true }).click();
  const node = page.getByRole('button', { name: /^Node 1 of the outline/ });
  await node.focus();
  for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowUp');
  await expect(side.getByRole('table', { name: 'Before and after' })).toBeVisible();
  await sewItSo(page);
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', 'undo: nodes: Shape 1');
  await saved(page);
  await page.reload();
  await painted(page);
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', 'undo: nodes: Shape 1');
  await expect(rows(page)).toHaveCount(4);
  await goToStage(page, 'Audit');
  await painted(page);
  await goToStage(page, 'Release');
  await expect(page.getByText(/Regatta pennant/).first()).toBeVisible();
});

test(
  'the kettle’s trees are mended by hand: one cut in two, two picked and mirrored, one made applique; all of it undone',
  { tag: '@commit' },
  async ({ page }) => {
    await openJob(page, 'Kettle', 'Rework');
    const side = facts(page);
    const undo = page.getByRole('button', { name: 'Undo' });
    const start = (await undo.getAttribute('title'))!;
    const name = (await rows(page).first().locator('.name').textContent())!;
    await rows(page).first().click();
    await side.getByRole('button', { name: 'shape', exact: true }).click();
    await side.getByRole('button', { name: 'Cut', exact: true }).click();
    const box = (await page.locator('canvas.surface').boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.click(x - 250, y + 10);
    await page.mouse.click(x + 250, y + 14);
    await page.keyboard.press('Enter');
    await sewItSo(page);
    await expect(rows(page).filter({ hasText: `${name}, part 2` })).toHaveCount(1);

    await rows(page).nth(2).click();
    await rows(page)
      .nth(3)
      .click({ modifiers: ['Control'] });
    await chooseIn(side, 'What to do', 'Move, turn, mirror');
    await expect(side.getByText('Of the 2 picked.')).toBeVisible();
    await side.getByRole('button', { name: 'Try it' }).click();
    await expect(side.getByRole('alert')).toContainText('say how far to move it');
    await chooseIn(side, 'Mirrored', 'left to right');
    await side.getByRole('button', { name: 'Try it' }).click();
    await sewItSo(page);

    await rows(page).nth(4).click();
    await chooseIn(side, 'What to do', 'Applique');
    await side.getByLabel('Cloth laid').fill('#d8b24a');
    await side.getByLabel('Words to lay it').fill('Lay the felt');
    await side.getByRole('button', { name: 'Try it' }).click();
    await expect(side.getByText(/stop the machine before reaching in/)).toBeVisible();
    await sewItSo(page);
    const [lines] = await Promise.all([page.waitForEvent('download'), side.getByRole('button', { name: /Cutting lines/ }).click()]);
    expect(lines.suggestedFilename()).toMatch(/cutting-lines\.svg$/);
    for (let k = 0; k < 3; k++) {
      const before = (await undo.getAttribute('title'))!;
      await undo.click();
      await expect(undo).not.toHaveAttribute('title', before);
    }
    await expect(undo).toHaveAttribute('title', start);
    await saved(page);
  },
);

test('the pears get their cloth, which is seen under their stitches', async ({ page }) => {
  await openJob(page, 'Three pears', 'Rework');
  const side = facts(page);
  await side.getByRole('button', { name: 'shape', exact: true }).click();
  const cloth = side.getByRole('region', { name: 'Cloth laid on it' });
  const first = cloth.locator('input[type=color]').first();
  const violet = [122, 30, 158] as const;
  const before = await countPixels(page, violet);
  await first.fill('#7a1e9e');
  await saved(page);
  await expect(cloth.getByRole('button', { name: 'say nothing' })).toHaveCount(1);
  await expect.poll(() => countPixels(page, violet)).toBeGreaterThan(before + 2000);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cloth.getByRole('button', { name: 'say nothing' })).toHaveCount(0);
  await saved(page);
});
