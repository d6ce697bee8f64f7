// npm run export [FOLDER]: all of the shop as open files, in a folder that is not there yet.
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { connectDatabase } from './db/connect.ts';
import { Bus } from './services/Bus.ts';
import { exportShop } from './services/exportShop.ts';
import { JobService } from './services/JobService.ts';
import { SewOuts } from './services/SewOuts.ts';
import { ShopService } from './services/ShopService.ts';
import { DesignPool } from './workers/DesignPool.ts';

const { DATABASE_URL, DATABASE_OWNER_URL } = z.object({ DATABASE_URL: z.url(), DATABASE_OWNER_URL: z.url().optional() }).parse(process.env);
const folder = path.resolve(process.argv[2] ?? path.join('.data', 'exports', `isola-${new Date().toISOString().slice(0, 10)}`));
const models = await connectDatabase(DATABASE_URL, { ownerUrl: DATABASE_OWNER_URL });
const pool = new DesignPool(path.join(path.dirname(fileURLToPath(import.meta.url)), 'design.worker.js'));
try {
  mkdirSync(path.dirname(folder), { recursive: true });
  mkdirSync(folder);
  const services = { jobs: new JobService(models, pool, new Bus(models, '')), shop: new ShopService(models), sewOuts: new SewOuts(models) };
  const { jobs, files, problems } = await exportShop(models, services, (name, content) => {
    const at = path.join(folder, name);
    mkdirSync(path.dirname(at), { recursive: true });
    writeFileSync(at, content);
  });
  for (const problem of problems) console.error(`Not written: ${problem}`);
  console.log(`${jobs} jobs are in ${folder}, ${files} files.`);
  process.exitCode = problems.length === 0 ? 0 : 1;
} catch (error) {
  const isThere = (error as { code?: string }).code === 'EEXIST';
  console.error(`Nothing was exported: ${isThere ? `${folder} is there already; name another folder.` : String(error)}`);
  process.exitCode = 1;
} finally {
  await pool.close();
  await models.sequelize.close();
}
