// Everything a fresh clone needs, step by step and only where something changed. Imports nothing but Node's own until npm ci has run.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import * as fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const STAMPS = path.join(ROOT, '.cache', 'stamps');
export const CHROMIUM = process.env.CHROMIUM ?? '/usr/bin/chromium';

/** Installs the npm packages when the lock file is not the one they were installed from. Output goes to standard error. */
export function installPackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Isola needs Node 20.19 or newer; this is ${process.version}.`);
    process.exit(1);
  }
  const lock = digest('package-lock.json');
  if (fs.existsSync(path.join(ROOT, 'node_modules/.package-lock.json')) && isFresh('npm', lock)) return;
  say('installing packages (npm ci)');
  run('npm', ['ci', '--no-audit', '--no-fund', '--prefer-offline', '--loglevel=error']);
  stamp('npm', lock);
}

/** Starts PostgreSQL (installing Debian's package first where it is missing) and makes sure that the named databases exist. */
export async function startDatabase(...names) {
  const { start } = await import('./db.mjs');
  await start({ quiet: true, databases: names });
}

/** Installs Debian's Chromium where there is none. */
export function installBrowser() {
  if (fs.existsSync(CHROMIUM)) return;
  say('installing Chromium (apt-get)');
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-q'], env);
  run('apt-get', ['install', '-y', '-q', '--no-install-recommends', 'chromium'], env);
}

/** All that goes into both: each is bundled with the packages that it imports. */
const SHARED = ['packages/core', 'packages/contract', 'packages/sheets', 'package-lock.json'];

/** Builds the web application and the server where what goes into them changed. */
export function build() {
  buildWeb();
  buildServer();
}

export function buildWeb() {
  const web = digest('apps/web', ...SHARED);
  if (fs.existsSync(path.join(ROOT, 'apps/web/dist/index.html')) && isFresh('web', web)) return;
  say('building the web application');
  run('npm', ['run', 'build', '-s', '-w', '@isola/web', '--', '--logLevel', 'warn']);
  stamp('web', web);
}

export function buildServer() {
  const server = digest('apps/server', 'demo', ...SHARED);
  if (fs.existsSync(path.join(ROOT, 'apps/server/dist/main.js')) && isFresh('server', server)) return;
  say('building the server');
  run('npm', ['run', 'build', '-s', '-w', '@isola/server']);
  stamp('server', server);
}

/** Runs a program in the project's folder; its output goes to standard error, and a failure ends this process with its status. */
function run(command, args, env = {}) {
  const result = spawnSync(command, args, { cwd: ROOT, stdio: ['ignore', 2, 2], env: { ...process.env, ...env } });
  if (result.status === 0) return;
  console.error(`Set-up stopped: ${command} ${args.join(' ')} ended with ${result.status ?? result.signal ?? result.error?.message}.`);
  process.exit(result.status || 1);
}

function say(text) {
  console.error(`[set-up] ${text} …`);
}

/** What lies in a source folder and is not built: what is installed or made in it, and its tests. */
const NOT_BUILT = /^(node_modules|dist|\.cache|testing|.*\.test\.ts)$/;

/** A digest of files by content; folders are walked. */
export function digest(...names) {
  const hash = createHash('sha256');
  const add = (file) => {
    const status = fs.statSync(file, { throwIfNoEntry: false });
    if (!status) return;
    if (status.isDirectory()) {
      for (const name of fs.readdirSync(file).sort()) if (!NOT_BUILT.test(name)) add(path.join(file, name));
    } else hash.update(path.relative(ROOT, file)).update('\0').update(fs.readFileSync(file)).update('\0');
  };
  for (const name of names) add(path.join(ROOT, name));
  return hash.digest('hex');
}

export function isFresh(name, value) {
  const file = path.join(STAMPS, name);
  return fs.existsSync(file) && fs.readFileSync(file, 'utf8') === value;
}

export function stamp(name, value) {
  fs.mkdirSync(STAMPS, { recursive: true });
  fs.writeFileSync(path.join(STAMPS, name), value);
}
