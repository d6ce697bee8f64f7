import { readFileSync } from 'node:fs';
import type { JobSummary } from '@isola/contract';
import { saved } from './bench.ts';
import { expect, test } from './isola.ts';

test('a job stored before objects lasted opens as it was left: its steps are read, its rows stay, and work goes on from there', async ({
  page,
  isola,
}) => {
  const file = readFileSync('demo/birch.csv');
  const form = new FormData();
  form.set('file', new File([new Uint8Array(file)], 'earlier.csv'));
  const job = (await (await fetch(`${isola.url}/api/jobs`, { method: 'POST', body: form })).json()) as JobSummary;
  while ((await fetch(`${isola.url}/api/jobs/${job.id}/base`)).status === 202) await page.waitForTimeout(200);

  // What that version of the server had stored: patches of rows, a finding kept by its thread and first place, nothing that they build on.
  const lines = file.toString().trim().split('\n').slice(1);
  const row = lines.findIndex((line, k) => k > 300 && line.startsWith('stitch'));
  const [, x, y] = lines[row]!.split(',');
  const entries = [
    {
      name: 'merge: 1 stitch',
      operation: { id: 'replace-rows', patches: [{ at: row, removed: [{ command: 'stitch', x: Number(x), y: Number(y) }], inserted: [] }] },
    },
    {
      name: 'keep: as the artwork wants it',
      operation: { id: 'keep-finding', key: 'long-stitch', rule: 'long-stitch', title: 'long stitches', reason: 'meant by the artwork' },
    },
  ].map((entry) => ({ id: crypto.randomUUID(), kind: 'do', ...entry }));
  await isola.query('delete from job_bases where job_id = :id', { id: job.id });
  for (const [k, entry] of entries.entries())
    await isola.query(`insert into journal_entries (job_id, seq, entry_id, entry, chain) values (:id, :seq, :entryId, :entry, '')`, {
      ...{ id: job.id, seq: k + 1, entryId: entry.id },
      entry: JSON.stringify(entry),
    });
  await isola.query('update jobs set version = 2 where id = :id', { id: job.id });

  await page.goto(`/jobs/${job.id}/compare`);
  const steps = page.locator('.steps li');
  await expect(steps).toHaveCount(2);
  await expect(steps.nth(1)).toContainText('because: meant by the artwork');
  const undo = page.getByRole('button', { name: 'Undo' });
  await expect(undo).toBeDisabled();
  const exported = await (await fetch(`${isola.url}/api/jobs/${job.id}/program`)).text();
  const rows = exported.trim().split('\n').slice(1);
  expect(rows).toHaveLength(lines.length - 1);
  expect([...rows.slice(0, row), ...rows.slice(row)]).toEqual([...lines.slice(0, row), ...lines.slice(row + 1)]);

  // Its objects are there, a step on them is one like any other, and it alone can be taken back.
  await page.getByRole('link', { name: 'Rework' }).click();
  const list = page.getByRole('region', { name: 'Objects' });
  await list.locator('.row').first().click();
  const facts = page.getByRole('complementary', { name: 'The selected object' });
  await facts.getByRole('button', { name: 'Rename' }).click();
  await facts.getByRole('textbox', { name: 'Name of the object' }).fill('the first one');
  await page.keyboard.press('Enter');
  await expect(facts.getByRole('heading', { level: 2 })).toHaveText('the first one');
  await saved(page);
  await page.reload();
  await expect(list.getByRole('button', { name: /^the first one/i })).toBeVisible();
  await undo.click();
  await expect(list.getByRole('button', { name: /^the first one/i })).toBeHidden();
  await expect(undo).toBeDisabled();
  await saved(page);
  await page.reload();
  await page.getByRole('link', { name: 'Compare' }).click();
  await expect(steps).toHaveCount(2);
  // The list is the demo's again for the tests that follow.
  await fetch(`${isola.url}/api/jobs/${job.id}`, { method: 'DELETE' });
});
