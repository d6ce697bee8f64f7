import { chooseIn, goToStage, openJob, pictureOf, saved, steady } from './bench.ts';
import { expect, test } from './isola.ts';

const numbersOf = (text: string | null): number[] => [...(text ?? '').matchAll(/\d[\d\s ]*/g)].map((m) => Number(m[0].replace(/\D/g, '')));

test('wrong specs of a job are put right by hand on the rework screen: tried, kept as steps, and its figures fall', async ({ page }) => {
  await openJob(page, 'Whisk', 'Rework');
  const list = page.getByRole('region', { name: 'Objects' });
  const facts = page.getByRole('complementary', { name: 'The selected object' });
  await expect(list.getByText(/28 objects in sewing order/)).toBeVisible();

  // The list holds only what is in sight; fills alone are few.
  await list.getByRole('button', { name: 'fill', exact: true }).click();
  // A leaf far too dense for the thread: its band says so before anything is read.
  await list.getByRole('button', { name: /^fill, lower right, 21 mm/i }).click();
  await expect(facts.getByText(/Right here: 0\.4/)).toBeVisible();

  // A slider previews while it moves; figures stand in pairs; stepping back leaves no trace, not in one pixel.
  await steady(page);
  const picture = await pictureOf(page);
  const spacing = facts.getByRole('slider', { name: 'Spacing' });
  await spacing.focus();
  for (let k = 0; k < 12; k++) await page.keyboard.press('PageUp');
  const pairs = facts.getByRole('table', { name: 'Before and after' });
  await expect(pairs).toBeVisible();
  await expect(page.getByText(/if accepted/)).toBeVisible();
  expect(await pictureOf(page)).not.toBe(picture);
  await facts.getByRole('button', { name: 'Step back' }).click();
  await expect(page.getByText(/if accepted/)).toBeHidden();
  await expect.poll(() => pictureOf(page)).toBe(picture);

  // All values as the cloth wants them, with the reasons; kept as one step.
  await facts.getByRole('button', { name: 'As this cloth wants it' }).click();
  await expect(facts.getByText(/0\.28 mm → 0\.4\d mm/)).toBeVisible();
  const [before, after] = numbersOf(await pairs.getByRole('row', { name: /Stitches of it/ }).textContent());
  expect(after!).toBeLessThan(before! * 0.75);
  await facts.getByRole('button', { name: 'Sew it so' }).click();
  await expect(facts.getByText(/^Sewn from its spec/)).toBeVisible();
  await expect(list.getByRole('button', { name: /^fill, lower right, 21 mm.*0\.4\d mm/i })).toBeVisible();
  await saved(page);

  // By hand: the other leaf gets another kind and back, its rows are turned by the grip, its underlay loses a layer.
  await list.getByRole('button', { name: /^fill, lower right, 26 mm/i }).click();
  await chooseIn(facts, 'Sewn as', 'meander');
  await expect(page.getByText(/if accepted/)).toBeVisible();
  await facts.getByRole('button', { name: 'Step back' }).click();
  const grip = page.getByRole('slider', { name: 'Angle of the rows' });
  const angle = Number(await grip.getAttribute('aria-valuenow'));
  await grip.focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(grip).toHaveAttribute('aria-valuenow', String((angle + 10) % 180));
  await facts.getByRole('button', { name: /^Leave layer 1 out/ }).click();
  await facts.getByRole('spinbutton', { name: 'Spacing' }).fill('0.45');
  await facts.getByRole('spinbutton', { name: 'Spacing' }).press('Tab');
  await facts.getByRole('button', { name: 'Sew it so' }).click();
  await expect(facts.getByText(/^Sewn from its spec/)).toBeVisible();
  await saved(page);

  // A satin leans by an angle line across it, dragged at its end and moved by the arrow keys.
  await list.getByRole('button', { name: 'satin', exact: true }).click();
  await list
    .getByRole('button', { name: /^satin, /i })
    .first()
    .click();
  await facts.getByRole('button', { name: 'Lean the throws' }).click();
  const end = page.getByRole('button', { name: 'End of angle line 1' });
  await end.focus();
  for (let k = 0; k < 4; k++) await page.keyboard.press('Shift+ArrowUp');
  await expect(pairs).toBeVisible();
  await facts.getByRole('button', { name: 'Add a line' }).click();
  await expect(page.getByRole('button', { name: 'End of angle line 2' })).toBeVisible();
  await page.getByRole('button', { name: 'Start of angle line 2' }).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('button', { name: 'End of angle line 2' })).toBeHidden();
  await facts.getByRole('button', { name: 'Sew it so' }).click();
  await expect(facts.getByText(/^Sewn from its spec/)).toBeVisible();
  await saved(page);

  // The prediction is a view of its own.
  await page.getByRole('button', { name: 'As sewn' }).click();
  await expect(page.getByText(/an estimate: ends of rows drawn in/)).toBeVisible();
  await page.getByRole('button', { name: 'Thread', exact: true }).click();

  // The steps outlive a reload, and own stitches come back.
  await page.reload();
  await list.getByRole('button', { name: 'fill', exact: true }).click();
  await list.getByRole('button', { name: /^fill, lower right, 26 mm/i }).click();
  await expect(facts.getByText(/^Sewn from its spec/)).toBeVisible();
  await facts.getByRole('button', { name: 'Its own stitches' }).click();
  await expect(facts.getByText(/own stitches, /)).toBeVisible();
  await saved(page);
  await goToStage(page, 'Compare');
  await expect(page.getByText(/Stitches/).first()).toBeVisible();
});

test('a whole design is adapted to another thread, and opened up to a budget', { tag: '@commit' }, async ({ page }) => {
  await openJob(page, 'Heron', 'Rework');
  const facts = page.getByRole('complementary', { name: 'The selected object' });
  await chooseIn(facts, 'Thread to adapt to', '12-weight cotton');
  await expect(facts.getByText('× 1.83')).toBeVisible();
  await expect(facts.getByText(/Needle 110/)).toBeVisible();
  await facts.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByText(/if accepted/)).toBeVisible();
  await facts.getByRole('button', { name: 'Step back' }).click();

  await facts.getByLabel('Stitches, at most').fill('4400');
  await facts.getByRole('button', { name: 'Propose' }).click();
  const steps = facts.locator('.steps li');
  await expect(steps.nth(1)).toContainText(/fill, middle/i);
  await expect(page.getByText(/if accepted/)).toBeVisible();
  // Any of them can be left, and is looked at without leaving the list.
  await steps.nth(1).getByRole('checkbox').uncheck();
  await expect(steps.nth(1)).toContainText('−');
  await steps.nth(2).getByRole('button').click();
  await expect(facts.getByRole('heading', { level: 2 })).toHaveText(/^fill/i);
  await expect(steps.nth(2)).toBeVisible();
  await facts.getByRole('button', { name: 'Sew it so' }).click();
  await expect(page.getByText(/as it came/)).toBeVisible();
  await saved(page);
});
