import { readFileSync } from 'node:fs';
import type { JobDetail, JobSummary } from '@isola/contract';
import {
  baseFromJson,
  historyFrom,
  type JournalEntry,
  orderOf,
  readObjectSpec,
  readStitchFile,
  replayJournal,
  sewSpecs,
  startHistory,
  type SimpleOperation,
} from '@isola/core';
import { startServer } from './startServer.ts';

/** One step on a job of so many steps, sewn by turns from two specs, and opening it; with a server that has it in hand, and one just started. */
const LENGTHS = [10, 500, 2000];
const RUNS = 9;
const BATCH = 100;
const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

const { server, url } = await startServer(4399);
const bytes = readFileSync('demo/heron.csv');
const form = new FormData();
form.set('file', new File([bytes], 'heron.csv'));
const job = (await (await fetch(`${url}/api/jobs`, { method: 'POST', body: form })).json()) as JobSummary;

async function readBase(): Promise<string> {
  for (;;) {
    const response = await fetch(`${url}/api/jobs/${job.id}/base`);
    if (response.status !== 202) return response.text();
  }
}
const read = readStitchFile(bytes);
if (!read.ok) throw new Error(read.error.message);
const { design } = baseFromJson(await readBase(), read.value.program);
const id = orderOf(design.plan).find((object) => design.plan.objects[object]!.sewn.reading.kind === 'satin')!;
const spec = readObjectSpec(design, id);
if (!spec.ok) throw new Error(spec.error);
const known = spec.value;

let current = design;
/** Steps that change the spec of one object again and again. */
function nextEntries(count: number): JournalEntry[] {
  return Array.from({ length: count }, (_, k): JournalEntry => {
    const { operations } = sewSpecs(current, [{ object: id, spec: { ...known, spacing: 0.4 + 0.01 * (k % 20) } }]);
    const operation = operations[0] as SimpleOperation;
    const entry: JournalEntry = { id: crypto.randomUUID(), kind: 'do', name: 'spacing', operation };
    const next = replayJournal(startHistory(current), [entry]);
    if (!next.ok) throw new Error(next.error);
    current = next.value.design;
    return entry;
  });
}

let version = 0;
async function append(entries: readonly JournalEntry[]): Promise<number> {
  const start = performance.now();
  const response = await fetch(`${url}/api/jobs/${job.id}/journal`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ baseVersion: version, entries }),
  });
  const took = performance.now() - start;
  if (!response.ok) throw new Error(await response.text());
  version += entries.length;
  return took;
}

const table: Record<string, string>[] = [];
for (const length of LENGTHS) {
  while (version < length - RUNS) await append(nextEntries(Math.min(BATCH, length - RUNS - version)));
  const took: number[] = [];
  for (let k = 0; k < RUNS; k++) took.push(await append(nextEntries(1)));
  const start = performance.now();
  const detail = (await (await fetch(`${url}/api/jobs/${job.id}`)).json()) as JobDetail;
  const fetched = performance.now() - start;
  const again = baseFromJson(await readBase(), read.value.program);
  const replaying = performance.now();
  const replayed = replayJournal(
    historyFrom(again),
    detail.journal.map((record) => record.entry),
  );
  if (!replayed.ok) throw new Error(replayed.error);
  table.push({
    'steps of the job': String(version),
    'one more step, ms': `${middle(took).toFixed(0)} (${Math.min(...took).toFixed(0)})`,
    'its journal fetched, ms': fetched.toFixed(0),
    'replayed, ms': (performance.now() - replaying).toFixed(0),
  });
}
console.table(table);
server.kill();
