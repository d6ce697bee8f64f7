import { type ChildProcess, execFileSync, fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { cpus } from 'node:os';
import type { AuditSummary } from '@isola/contract';
import { auditDesign, auditFile, defaultTarget, readStitchFile, type ShopRules, startDesign, USUAL_RULES } from '@isola/core';
import { makeProgram } from './programs.ts';
import { startServer } from './startServer.ts';

// Audits: of one design whose objects are known, of one file from its bytes, and of many by one, two and four workers, one of them killed.

const AGAIN = 5;
const FILES = 120;
const WORKERS = [1, 2, 4];

const once = (act: () => unknown): number => {
  const start = performance.now();
  act();
  return performance.now() - start;
};
const best = (act: (time: number) => unknown): number => Math.min(...Array.from({ length: AGAIN }, (_, k) => once(() => act(k))));
const limitsOf = (trim: number): ShopRules => ({ ...USUAL_RULES, limits: { 'needless-trim': trim } });

const programOf = (name: string) => {
  const read = readStitchFile(readFileSync(`demo/${name}.csv`));
  if (!read.ok) throw new Error(read.error.message);
  return read.value.program;
};

console.table(
  [
    ['heron', programOf('heron')],
    ['lantern', programOf('lantern')],
    ['fobs', programOf('fobs')],
    ['fills, 20,000 rows', makeProgram(20_000)],
    ['chainring', programOf('chainring')],
  ].map(([name, program]) => {
    const design = startDesign(program as ReturnType<typeof programOf>, defaultTarget());
    const first = once(() => auditDesign({ ...design }));
    return {
      design: name,
      rows: design.program.rowCount,
      'audit, first time ms': first.toFixed(0),
      // On another color of cloth nothing that was worked out before is taken.
      'all anew, best ms': best((k) => auditDesign({ ...design, target: { ...design.target, clothColor: `#0000${10 + k}` } })).toFixed(0),
      'a limit changed, best ms': best((k) =>
        auditDesign({ ...design, target: { ...design.target, rules: limitsOf(3 + k / 10) } }),
      ).toFixed(0),
    };
  }),
);

const bytes = readFileSync('demo/lantern.csv');
const alone = best(() => auditFile(bytes, defaultTarget()));
console.log(
  `One file of 8,549 stitches from its bytes, in one process that is warm: ${alone.toFixed(0)} ms, ${(1000 / alone).toFixed(1)} a second.`,
);

process.env.AUDIT_WORKERS = '0';
const { server, url } = await startServer(4398);
const databaseUrl = execFileSync(process.execPath, ['scripts/db.mjs', 'url', 'isola_bench'], { encoding: 'utf8' }).trim();

async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  const isForm = body instanceof FormData;
  const response = await fetch(`${url}/api${path}`, {
    method,
    ...(isForm || body === undefined ? {} : { headers: { 'Content-Type': 'application/json' } }),
    ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
  });
  if (!response.ok) throw new Error(await response.text());
  return (response.status === 204 ? undefined : await response.json()) as T;
}

async function fillQueue(): Promise<string> {
  const { id } = await ask<AuditSummary>('POST', '/audits', { name: 'bench', target: defaultTarget() });
  for (let seq = 1; seq <= FILES; seq++) {
    const form = new FormData();
    form.set('file', new File([bytes], `${seq}.csv`));
    await ask('PUT', `/audits/${id}/files/${seq}`, form);
  }
  return id;
}

async function startWorkers(count: number): Promise<ChildProcess[]> {
  const workers = Array.from({ length: count }, () =>
    fork('apps/server/dist/audit.worker.js', [], { env: { ...process.env, DATABASE_URL: databaseUrl } }),
  );
  await Promise.all(workers.map((worker) => new Promise((resolve) => worker.once('message', resolve))));
  return workers;
}

const end = (workers: readonly ChildProcess[], signal: NodeJS.Signals): Promise<unknown> =>
  Promise.all(
    workers.map((worker) => {
      const gone = new Promise((resolve) => worker.once('exit', resolve));
      worker.kill(signal);
      return gone;
    }),
  );

/** How long (s) workers take for all files; `kills`: so many of them are killed once a third is done. */
async function timeFor(count: number, kills = 0): Promise<{ seconds: number; done: number }> {
  const id = await fillQueue();
  const start = performance.now();
  const workers = await startWorkers(count);
  let isWhole = true;
  for (;;) {
    const { counts } = (await ask<AuditSummary[]>('GET', '/audits')).find((audit) => audit.id === id)!;
    if (kills > 0 && isWhole && counts.done > FILES / 3) {
      isWhole = false;
      await end(workers.splice(0, kills), 'SIGKILL');
    }
    if (counts.waiting === 0) {
      const seconds = (performance.now() - start) / 1000;
      await end(workers, 'SIGTERM');
      return { seconds, done: counts.done };
    }
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
}

await timeFor(1);
const table: Record<string, string>[] = [];
for (const [count, kills] of [...WORKERS.map((count) => [count, 0] as const), [2, 1] as const]) {
  const { seconds, done } = await timeFor(count, kills);
  table.push({
    workers: kills === 0 ? String(count) : `${count}, one killed in the midst`,
    files: String(FILES),
    judged: String(done),
    seconds: seconds.toFixed(1),
    'files a second': (done / seconds).toFixed(1),
    'a second a worker': (done / seconds / count).toFixed(1),
  });
}
console.log(`Files of 8,549 stitches through the queue; this machine has ${cpus().length} processors.`);
console.table(table);
server.kill('SIGTERM');
