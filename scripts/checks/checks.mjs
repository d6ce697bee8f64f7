// All checks of the project, for `npm test` (a commit) and `npm run guard` (all of it).
import * as fs from 'node:fs';
import path from 'node:path';
import { ROOT } from '../setUp.mjs';
import { runQueue } from './queue.mjs';

const RESULTS = path.join(ROOT, '.cache', 'test-results');
const SECONDS = path.join(ROOT, 'scripts/checks/seconds.json');
/** Processes that run at once: each of the checks takes about one processor. */
const WIDTH = 2;
/** About so long (s) unit tests of one process take together. */
const SHARE = 45;
/** Of a file that was never timed. */
const UNKNOWN_SECONDS = 4;

/** Runs all checks and prints what fails, and one line of totals at the end. Returns how many failed. */
export async function runChecks({ isAll }) {
  fs.rmSync(RESULTS, { recursive: true, force: true });
  fs.mkdirSync(RESULTS, { recursive: true });
  const total = { passed: 0, failed: 0 };
  const begun = performance.now();
  await runQueue([...itemsOf(isAll)], WIDTH, (item, { isGood, seconds, output }) => {
    const counts = readCounts(item.name, isGood);
    total.passed += counts.passed;
    total.failed += counts.failed;
    const said = counts.passed > 0 ? `, ${counts.passed} passed` : '';
    console.log(`── ${item.name}: ${isGood ? 'good' : 'FAILED'}${said}, ${seconds.toFixed(0)} s`);
    if (!isGood) console.log(output);
  });
  const { stop } = await import('../db.mjs');
  await stop();
  if (process.env.RECORD_SECONDS) recordSeconds();
  console.log(`All checks took ${((performance.now() - begun) / 1000).toFixed(0)} s.`);
  console.log(`${total.passed} passed, ${total.failed} failed`);
  return total.failed;
}

function* itemsOf(isAll) {
  const known = fs.existsSync(SECONDS) ? JSON.parse(fs.readFileSync(SECONDS, 'utf8')) : {};
  const secondsOf = (file) => known[file] ?? UNKNOWN_SECONDS;
  yield { name: 'database', args: ['scripts/db.mjs', 'start'], env: { DB_NAME: 'isola_test' }, seconds: 2 };
  yield { name: 'bundles', args: ['scripts/testing/bundles.mjs'], seconds: 3 };
  yield { name: 'build of the server', args: ['scripts/build.mjs', 'server'], seconds: 1 };
  yield { name: 'build of the page', args: ['scripts/build.mjs', 'web'], seconds: 15 };
  yield { name: 'types', args: ['scripts/checks/types.mjs'], seconds: 45 };
  yield { name: 'lint', args: ['scripts/checks/lint.mjs'], seconds: 30 };
  yield { name: 'format', args: [...PRETTIER, '--check', '.', '--log-level', 'warn'], seconds: 12 };
  if (isAll) yield { name: 'unused exports', args: ['node_modules/knip/bin/knip.js', '--no-progress'], seconds: 10 };

  // Tests of the server restart and fill it: they have what is built, the others wait for the bundles alone.
  for (const [kind, folders, after] of [
    ['units', ['packages', 'apps/web', 'bench', 'demo', 'scripts'], ['bundles']],
    ['server', ['apps/server', 'torture'], ['bundles', 'database', 'build of the server']],
  ]) {
    const files = filesBelow(folders, /\.test\.ts$/);
    for (const [k, part] of shares(files, secondsOf, SHARE).entries()) {
      const name = `${kind} ${k + 1}`;
      const args = [...JEST, '--json', `--outputFile=${resultsOf(name)}`, '--runInBand', '--runTestsByPath', ...part];
      yield { name, args, after, seconds: sum(part, secondsOf) };
    }
  }

  yield {
    name: 'filled shop',
    args: ['scripts/testing/fillShop.mjs'],
    after: ['build of the server', 'build of the page'],
    seconds: 15,
  };
  const specs = filesBelow(['e2e'], /\.spec\.ts$/).filter(
    (name) => isAll || fs.readFileSync(path.join(ROOT, name), 'utf8').includes('@commit'),
  );
  const each = Math.ceil(sum(specs, secondsOf) / WIDTH);
  for (const [k, part] of shares(specs, secondsOf, each).entries()) {
    const name = `browser ${k + 1}`;
    const args = [
      'node_modules/@playwright/test/cli.js',
      'test',
      '-c',
      'e2e/playwright.config.ts',
      ...part,
      ...(isAll ? [] : ['--grep', '@commit']),
    ];
    const env = { PLAYWRIGHT_JSON_OUTPUT_NAME: resultsOf(name), BROWSER_LANE: String(k) };
    yield { name, args, env, after: ['filled shop'], seconds: sum(part, secondsOf) };
  }
}

const PRETTIER = ['node_modules/prettier/bin/prettier.cjs', '--cache', '--cache-location', '.cache/prettier'];
const JEST = ['--experimental-vm-modules', '--no-warnings', 'node_modules/jest/bin/jest.js'];
const resultsOf = (name) => path.join(RESULTS, `${name.replaceAll(' ', '-')}.json`);
const sum = (files, secondsOf) => files.reduce((total, file) => total + secondsOf(file), 0);

function filesBelow(folders, wanted) {
  return folders
    .flatMap((folder) => fs.readdirSync(path.join(ROOT, folder), { recursive: true }).map((name) => path.join(folder, name)))
    .filter((name) => wanted.test(name) && !name.includes('node_modules'))
    .sort();
}

/** Files in groups of about so many seconds: the longest first, each to the group that has least. */
function shares(files, secondsOf, seconds) {
  const groups = Array.from({ length: Math.max(1, Math.round(sum(files, secondsOf) / seconds)) }, () => []);
  for (const file of [...files].sort((a, b) => secondsOf(b) - secondsOf(a)))
    groups.reduce((least, group) => (sum(group, secondsOf) < sum(least, secondsOf) ? group : least)).push(file);
  return groups.filter((group) => group.length > 0);
}

/** A runner's own counts; what failed without saying so counts as one failed. */
function readCounts(name, isGood) {
  const counts = { passed: 0, failed: 0 };
  if (fs.existsSync(resultsOf(name))) {
    const results = JSON.parse(fs.readFileSync(resultsOf(name), 'utf8'));
    if (results.stats !== undefined) {
      counts.passed = results.stats.expected + results.stats.flaky;
      counts.failed = results.stats.unexpected + results.errors.length;
    } else {
      counts.passed = results.numPassedTests;
      counts.failed = results.numFailedTests + results.numRuntimeErrorTestSuites;
    }
  }
  return { ...counts, failed: isGood ? counts.failed : Math.max(1, counts.failed) };
}

/** Keeps how long each file took, for the order of the next runs. */
function recordSeconds() {
  const seconds = fs.existsSync(SECONDS) ? JSON.parse(fs.readFileSync(SECONDS, 'utf8')) : {};
  for (const name of fs.readdirSync(RESULTS)) {
    const { testResults, suites } = JSON.parse(fs.readFileSync(path.join(RESULTS, name), 'utf8'));
    for (const { name: file, startTime, endTime } of testResults ?? [])
      seconds[path.relative(ROOT, file)] = Math.ceil((endTime - startTime) / 1000);
    for (const { file, specs } of suites ?? [])
      seconds[path.join('e2e', file)] = Math.ceil(
        sum(
          specs.flatMap((spec) => spec.tests[0].results),
          ({ duration }) => duration / 1000,
        ),
      );
  }
  const sorted = Object.fromEntries(
    Object.entries(seconds)
      .filter(([file]) => fs.existsSync(path.join(ROOT, file)))
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
  fs.writeFileSync(SECONDS, `${JSON.stringify(sorted, undefined, 2)}\n`);
}
