import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  baseToJson,
  defaultTarget,
  type JournalEntry,
  makeBase,
  type Operation,
  orderOf,
  type Program,
  readObjectSpec,
  readStitchFile,
  sewSpecs,
  startDesign,
  writeStitchCsv,
} from '@isola/core';
import { createEngine } from '../apps/web/src/workers/createEngine.ts';
import { DEMO_JOBS } from '../demo/jobs.ts';
import { mixedProgram } from './recognition/mixed.bench.ts';

const RUNS = 9;
const uuid = (): string => crypto.randomUUID();
const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

function demoFile(name: string): Program {
  const read = readStitchFile(readFileSync(path.join('demo', `${name}.csv`)));
  if (!read.ok) throw new Error(read.error.message);
  return read.value.program;
}

/** Times one spec change, its undo and one move in the order, from the step to all figures, findings and objects of the design; ms. */
async function timeSteps(name: string, program: Program, target = defaultTarget()): Promise<Record<string, string>> {
  const bytes = new TextEncoder().encode(writeStitchCsv(program));
  const base = makeBase(program, target, []);
  if (!base.ok) throw new Error(base.error);
  const json = baseToJson(base.value);
  const engine = createEngine();
  const opening = performance.now();
  await engine.read(bytes);
  await engine.open(json, [], 0);
  await engine.audit();
  const opened = performance.now() - opening;
  const layering = performance.now();
  await engine.layers();
  const layered = performance.now() - layering;
  const design = startDesign(program, target);
  const ids = orderOf(design.plan).filter((id) => design.plan.objects[id]!.sewn.reading.role === 'cover' && readObjectSpec(design, id).ok);
  const times = { spec: [] as number[], undo: [] as number[], move: [] as number[] };
  const sizes: number[] = [];
  const take = async (what: keyof typeof times, entry: JournalEntry): Promise<void> => {
    const start = performance.now();
    const changed = await engine.extend([entry]);
    times[what].push(performance.now() - start);
    if (!changed.ok) throw new Error(changed.reason);
  };
  const make = (operation: Operation): JournalEntry => ({ id: uuid(), kind: 'do', name: 'step', operation });
  for (let k = 0; k < RUNS; k++) {
    const id = ids[Math.floor(((k + 0.5) * ids.length) / RUNS)]!;
    const spec = readObjectSpec(design, id);
    if (!spec.ok) continue;
    const [operation] = sewSpecs(design, [
      { object: id, spec: { ...spec.value, spacing: spec.value.spacing * 1.2, stitchLength: 3 } },
    ]).operations;
    if (operation === undefined) continue;
    sizes.push(JSON.stringify(operation).length);
    await take('spec', make(operation));
    await take('undo', { id: uuid(), kind: 'undo' });
    const block = design.plan.blocks.find((b) => b.objects.includes(id))!;
    await take('move', make({ id: 'move-objects', objects: [id], block: block.id, before: block.objects.find((o) => o !== id) ?? null }));
    await engine.extend([{ id: uuid(), kind: 'undo' }]);
  }
  const say = (values: readonly number[]): string => `${middle(values).toFixed(0)} (${Math.min(...values).toFixed(0)})`;
  return {
    design: `${name}, ${program.rowCount.toLocaleString('en')} rows`,
    'spec ms': say(times.spec),
    'undo ms': say(times.undo),
    'move ms': say(times.move),
    'entry kB': (middle(sizes) / 1024).toFixed(1),
    'base kB': (json.length / 1024).toFixed(0),
    'open ms': opened.toFixed(0),
    'layers ms, once': layered.toFixed(0),
  };
}

console.log('A step in the engine, middle (best) of nine objects, until all that the screens need is worked out.');
const targetOf = (file: string) => DEMO_JOBS.find((job) => job.file === file)!.target;
console.table([
  await timeSteps('heron', demoFile('heron'), targetOf('heron')),
  await timeSteps('chainring', demoFile('chainring'), targetOf('chainring')),
  await timeSteps('shapes in many manners', mixedProgram(400_000)),
]);
