// npm run torture [kills | statements | disk | mutated | hostile | worst | load] [how many]: attacks on the built server, on a database of its own. See docs/reliability.md.
import { fillDisk } from './disk.ts';
import { sendHostile, sendWorst } from './hostile.ts';
import { killAtFirstStart, killAtStatements, killUnderLoad } from './kills.ts';
import { edit } from './load.ts';
import { readMutated } from './mutated.ts';
import { db } from './TorturedServer.ts';

process.env['DB_CLUSTER'] = 'postgres-torture';
process.env['DB_PORT'] ??= '54439';
const [what = 'all', many] = process.argv.slice(2);
const count = (usual: number): number => (many === undefined ? usual : Number(many));
let isGood = true;

function say(name: string, { faults, ...result }: { readonly faults: readonly string[] }): void {
  console.log(`\n${name}: ${JSON.stringify(result)}`);
  for (const fault of faults) console.log(`  FAULT ${fault}`);
  if (faults.length > 0) isGood = false;
}

if (['all', 'kills'].includes(what)) {
  say('killed at its first start', await killAtFirstStart(count(20)));
  say('killed under load, server and database', await killUnderLoad(count(30)));
}
if (['all', 'statements'].includes(what)) say('killed before every statement of its first start', await killAtStatements(count(1)));
if (['all', 'disk'].includes(what)) {
  const outcome = await fillDisk();
  if (outcome === undefined) console.log('\na full disk: not tried, a small disk cannot be mounted here');
  else say('a full disk, then room again', outcome);
}
if (['all', 'worst'].includes(what)) console.log('\nsingle files:', await sendWorst());
if (['all', 'mutated'].includes(what)) say('inputs changed by chance, read in one process', readMutated(count(20_000)));
if (['all', 'hostile'].includes(what)) say('files and bodies changed by chance', await sendHostile(count(3000)));
if (['all', 'load'].includes(what)) {
  say('one editor while four files of 2,000,000 rows are taken in', await edit(1, 20, 4, 200));
  say('50 editors of 50 jobs, a step every 4 s each', await edit(50, 30, 0, 4000));
}
db('stop');
process.exitCode = isGood ? 0 : 1;
