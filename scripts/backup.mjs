// npm run backup [FILE]: all of the shop's data in one file, as it is at one moment; the server may run on meanwhile.
import * as fs from 'node:fs';
import path from 'node:path';
import { ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
const name = process.env.DB_NAME ?? 'isola';
await startDatabase(name);
const { dump } = await import('./db.mjs');
const stamp = new Date().toISOString().slice(0, 19).replaceAll(':', '');
const file = path.resolve(process.argv[2] ?? path.join('.data', 'backups', `isola-${stamp}.dump`));
try {
  fs.mkdirSync(path.dirname(file), { recursive: true });
  dump(name, file);
  console.log(`Everything is in ${file} (${(fs.statSync(file).size / 1048576).toFixed(1)} MB). Keep it on another disk.`);
} catch (error) {
  console.error(`No backup was made: ${error.code === 'EEXIST' ? `${file} is there already; name another file.` : error.message}`);
  process.exitCode = 1;
}
