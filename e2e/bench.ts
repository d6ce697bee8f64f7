import { readFileSync } from 'node:fs';
import path from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import type { Locator, Page } from '@playwright/test';
import { expect } from './isola.ts';

/** Goes to a job by its picture, then to a stage of it, and waits until it is drawn. */
export async function openJob(page: Page, name: string, stage = 'Audit'): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: new RegExp(name) }).click();
  await goToStage(page, stage);
  await painted(page);
}

/** Takes a file of the demo in once more, as a job of its own that no other test has touched: for what the demo's own job was taken in for. */
export async function takeInAnew(page: Page, like: string, file: string, name: string): Promise<void> {
  const jobs = (await (await page.request.get('/api/jobs')).json()) as { id: string; name: string }[];
  const { id } = jobs.find((job) => job.name.startsWith(like))!;
  const { initialTarget } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as { initialTarget: object };
  const multipart = {
    file: { name: path.basename(file), mimeType: 'text/csv', buffer: readFileSync(file) },
    target: JSON.stringify(initialTarget),
    name,
  };
  expect((await page.request.post('/api/jobs', { multipart })).status()).toBe(201);
}

/** Goes to a stage of the job and waits until its screen has taken the place of the one before, keys and all. */
export async function goToStage(page: Page, stage: string): Promise<void> {
  const link = page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: stage });
  await link.click();
  await expect(link).toHaveAttribute('aria-current', 'page');
}

/**
 * Waits until the cloth shows a picture and what takes longer, findings and objects, is known, too. A file that nobody has opened yet is recognized
 * first, after those that were asked for before it.
 */
export async function painted(page: Page): Promise<void> {
  await expect(page.locator('.shell[data-audited=true] .cloth[data-painted=true]').first()).toBeVisible({ timeout: 120_000 });
}

/** Chooses in the field with such a label; what is chosen now lies over the part of it that has the name. */
export async function chooseIn(within: Locator, label: string, words: string): Promise<void> {
  await within.getByRole('combobox', { name: label }).click({ force: true });
  await within.page().getByRole('option', { name: words, exact: true }).click();
}

export const finding = (page: Page, text: string | RegExp) => page.locator('.finding', { hasText: text });
export const figure = (page: Page, name: string) => page.locator('.head > div', { hasText: name }).locator('dd').first();
export const saved = (page: Page) => expect(page.getByText(/^Saved( \d|$)/)).toBeVisible();

/** Keeps the first finding with such words as it is. */
export async function keep(page: Page, text: RegExp, reason: string): Promise<void> {
  const item = finding(page, text).first();
  await item.getByRole('button').first().click();
  await item.getByRole('button', { name: 'Keep, because…' }).click();
  await page.getByLabel('Because…').fill(reason);
  await page.getByRole('button', { name: 'Keep it' }).click();
}

/** Has axe look at what is shown: no serious fault may be there. */
export async function lookAtAccess(page: Page, screen: string): Promise<void> {
  // What fades in is there; a page that lies behind another draws no frames, and its animations do not end.
  await page.evaluate(() => {
    const ends = Promise.allSettled(document.getAnimations().map(({ finished }) => finished));
    return Promise.race([ends, new Promise((resolve) => setTimeout(resolve, 300))]);
  });
  const { violations } = await new AxeBuilder({ page }).analyze();
  const faults = violations.filter((v) => ['serious', 'critical'].includes(v.impact ?? '')).map((v) => `${v.id}: ${v.nodes[0]?.html}`);
  expect({ screen, faults }).toEqual({ screen, faults: [] });
}

/** Goes through what the check list leaves to people, under a name: the cautions, and a reason for each line that is named. */
export async function passChecks(page: Page, reasons: Readonly<Record<string, string>> = {}): Promise<void> {
  for (const [line, reason] of Object.entries(reasons)) await page.getByLabel(`Why this may stay so: ${line}`).fill(reason);
  await page.getByLabel(/I have read them/).press('Space');
  await page.getByLabel('Who releases it').fill('Mara');
}

/** How many pixels of the cloth are about a color (each channel within 40). */
export function countPixels(page: Page, color: readonly [number, number, number]): Promise<number> {
  return page.evaluate(([r, g, b]) => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas.surface')!;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    let count = 0;
    for (let k = 0; k < data.length; k += 4)
      if (Math.abs(data[k]! - r) < 40 && Math.abs(data[k + 1]! - g) < 40 && Math.abs(data[k + 2]! - b) < 40) count++;
    return count;
  }, color);
}

/** Waits until the cloth stays as it is: what was asked of it last is drawn. */
export async function steady(page: Page): Promise<void> {
  let before = '';
  await expect.poll(async () => before === (before = await pictureOf(page)), { intervals: [100] }).toBe(true);
}

/** The picture of the cloth, pixel by pixel. */
export function pictureOf(page: Page): Promise<string> {
  return page.evaluate(() => document.querySelector<HTMLCanvasElement>('canvas.surface')!.toDataURL());
}
