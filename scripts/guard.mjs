// npm run guard: all that npm test checks at full length, with chance of its own. GUARD_SEED=… runs it again with the chance of an earlier run.
import { randomInt } from 'node:crypto';
import { installBrowser, installPackages, ROOT } from './setUp.mjs';

process.env.CHECKS = 'all';
process.env.GUARD_SEED ??= String(randomInt(1, 2 ** 31));
process.env.DB_CLUSTER = 'postgres-test';
process.env.DB_PORT ??= '54429';
process.env.DB_DURABLE = 'off';
process.chdir(ROOT);
installPackages();
installBrowser();
console.log(`Guard with GUARD_SEED=${process.env.GUARD_SEED}`);
const { runChecks } = await import('./checks/checks.mjs');
const failed = await runChecks({ isAll: true });
if (failed > 0)
  console.error(`To see it again: GUARD_SEED=${process.env.GUARD_SEED} npm run guard. A seed that failed becomes a test with a name.`);
process.exitCode = failed > 0 ? 1 : 0;
