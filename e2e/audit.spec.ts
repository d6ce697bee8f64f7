import { figure, finding, openJob, painted } from './bench.ts';
import { expect, test } from './isola.ts';

test(
  'a plan mends a file: walked through, a step left out, made as one, undone; what costs nothing; a finding tried says what it does',
  { tag: '@commit' },
  async ({ page }) => {
    await openJob(page, 'Key fobs');
    const before = await figure(page, 'a piece').textContent();
    await page.keyboard.press('r');
    const plan = page.getByRole('region', { name: 'Plan of repair' });
    await expect(plan.getByRole('heading', { name: 'Plan of repair' })).toBeVisible();
    const steps = plan.locator('.steps .step');
    await expect(steps.filter({ hasText: 'A thread comes back' })).toBeVisible();
    const count = await steps.count();
    expect(count).toBeGreaterThan(1);
    await expect(plan.getByText(/30 pieces: .* less \(an estimate\)/)).toBeVisible();

    // After its first step the design is shown as it is then, and the tape with it.
    await steps.first().click();
    await expect(plan.getByRole('button', { name: 'Accept the step as one' })).toBeVisible();
    await expect(plan.locator('.steps li.ahead')).toHaveCount(count - 1);

    // One is left out, and stands there to be taken in again.
    const left = await steps.first().locator('b').textContent();
    await plan.getByRole('checkbox', { name: `Leave step 1 out: ${left}` }).uncheck();
    await expect(plan.getByText('Left out by you')).toBeVisible();
    await expect(steps.first()).not.toContainText(left!);
    await plan.getByRole('button', { name: /^Accept \d+ steps? as one|^Accept the step as one/ }).click();
    await expect(plan).toBeHidden();
    await painted(page);
    await expect(figure(page, 'a piece')).not.toHaveText(before!);
    await expect(finding(page, 'color changes more than')).toHaveCount(0);

    await page.keyboard.press('Control+z');
    await painted(page);
    await expect(figure(page, 'a piece')).toHaveText(before!);
    await expect(finding(page, 'color changes more than')).toBeVisible();

    await page.getByRole('button', { name: 'What costs nothing' }).click();
    await expect(plan.getByRole('heading', { name: 'What costs nothing' })).toBeVisible();
    await plan.getByRole('button', { name: 'Put back' }).click();

    await finding(page, 'color changes more than').getByRole('button').first().click();
    await page.getByRole('button', { name: /^Try: gather each thread/ }).click();
    await expect(finding(page, 'color changes more than').getByRole('status')).toContainText('All of it is gone then.');
    await page.keyboard.press('Escape');
    await expect(figure(page, 'a piece')).toHaveText(before!);
  },
);
