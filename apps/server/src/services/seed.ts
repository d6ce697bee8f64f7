import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { DEMO_JOBS } from '../../../../demo/jobs.ts';
import type { Models } from '../db/models/index.ts';
import type { JobService } from './JobService.ts';
import type { ShopService } from './ShopService.ts';

/** Fills a new database once: the shop's lists, and the demo's jobs where they are wanted. What is deleted later stays deleted. */
export async function seed(models: Models, shop: ShopService, jobs: JobService, demoDir: string | undefined): Promise<void> {
  await once(models, 'shop', () => shop.restoreDefaults());
  if (demoDir === undefined) return;
  await once(models, 'demo', async () => {
    for (const { file, name, customer, dueInDays, target } of DEMO_JOBS) {
      const fileName = `${file}.csv`;
      const bytes = await readFile(path.join(demoDir, fileName));
      const due = new Date(Date.now() + dueInDays * 86_400_000).toISOString().slice(0, 10);
      await jobs.create({ fileName, bytes, target, name, customer, due });
    }
  });
}

async function once(models: Models, name: string, act: () => Promise<void>): Promise<void> {
  if ((await models.Mark.findByPk(name)) !== null) return;
  await act();
  await models.Mark.create({ name });
}
