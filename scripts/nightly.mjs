// npm run nightly: a backup, tried by bringing it back beside the shop's data and replaying every job of it; old ones go. Ends with 1 where it is not sound.
import { spawnSync } from 'node:child_process';
import * as fs from 'node:fs';
import path from 'node:path';
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
const name = process.env.DB_NAME ?? 'isola';
const tried = `${name}_tried`;
const folder = path.resolve(process.env.BACKUPS_DIR ?? path.join('.data', 'backups'));
installPackages();
build();
await startDatabase(name);
const { drop, dump, load, recreate, SERVER, url } = await import('./db.mjs');
const { chooseOld } = await import('./chooseOld.mjs');

const begun = Date.now();
const stamp = new Date(begun).toISOString().slice(0, 19).replaceAll(':', '');
const file = path.join(folder, `isola-${stamp}.dump`);
let outcome = { at: new Date(begun).toISOString(), file, isSound: false, megabytes: 0, seconds: 0, says: '' };
try {
  fs.mkdirSync(folder, { recursive: true });
  dump(name, file);
  outcome.megabytes = Number((fs.statSync(file).size / 1048576).toFixed(2));
  recreate(tried);
  load(tried, file);
  const env = { ...process.env, DATABASE_URL: url(tried, SERVER), DATABASE_OWNER_URL: url(tried) };
  const doctor = spawnSync(process.execPath, ['apps/server/dist/doctor.js'], { env, encoding: 'utf8', maxBuffer: 1e9 });
  const lines = doctor.stdout.trim().split('\n');
  outcome = { ...outcome, isSound: doctor.status === 0, says: lines.at(-1) || doctor.stderr.trim().slice(-300) };
  if (doctor.status !== 0) console.error(lines.filter((line) => !line.startsWith('sound')).join('\n'));
} catch (error) {
  outcome.says = error.message;
} finally {
  drop(tried);
}
outcome.seconds = Math.round((Date.now() - begun) / 1000);
// One that is not sound is kept to be looked at, and takes no sound one's place.
if (outcome.isSound) {
  const old = chooseOld(fs.readdirSync(folder), new Date(begun));
  for (const one of old) fs.rmSync(path.join(folder, one));
  outcome.gone = old.length;
}
fs.mkdirSync(folder, { recursive: true });
fs.writeFileSync(path.join(folder, 'last.json'), `${JSON.stringify(outcome, null, 2)}\n`);
console.log(
  outcome.isSound
    ? `The backup ${file} (${outcome.megabytes} MB) was brought back and tried in ${outcome.seconds} s: ${outcome.says}`
    : `NO SOUND BACKUP: ${outcome.says}`,
);
process.exitCode = outcome.isSound ? 0 : 1;
