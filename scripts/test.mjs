// npm test: sets everything up, then checks types, style, units and the real interface; ends with one line of totals.
import { spawn } from 'node:child_process';
import * as fs from 'node:fs';
import path from 'node:path';
import { build, installBrowser, installPackages, ROOT, startDatabase } from './setUp.mjs';

// A cluster of its own: the tests restart it, and must not disturb a server that runs beside them.
process.env.DB_CLUSTER = 'postgres-test';
process.env.DB_PORT ??= '54429';
process.chdir(ROOT);
installPackages();
installBrowser();
await startDatabase('isola_test');
build();

const RESULTS = path.join(ROOT, '.cache', 'test-results');
fs.rmSync(RESULTS, { recursive: true, force: true });
fs.mkdirSync(RESULTS, { recursive: true });
const total = { passed: 0, failed: 0 };

// Each of these takes one processor and a minute or two; the longest goes on while the unit tests run.
const linting = check('lint', [
  'node_modules/eslint/bin/eslint.js',
  '.',
  '--max-warnings',
  '0',
  '--cache',
  '--cache-location',
  '.cache/eslint',
]);
await Promise.all([
  check('types', ['node_modules/vue-tsc/bin/vue-tsc.js', '-b']),
  check('format', [
    ...['node_modules/prettier/bin/prettier.cjs', '--check', '.', '--log-level', 'warn'],
    ...['--cache', '--cache-location', '.cache/prettier'],
  ]),
]);

const unitFile = path.join(RESULTS, 'unit.json');
const isUnitGood = await runNode('unit tests', [
  '--experimental-vm-modules',
  '--no-warnings',
  'node_modules/jest/bin/jest.js',
  '--json',
  `--outputFile=${unitFile}`,
]);
count(unitFile, isUnitGood, (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests + r.numRuntimeErrorTestSuites }));

await linting;

const browserFile = path.join(RESULTS, 'browser.json');
const isBrowserGood = await runNode('browser tests', ['node_modules/@playwright/test/cli.js', 'test', '-c', 'e2e/playwright.config.ts'], {
  PLAYWRIGHT_JSON_OUTPUT_NAME: browserFile,
});
count(browserFile, isBrowserGood, (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected + r.errors.length }));

await (await import('./db.mjs')).stop();
console.log(`${total.passed} passed, ${total.failed} failed`);
process.exitCode = total.failed > 0 ? 1 : 0;

/** Runs a check that is no test, beside others: passing it counts nothing, failing it counts as one failed. What it says is shown when it ends. */
async function check(name, args) {
  const child = spawn(process.execPath, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (said += data));
  const status = await new Promise((resolve) => child.once('close', resolve));
  console.log(`\n── ${name}${status === 0 ? '' : ': failed'}\n${said.trimEnd()}`);
  if (status !== 0) total.failed++;
}

async function runNode(name, args, env = {}) {
  console.log(`\n── ${name}`);
  const child = spawn(process.execPath, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } });
  const status = await new Promise((resolve) => child.once('close', resolve));
  if (status !== 0) console.log(`── ${name}: failed`);
  return status === 0;
}

/** Adds a runner's own counts; a runner that failed without saying so counts as one failed. */
function count(file, isGood, read) {
  const counts = fs.existsSync(file) ? read(JSON.parse(fs.readFileSync(file, 'utf8'))) : { passed: 0, failed: 0 };
  total.passed += counts.passed;
  total.failed += isGood ? counts.failed : Math.max(1, counts.failed);
}
