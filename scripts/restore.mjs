// npm run restore FILE: puts a backup in place of the shop's data, once it was read whole and every job of it was replayed. What was there is kept
// beside it under another name. The server may run on: it is cut off for a moment, and answers again.
import { spawnSync } from 'node:child_process';
import * as fs from 'node:fs';
import path from 'node:path';
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
const name = process.env.DB_NAME ?? 'isola';
const coming = `${name}_coming`;
const [given] = process.argv.slice(2);
if (given === undefined || !fs.existsSync(given)) {
  console.error(given === undefined ? 'usage: npm run restore FILE' : `There is no file ${given}.`);
  process.exit(2);
}
installPackages();
build();
await startDatabase(name);
const { drop, load, recreate, SERVER, swap, url } = await import('./db.mjs');
recreate(coming);
try {
  load(coming, path.resolve(given));
  const env = { ...process.env, DATABASE_URL: url(coming, SERVER), DATABASE_OWNER_URL: url(coming) };
  const doctor = spawnSync(process.execPath, ['apps/server/dist/doctor.js'], { env, stdio: 'inherit' });
  if (doctor.status !== 0) throw new Error('jobs in it are not as they were stored (see above)');
  const old = `${name}_before_${new Date().toISOString().slice(0, 19).replaceAll(/[:T-]/g, '')}`;
  swap(coming, name, old);
  console.log(`The backup is in place. What was there before is kept as the database ${old}.`);
} catch (error) {
  drop(coming);
  console.error(`Nothing was changed: ${error.message}`);
  process.exitCode = 1;
}
