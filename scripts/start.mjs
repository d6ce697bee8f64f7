// npm start: sets everything up, then serves; prints one address when it can be opened.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
installPackages();
await startDatabase('isola');
build();
const { folder, isRunning, SERVER, url } = await import('./db.mjs');
const isOwnDatabase = process.env.DATABASE_URL === undefined;
if (isOwnDatabase) {
  process.env.DATABASE_URL = url('isola', SERVER);
  process.env.DATABASE_OWNER_URL = url('isola');
  process.env.DATABASE_DIR = folder();
}
process.env.NODE_ENV ??= 'production';
if (isOwnDatabase) process.env.BACKUPS_DIR ??= path.resolve('.data', 'backups');
await import('../apps/server/dist/main.js');

/** When a backup is made and tried by itself, as cron has it; `off`: by somebody else, or never. */
const BACKUP_AT = process.env.BACKUP_AT ?? '30 2 * * *';
if (isOwnDatabase && BACKUP_AT !== 'off') {
  const { Cron } = await import('croner');
  new Cron(BACKUP_AT, { protect: true, unref: true }, () => {
    const child = spawn(process.execPath, ['scripts/nightly.mjs'], { stdio: 'inherit', env: process.env });
    return new Promise((resolve) => child.once('exit', resolve));
  });
}

/** So often (ms) it is looked whether the database still runs; one that died is started again. */
const LOOK_EVERY = 3000;
if (isOwnDatabase) setTimeout(look, LOOK_EVERY).unref();

async function look() {
  try {
    if (!isRunning()) {
      console.error('The database ended by itself and is started again.');
      await startDatabase('isola');
    }
  } catch (error) {
    console.error(`The database cannot be started again: ${error.message}`);
  }
  setTimeout(look, LOOK_EVERY).unref();
}
