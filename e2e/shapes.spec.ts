import { goToStage, openJob, painted, saved } from './bench.ts';
import { expect, test } from './isola.ts';

test('the lantern is mended with shapes: its pile held, an outline tried and put back, a border sewn, all of it undone and kept over a reload', async ({
  page,
}) => {
  await openJob(page, 'Lantern', 'Rework');
  const facts = page.getByRole('complementary', { name: 'The selected object' });
  await facts.getByRole('button', { name: 'shape', exact: true }).click();
  const shapes = facts.getByRole('region', { name: 'Shapes' });
  const choose = async (label: string, words: string): Promise<void> => {
    await shapes.getByRole('combobox', { name: label }).click({ force: true });
    await page.getByRole('option', { name: words, exact: true }).click();
  };
  await choose('What to do', 'Nap layer');
  await shapes.getByRole('button', { name: 'Try it' }).click();
  await expect(shapes.getByText(/stops after it for the film topping/)).toBeVisible();
  await shapes.getByRole('button', { name: 'Sew it so' }).click();
  await saved(page);
  const list = page.getByRole('region', { name: 'Objects' });
  await expect(list.getByText(/^Nap layer/).first()).toBeVisible();
  await goToStage(page, 'Audit');
  await painted(page);
  await expect(page.locator('.finding', { hasText: 'nap-holding layer under' })).toHaveCount(0);

  await goToStage(page, 'Rework');
  await painted(page);
  await facts.getByRole('button', { name: 'shape', exact: true }).click();
  await choose('What to do', 'Border');
  await shapes.getByRole('textbox', { name: 'Distance' }).fill('wide');
  await shapes.getByRole('button', { name: 'Try it' }).click();
  await expect(shapes.getByRole('alert')).toContainText('Distance takes a number');
  await shapes.getByRole('textbox', { name: 'Distance' }).fill('4');
  await shapes.getByRole('button', { name: 'Try it' }).click();
  await expect(shapes.getByRole('table', { name: 'Before and after' })).toBeVisible();
  await shapes.getByRole('button', { name: 'Step back' }).click();
  await expect(shapes.getByRole('table', { name: 'Before and after' })).toBeHidden();
  await page.reload();
  await painted(page);
  const undo = page.getByRole('button', { name: 'Undo' });
  await expect(undo).toHaveAttribute('title', 'undo: nap layer');
  await undo.click();
  await expect(undo).toHaveAttribute('title', 'nothing to undo');
});
