import { chooseIn, countPixels, goToStage, openJob, saved, steady } from './bench.ts';
import { expect, test } from './isola.ts';

const WING = /^fill, middle, 37 mm \(2\)/i;
const brass: readonly [number, number, number] = [201, 166, 103];

test(
  'a design is seen as named objects: picked in the list, on the cloth and by keyboard, with its parts alone, put right and put back',
  { tag: '@commit' },
  async ({ page }) => {
    await openJob(page, 'Heron', 'Rework');
    const list = page.getByRole('region', { name: 'Objects' });
    const facts = page.getByRole('complementary', { name: 'The selected object' });
    await expect(list.getByText(/46 objects in sewing order/)).toBeVisible();

    // The list stays where it was scrolled to, and no row jumps from under the pointer, though it holds only what is in sight.
    const row = list.getByRole('button', { name: WING });
    const places = await row.evaluate(async (button) => {
      const view = button.closest('.rows')!;
      view.scrollTop = 347;
      const seen = new Set<string>();
      for (let frame = 0; frame < 30; frame++) {
        await new Promise((resolve) => requestAnimationFrame(resolve));
        seen.add(`${view.scrollTop} ${Math.round(button.getBoundingClientRect().top)}`);
      }
      return [...seen];
    });
    expect(places).toHaveLength(1);

    // Picked by name: figures as they were drawn.
    await list.getByRole('button', { name: WING }).click();
    await expect(facts.getByRole('heading', { level: 2 })).toHaveText(WING);
    await facts.getByRole('button', { name: 'Facts' }).click();
    for (const [name, value] of [
      ['Spacing', '0.40 mm'],
      ['Angle', '128'],
      ['Stitch length', '4.00 mm'],
    ])
      await expect(facts.locator('dl > div', { hasText: name! })).toContainText(value!);
    await expect(facts.getByText('lies under').first()).toBeVisible();
    await facts.getByRole('button', { name: /tatami 3\.\d\d mm/ }).click();
    await expect(facts.getByRole('heading', { level: 2 })).toHaveText(/^tatami/i);
    await facts.getByRole('button', { name: /^for fill/ }).click();
    await expect(facts.getByRole('heading', { level: 2 })).toHaveText(WING);

    // Its cover, its underlay and its travel alone.
    const parts = page.getByRole('group', { name: 'What is shown' });
    await page.keyboard.press('0');
    await steady(page);
    const whole = await countPixels(page, brass);
    expect(whole).toBeGreaterThan(3000);
    await page.keyboard.press('u');
    await expect(parts.getByRole('button', { name: 'Underlay', pressed: true })).toBeVisible();
    await expect.poll(() => countPixels(page, brass)).toBeLessThan(whole * 0.5);
    const underlay = await countPixels(page, brass);
    expect(underlay).toBeGreaterThan(200);
    await page.keyboard.press('v');
    await expect.poll(() => countPixels(page, brass)).toBeLessThan(underlay * 0.5);
    await page.keyboard.press('c');
    await expect.poll(() => countPixels(page, brass)).toBeGreaterThan(whole * 0.7);
    await parts.getByRole('button', { name: 'Only this object' }).click();
    await parts.getByRole('button', { name: 'Everything' }).click();

    // Picked on the cloth, then stepped on from there.
    await page.keyboard.press('0');
    await steady(page);
    await page.locator('canvas.surface').click({ position: { x: 330, y: 285 } });
    await expect(facts.getByRole('heading', { level: 2 })).not.toHaveText('No object is selected');
    const picked = await facts.getByRole('heading', { level: 2 }).textContent();
    await page.keyboard.press('Alt+ArrowRight');
    await expect(facts.getByRole('heading', { level: 2 })).not.toHaveText(picked!);

    // Picked in the tape.
    await page.getByRole('slider', { name: 'Time in the run' }).click({ position: { x: 800, y: 30 } });
    await expect(facts.getByRole('heading', { level: 2 })).toHaveText(/^satin/i);
    await page.keyboard.press('Escape');

    // Narrowed to what is alike.
    await list.getByRole('button', { name: 'fill', exact: true }).click();
    await expect(list.locator('.row')).toHaveCount(3);
    await list.getByRole('button', { name: 'fill', exact: true }).click();

    // Told what it is: a step like any other, kept over a reload, undone by name. The list shows what is around the selected one: back to its top first.
    await list.locator('.rows').evaluate((view) => view.scrollTo(0, 260));
    await list.getByRole('button', { name: WING }).click();
    await chooseIn(facts, 'Tell what it is', 'something else');
    await expect(facts.getByText('Not understood')).toBeVisible();
    await saved(page);
    await page.reload();
    await expect(list.getByText(/1 to look at/)).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(list.getByText('all understood')).toBeVisible();

    await page.keyboard.press('5');
    await expect(page.getByText('Stitches run')).toBeVisible();
    await page.keyboard.press('6');
    await expect(page.getByText('Covers under it')).toBeVisible();
    await page.keyboard.press('1');

    // On a small window what stands at the foot of the cloth has room beside or above each other.
    await page.setViewportSize({ width: 1100, height: 760 });
    const [picker, scale] = await Promise.all(['.segments.parts', '.cloth .scale'].map((of) => page.locator(of).boundingBox()));
    expect(picker!.x + picker!.width < scale!.x || scale!.y + scale!.height < picker!.y).toBe(true);
    await page.setViewportSize({ width: 1280, height: 800 });

    // The docket speaks of objects by name.
    await goToStage(page, 'Audit');
    await page.locator('.finding').first().getByRole('button').first().click();
    await expect(page.locator('.finding.open .concerned')).toContainText(/^In (satin|fill|run)/);
  },
);

test('an object keeps its name and its place while those around it are sewn anew, joined, moved and undone; one place of a finding is settled alone', async ({
  page,
}) => {
  await openJob(page, 'Kettle', 'Rework');
  const list = page.getByRole('region', { name: 'Objects' });
  const facts = page.getByRole('complementary', { name: 'The selected object' });
  const heading = facts.getByRole('heading', { level: 2 });
  const rows = list.locator('.row');

  // A thread with several objects, and the third of them.
  const swatches = list.getByRole('button', { name: /^Only #/ });
  for (let k = 0; k < (await swatches.count()); k++) {
    await swatches.nth(k).click();
    if ((await rows.count()) >= 4) break;
    await swatches.nth(k).click();
  }
  await rows.nth(2).click();
  await facts.getByRole('button', { name: 'Facts' }).click();
  await facts.getByRole('button', { name: 'Rename' }).click();
  await facts.getByRole('textbox', { name: 'Name of the object' }).fill('the third one');
  await page.keyboard.press('Enter');
  await expect(heading).toHaveText('the third one');
  const stitches = await facts.locator('dl > div', { hasText: 'Stitches' }).last().textContent();

  // The one before it is sewn anew, then joined with the first.
  await rows.nth(1).click();
  await facts.getByRole('button', { name: 'spec', exact: true }).click();
  const spacing = facts.getByRole('spinbutton', { name: 'Spacing' }).first();
  await spacing.fill(String(Number(await spacing.inputValue()) + 0.15));
  await spacing.press('Tab');
  await facts.getByRole('button', { name: 'Sew it so' }).click();
  await expect(facts.getByText(/^Sewn from its spec/)).toBeVisible();
  await rows.nth(0).click();
  await facts.getByRole('button', { name: 'Facts' }).click();
  const before = await rows.count();
  await facts.getByRole('button', { name: 'Join with next' }).click();
  await expect(rows).toHaveCount(before - 1);
  const third = list.getByRole('button', { name: /^the third one/i });
  await third.click();
  await expect(facts.getByText(/^\s*Sewn as 2 of .* with this thread/)).toBeVisible();
  await facts.getByRole('button', { name: 'Sew earlier' }).click();
  await expect(facts.getByText(/^\s*Sewn as 1 of/)).toBeVisible();
  await saved(page);

  // All of it outlives a reload, and is taken back step by step; the name stays until its own turn comes.
  await page.reload();
  await expect(third).toBeVisible();
  const undo = page.getByRole('button', { name: 'Undo' });
  const itsPlace = await undo.boundingBox();
  for (const step of [/^undo: sew the third one earlier/, /^undo: join /, /^undo: .*spacing/]) {
    await expect(undo).toHaveAttribute('title', step);
    await undo.click();
    await expect(undo).not.toHaveAttribute('title', step);
    // Pressed twice in a row it is still under the pointer, whatever is said of saving beside it.
    expect(await undo.boundingBox()).toEqual(itsPlace);
  }
  await third.click();
  await expect(heading).toHaveText('the third one');
  await facts.getByRole('button', { name: 'Facts' }).click();
  await expect(facts.locator('dl > div', { hasText: 'Stitches' }).last()).toHaveText(stitches!);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(third).toBeHidden();
  await facts.getByRole('button', { name: 'Read anew' }).click();
  await expect(page.getByText('Nothing would change')).toBeVisible();

  // A finding of several places: one of them is left as it is, the others stay open.
  await goToStage(page, 'Audit');
  const findings = page.locator('.finding');
  let many = findings.first();
  for (let k = 0; k < (await findings.count()); k++) {
    many = findings.nth(k);
    await many.getByRole('button').first().click();
    if (await many.getByRole('button', { name: 'The next place' }).isVisible()) break;
  }
  const count = Number(/all (\d+) places/.exec((await many.locator('.places').textContent())!)![1]);
  await many.getByRole('button', { name: 'The next place' }).click();
  await expect(many.locator('.places')).toContainText(`place 1 of ${count}`);
  await many.getByRole('button', { name: /^Keep this place/ }).click();
  await page.getByRole('button', { name: 'Meant by the artwork' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  const mine = page.locator('.kept', { hasText: 'one place of:' });
  await expect(mine).toHaveCount(1);
  if (count > 2) await expect(many.locator('.places')).toContainText(`all ${count - 1} places`);
  await saved(page);
  await page.reload();
  await expect(mine).toHaveCount(1);
  await mine.getByRole('button', { name: 'Look again' }).click();
  await expect(mine).toHaveCount(0);
});
