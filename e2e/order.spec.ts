import { readFileSync } from 'node:fs';
import { chooseIn, finding, goToStage, openJob, painted, saved } from './bench.ts';
import { expect, test } from './isola.ts';

test('a better order is proposed, read, taken in part and made; by hand objects are moved with a warning, ends dragged, cuts forbidden', async ({
  page,
}) => {
  // A job of its own: others have repaired the demo's by now.
  await page.goto('/');
  await page
    .getByLabel('Stitch file')
    .setInputFiles({ name: 'ring-of-rivets.csv', mimeType: 'text/csv', buffer: readFileSync('demo/heron.csv') });
  await expect(page.getByRole('heading', { name: 'Ring of rivets' })).toBeVisible();
  await goToStage(page, 'Rework');
  await painted(page);
  const facts = page.getByRole('complementary', { name: 'The selected object' });
  const list = page.getByRole('region', { name: 'Objects' });

  // One key proposes; the tape shows how much shorter it would be, and plain figures what changes and what stays cut, and why.
  await page.keyboard.press('o');
  const figures = facts.getByRole('table', { name: 'Before and after' });
  const cuts = figures.getByRole('row', { name: /^Cuts/ });
  await expect(cuts).toContainText(/^Cuts\s*44\s*→\s*1\d$/);
  await expect(page.getByText(/if accepted .* less/)).toBeVisible();
  await expect(facts.getByText(/What lies on top stays on top/)).toBeVisible();
  await facts.getByText(/^Cuts that stay/).click();
  await expect(facts.getByText(/what is sewn later does not lead/).first()).toBeVisible();
  // A part of it: what is left unticked stays where it is.
  const changes = facts.getByRole('checkbox', { name: /^Change / });
  const count = await changes.count();
  const first = await changes.first().getAttribute('aria-label');
  await changes.first().click();
  await expect(facts.getByText(/: stays where it is/)).toBeVisible();
  await expect(facts.getByRole('checkbox', { name: first!, checked: true })).toHaveCount(0);
  expect(count).toBeGreaterThan(1);
  await expect(facts.getByRole('button', { name: 'Sew it so' })).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/saved since/)).toBeVisible();
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/saved since/)).toHaveCount(0);

  // Dragged along the tape: before it is let go it is said what would come out on top of what.
  await list.getByRole('button', { name: /^fill, middle, 37 mm \(2\)/i }).click();
  const span = (await page.locator('.span.movable').first().boundingBox())!;
  await page.mouse.move(span.x + span.width / 2, span.y + 18);
  await page.mouse.down();
  await page.mouse.move(span.x - 330, span.y + 18, { steps: 6 });
  await expect(page.locator('.tip')).toContainText(/would come out on top of/);
  await page.mouse.move(span.x + span.width / 2 + 6, span.y + 18, { steps: 6 });
  await page.mouse.up();

  // Its end is dragged: it is sewn so on trial, with the ways beside it and what they take; Escape puts it back.
  const end = page.getByRole('button', { name: 'Where it ends' });
  const at = (await end.boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x - 60, at.y + 30, { steps: 4 });
  await page.mouse.up();
  await expect(page.locator('.price')).toContainText(/run [−+±]/);
  await page.keyboard.press('Escape');
  await expect(page.locator('.price')).toHaveCount(0);

  // A rivet is cut off from the one before it: that can be forbidden, and the way then leads over.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+ArrowLeft');
  await facts.getByRole('button', { name: 'order', exact: true }).click();
  await expect(facts.locator('p', { hasText: /from satin/ })).toContainText('cut');
  await chooseIn(facts, 'Cut on the way to it', 'never cut');
  await expect(facts.locator('p', { hasText: /from satin/ })).toContainText('carried over');
  await saved(page);
  const id = /jobs\/([^/]+)/.exec(page.url())![1];
  expect((await page.request.delete(`/api/jobs/${id}`)).status()).toBe(204);
});

test('applique is sewn by step with two stops in place of six, and copies are laid out in a hoop', { tag: '@commit' }, async ({ page }) => {
  await openJob(page, 'Three pears', 'Rework');
  const facts = page.getByRole('complementary', { name: 'The selected object' });
  await facts.getByRole('button', { name: 'order', exact: true }).click();
  await expect(facts.getByText(/Stop the machine before reaching in/)).toBeVisible();
  await facts.getByRole('button', { name: 'Sew it by step' }).click();
  await expect(facts.getByRole('row', { name: /^Stops/ })).toContainText(/6\s*→\s*2/);
  await facts.getByRole('button', { name: 'Sew it so' }).click();
  await saved(page);
  await expect(page.getByRole('region', { name: 'Objects' }).getByRole('button').filter({ hasText: 'Placement line' })).toHaveCount(3);

  await page.getByRole('link', { name: 'Layout' }).click();
  const side = page.getByRole('region', { name: 'Copies in the hoop' });
  await expect(side.getByRole('status')).toContainText('in the hoop');
  await side.getByRole('textbox', { name: 'Copies' }).fill('2');
  await side.getByRole('textbox', { name: 'Copies' }).press('Tab');
  await expect(side.getByRole('status')).toContainText(/^2 in the hoop/);
  await expect(side.getByRole('row', { name: /^Stops for a piece/ })).toContainText(/2\s*1$/);
  await painted(page);
  await side.getByRole('textbox', { name: 'Copies' }).fill('40');
  await side.getByRole('textbox', { name: 'Copies' }).press('Tab');
  await expect(side.getByRole('alert')).toContainText(/40 copies .* do not fit/);
  await side.getByRole('textbox', { name: 'Copies' }).fill('2');
  await side.getByRole('textbox', { name: 'Copies' }).press('Tab');
  await saved(page);
  const stops = await finding(page, /./).count();
  expect(stops).toBe(0);
  const mayLeave = side.getByRole('button', { name: 'Download CSV' });
  const waits = side.getByText(/settle or sign it under/);
  await expect.poll(async () => (await mayLeave.isEnabled()) || (await waits.isVisible())).toBe(true);
  if (await mayLeave.isEnabled()) {
    const [file] = await Promise.all([page.waitForEvent('download'), mayLeave.click()]);
    expect(file.suggestedFilename()).toBe('three-pears-tote-2-up.csv');
  }
});
