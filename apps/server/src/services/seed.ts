import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Transaction } from 'sequelize';
import { DEMO_JOBS } from '../../../../demo/jobs.ts';
import type { Models } from '../db/models/index.ts';
import type { JobService } from './JobService.ts';
import type { ReadJob } from './newJob.ts';
import type { ShopService } from './ShopService.ts';

/** Fills a new database once: the shop's lists, and the demo's jobs where they are wanted. What is deleted later stays deleted. */
export async function seed(models: Models, shop: ShopService, jobs: JobService, demoDir: string | undefined): Promise<void> {
  await once(models, 'shop', () => Promise.resolve((transaction) => shop.restoreDefaults(undefined, transaction)));
  if (demoDir === undefined) return;
  const made: { readonly id: string; readonly bytes: Buffer }[] = [];
  await once(models, 'demo', async () => {
    const ready: ReadJob[] = [];
    for (const { file, name, customer, dueInDays, target } of DEMO_JOBS) {
      const fileName = `${file}.csv`;
      const bytes = await readFile(path.join(demoDir, fileName));
      const due = new Date(Date.now() + dueInDays * 86_400_000).toISOString().slice(0, 10);
      ready.push(await jobs.read({ fileName, bytes, target, name, customer, due }));
    }
    return async (transaction) => {
      for (const one of ready) made.push({ id: (await jobs.insert(one, transaction)).id, bytes: one.job.bytes });
    };
  });
  for (const { id, bytes } of made) jobs.begin(id, bytes);
}

/** Does something that was not done before, in one transaction with the note that it is done; `prepare` comes before that. */
async function once(models: Models, name: string, prepare: () => Promise<(transaction: Transaction) => Promise<void>>): Promise<void> {
  if ((await models.Mark.findByPk(name)) !== null) return;
  const act = await prepare();
  await models.sequelize.transaction(async (transaction) => {
    await models.Mark.create({ name }, { transaction });
    await act(transaction);
  });
}
