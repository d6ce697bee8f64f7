// npm run soak [seconds each] [people | together | many]: people at work on the built server, for a bounded time. See docs/reliability.md and docs/scaling.md.
import { fillShop } from './manyJobs.ts';
import { type Soak, soak } from './soak.ts';
import { db } from './TorturedServer.ts';

process.env['DB_CLUSTER'] = 'postgres-torture';
process.env['DB_PORT'] ??= '54439';
const [seconds = '40', what = 'all'] = process.argv.slice(2);
let isGood = true;

function say(name: string, { faults, ...result }: { readonly faults: readonly string[] }): void {
  const round = (_: string, value: unknown): unknown => (typeof value === 'number' ? Math.round(value * 10) / 10 : value);
  console.log(`\n${name}: ${JSON.stringify(result, round)}`);
  for (const fault of faults) console.log(`  FAULT ${fault}`);
  if (faults.length > 0) isGood = false;
}

async function work(name: string, how: Omit<Soak, 'seconds'>): Promise<void> {
  say(`${name}, ${how.processes === 1 ? '1 process' : `${how.processes} processes`}`, await soak({ seconds: Number(seconds), ...how }));
}

for (const processes of [1, 2]) {
  if (['all', 'people'].includes(what)) {
    await work('50 people on 50 jobs, a step every 4 s each', { people: 50, jobs: 50, pause: 4000, processes });
    await work('200 people on 200 jobs, a step every 16 s each', { people: 200, jobs: 200, pause: 16_000, processes });
  }
  if (['all', 'together'].includes(what))
    await work('50 people on one job, a step every 8 s each', { people: 50, jobs: 1, pause: 8000, processes });
}
if (['all', 'many'].includes(what)) say('100,000 jobs and 1,000,000 steps', await fillShop(100_000, 10));
db('stop');
process.exitCode = isGood ? 0 : 1;
