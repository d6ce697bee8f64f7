import { figure, finding, goToStage, openJob, saved } from './bench.ts';
import { expect, test } from './isola.ts';

test(
  'a branch is begun from an earlier step, named, compared with its trunk, and outlives a reload',
  { tag: '@commit' },
  async ({ page }) => {
    await openJob(page, 'Heron crest', 'Audit');
    const accept = async (words: RegExp): Promise<void> => {
      await finding(page, words).getByRole('button').first().click();
      await finding(page, words).getByRole('button', { name: /^Try/ }).click();
      await finding(page, words).getByRole('button', { name: 'Accept' }).click();
      await expect(finding(page, words)).toHaveCount(0);
    };
    const came = (await figure(page, 'trims').textContent())!;
    await accept(/ends are not locked/);
    await accept(/trims that need not be/);
    await saved(page);
    const trunk = (await figure(page, 'trims').textContent())!;
    expect(Number(trunk)).toBeLessThan(Number(came));

    // By keyboard: the history opens, lists both steps newest first, and shows one that is pointed at.
    await page.keyboard.press('h');
    const panel = page.getByRole('complementary', { name: 'History' });
    const lines = panel.locator('ol .line');
    await expect(lines).toHaveCount(3);
    await expect(lines.first()).toContainText('carry over: 26 trims');
    await lines.nth(1).focus();
    await expect(panel.locator('figure[data-state=drawn]')).toContainText(/\d stitches, 88 × 74 mm/);
    await page.keyboard.press('Enter');
    await panel.getByRole('button', { name: 'Go here' }).click();
    await expect(figure(page, 'trims')).toHaveText(came);
    await expect(panel.locator('li.now')).toContainText('ends are not locked');
    await expect(panel.locator('li.ahead')).toContainText('carry over');
    await page.keyboard.press('Escape');
    await expect(panel).toHaveCount(0);

    // A step from here begins a branch; what was done before stays, folded.
    await accept(/of cloth will show/);
    await saved(page);
    await page.getByRole('button', { name: 'History', exact: true }).click();
    await panel.locator('li.branch .line').click();
    const left = panel.locator('li.left .line');
    await expect(left).toContainText('carry over: 26 trims');
    await left.click();
    await panel.getByRole('button', { name: 'Name this branch' }).click();
    await page.keyboard.type('Fewer trims');
    await page.keyboard.press('Enter');
    await expect(panel.locator('li.branch .line')).toContainText('Fewer trims');

    // The branch beside what is on the bench: figures, objects and what only one of them has.
    await panel.getByRole('button', { name: 'Compare with now' }).click();
    await page.keyboard.press('Escape');
    const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) }).first();
    await expect(row('Trims')).toContainText(`${trunk}${came}`);
    await expect(page.getByRole('heading', { name: 'Done only in: Fewer trims' })).toBeVisible();
    await expect(page.getByRole('region', { name: 'What differs' })).toContainText(/sewn anew|begins elsewhere/);
    await expect(row('Findings left')).toBeVisible();
    await expect(page.locator('.charts canvas')).toHaveCount(2);
    const seconds = await page
      .locator('.charts canvas')
      .first()
      .evaluate((canvas: HTMLCanvasElement) => {
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
        return data.filter((value, k) => k % 4 === 0 && value === 0x9a && data[k + 1] === 0x5a).length;
      });
    expect(seconds).toBeGreaterThan(100);
    await page.getByRole('button', { name: 'Change sides' }).click();
    await expect(row('Trims')).toContainText(`${came}${trunk}`);
    await page.getByRole('button', { name: 'Only what differs' }).click();
    await page.getByRole('button', { name: 'As sewn' }).click();
    await expect(page.getByText('As the cloth will show it')).toBeVisible();
    await page.getByRole('button', { name: 'By turns' }).click();
    await page.getByRole('button', { name: /^Show: now/ }).click();
    await page.getByRole('button', { name: 'Side by side' }).click();

    // What was kept goes by its number, is called otherwise, and is gone back to; a reload finds all of it.
    await goToStage(page, 'Release');
    await page.getByRole('button', { name: 'Keep without releasing' }).click();
    await page.getByRole('button', { name: 'Name revision 2 anew' }).click();
    await page.getByRole('textbox', { name: 'Name of revision 2' }).fill('For the sample');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Put revision 1 back on the bench' }).click();
    await expect(page.getByText('Revision 1 is on the bench again')).toBeVisible();
    await saved(page);
    await page.reload();
    await expect(page.locator('.revisions')).toContainText('For the sample');
    await page.getByRole('link', { name: 'Compare revision 2 with now' }).click();
    await expect(row('Trims')).toContainText(came);
    await expect(page.getByRole('heading', { name: 'Done only in: revision 2' })).toBeVisible();
    await page.keyboard.press('h');
    await expect(panel.locator('li.now')).toContainText('As it came in');
    await expect(panel.locator('li.branch')).toHaveCount(1);
  },
);
