// npm run bench checks: how long `npm test` takes in a fresh clone of what is committed, cold and warm, and the memory of all its processes.
import { spawn, execFileSync } from 'node:child_process';
import * as fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';

const ROOT = path.resolve(import.meta.dirname, '..');
/** So often (ms) it is looked how much memory there is in use. */
const LOOK_EVERY = 1000;

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'isola-checks-'));
const clone = path.join(folder, 'isola');
try {
  execFileSync('git', ['clone', '-q', ROOT, clone]);
  console.log(`Load before it: ${os.loadavg()[0].toFixed(2)}; ${os.availableParallelism()} processors.`);
  console.log('| npm test | seconds | processor seconds | most memory, MB | outcome |\n| --- | --- | --- | --- | --- |');
  for (const how of ['cold: install and build included', 'warm']) {
    const { seconds, busy, memory, outcome } = await measure(clone);
    console.log(`| ${how} | ${seconds.toFixed(0)} | ${busy.toFixed(0)} | ${memory.toFixed(0)} | ${outcome} |`);
  }
} finally {
  fs.rmSync(folder, { recursive: true, force: true });
}

async function measure(cwd) {
  const begun = performance.now();
  const before = busyOfChildren();
  // A process group of its own, by which all that it starts is found again; what PostgreSQL does is not in its processor seconds.
  const child = spawn('npm', ['test'], { cwd, stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, CI: 'true' }, detached: true });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (said += data));
  let memory = 0;
  const look = setInterval(() => (memory = Math.max(memory, megabytesOf(child.pid, cwd))), LOOK_EVERY);
  await new Promise((resolve) => child.once('close', resolve));
  clearInterval(look);
  fs.writeFileSync(path.join(ROOT, '.cache', 'bench-checks.log'), said);
  return { seconds: (performance.now() - begun) / 1000, busy: busyOfChildren() - before, memory, outcome: said.trim().split('\n').at(-1) };
}

/** Processor seconds of all processes that this one waited for, and those that they waited for. */
function busyOfChildren() {
  const [user, system] = fs.readFileSync('/proc/self/stat', 'utf8').split(') ')[1].split(' ').slice(13, 15).map(Number);
  return (user + system) / 100;
}

/** Memory of a process, all that descend from it and its databases, shared pages by their share. */
function megabytesOf(pid, cwd) {
  const parents = new Map();
  const isOurs = new Set([pid]);
  for (const name of fs.readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    try {
      parents.set(Number(name), Number(fs.readFileSync(`/proc/${name}/stat`, 'utf8').split(') ')[1].split(' ')[1]));
      if (fs.readlinkSync(`/proc/${name}/cwd`).startsWith(path.join(cwd, '.data'))) isOurs.add(Number(name));
    } catch {
      // It ended meanwhile.
    }
  }
  for (let size = 0; size !== isOurs.size;) {
    size = isOurs.size;
    for (const [child, parent] of parents) if (isOurs.has(parent)) isOurs.add(child);
  }
  let kilobytes = 0;
  for (const one of isOurs) {
    try {
      kilobytes += Number(/^Pss:\s+(\d+)/m.exec(fs.readFileSync(`/proc/${one}/smaps_rollup`, 'utf8'))?.[1] ?? 0);
    } catch {
      // It ended meanwhile.
    }
  }
  return kilobytes / 1024;
}
