import { readFileSync } from 'node:fs';
import {
  baseToJson,
  type Design,
  defaultTarget,
  editPoints,
  type JournalEntry,
  makeBase,
  orderOf,
  PointsAsk,
  type Program,
  readObjectSpec,
  readStitchFile,
  rowsInLasso,
  sewSpecs,
  startDesign,
  STITCH,
  writeStitchCsv,
} from '@isola/core';
import { createEngine } from '../apps/web/src/workers/createEngine.ts';
import { makeNoise, makeProgram } from './programs.ts';

const AGAIN = 9;
/** Least and middle time of so many runs, ms. */
function times(act: () => unknown): { 'best ms': string; 'middle ms': string } {
  const all = Array.from({ length: AGAIN }, () => {
    const start = performance.now();
    act();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return { 'best ms': all[0]!.toFixed(1), 'middle ms': all[AGAIN >> 1]!.toFixed(1) };
}

const noise = makeNoise(70_000);
const lasso = Float64Array.from({ length: 400 }, (_, k) => {
  const angle = (2 * Math.PI * (k >> 1)) / 200;
  const reach = 70 * (1 + 0.2 * Math.sin(7 * angle));
  return reach * (k % 2 === 0 ? Math.cos(angle) : Math.sin(angle));
});
console.table([
  {
    what: 'a lasso of 200 sides over 70,000 points',
    picked: rowsInLasso(noise, lasso).length,
    ...times(() => rowsInLasso(noise, lasso)),
    'target ms': 20,
  },
]);

/** Rows of so many penetrations from the middle on, of one object after another. */
function rowsOf({ program }: Design, count: number): number[] {
  const rows: number[] = [];
  for (let row = program.rowCount >> 1; rows.length < count; row++) if (program.command[row] === STITCH) rows.push(row);
  return rows;
}

const design = startDesign(makeProgram(100_000), defaultTarget());
const many = rowsOf(design, 2000);
const [some, row] = [many.slice(0, 40), many[0]!];
const asks: readonly [words: string, ask: unknown][] = [
  ['move 1', { what: 'move', rows: [row], dx: 0.1, dy: 0 }],
  ['move 2,000', { what: 'move', rows: many, dx: 0.1, dy: 0.1 }],
  ['insert', { what: 'insert', row, side: 'after' }],
  ['delete 40', { what: 'delete', rows: some }],
  ['lift 40', { what: 'jump', rows: some }],
  ['cut the thread', { what: 'cut', row }],
  ['smooth 2,000', { what: 'smooth', rows: many }],
  ['straighten 40', { what: 'straighten', rows: some }],
  ['space 40 anew', { what: 'respace', rows: some, length: 3 }],
  ['take 2,000 out', { what: 'take-out', rows: many }],
];
console.table(
  asks.map(([words, ask]) => {
    const asked = PointsAsk.parse(ask);
    const made = editPoints(design, asked);
    // With the rows that it leads to, which are assembled when they are asked for.
    const took = times(() => {
      const next = editPoints(design, asked);
      return next.ok ? next.value.design.program.rowCount : 0;
    });
    return { 'points of 100,000 rows': words, ...took, 'target ms': 30, result: made.ok ? 'made' : made.error };
  }),
);

/** Compares what a job came as with what it is after some steps, from asking to figures, findings and objects of both. */
async function timeComparison(name: string, program: Program): Promise<Record<string, string | number>> {
  const target = defaultTarget();
  const base = makeBase(program, target, []);
  if (!base.ok) throw new Error(base.error);
  const engine = createEngine();
  await engine.read(new TextEncoder().encode(writeStitchCsv(program)));
  await engine.open(baseToJson(base.value), [], 0);
  await engine.audit();
  for (const id of orderOf(base.value.design.plan).slice(0, 8)) {
    const spec = readObjectSpec(base.value.design, id);
    if (!spec.ok) continue;
    const { operations } = sewSpecs(base.value.design, [{ object: id, spec: { ...spec.value, stitchLength: 3 } }]);
    const entry: JournalEntry = {
      id: crypto.randomUUID(),
      kind: 'do',
      name: 'sewn anew',
      operation: { id: 'sequence', operations: [...operations] },
    };
    await engine.extend([entry]);
  }
  const [took, judged]: [number[], number[]] = [[], []];
  let changes = 0;
  for (let k = 0; k < 5; k++) {
    const start = performance.now();
    const compared = await engine.compareStates('file', 'now');
    took.push(performance.now() - start);
    await engine.judgeStates();
    judged.push(performance.now() - start);
    if (typeof compared !== 'string') changes = compared.changes?.length ?? 0;
  }
  return {
    'file against now': name,
    objects: orderOf(base.value.design.plan).length,
    changes,
    'first ms': took[0]!.toFixed(0),
    'again ms': Math.min(...took.slice(1)).toFixed(0),
    'target ms': 500,
    'with findings, first': judged[0]!.toFixed(0),
    again: Math.min(...judged.slice(1)).toFixed(0),
  };
}

const ring = readStitchFile(readFileSync('demo/chainring.csv'));
if (!ring.ok) throw new Error(ring.error.message);
console.table([
  await timeComparison('fills, 70,000 rows', makeProgram(70_000)),
  await timeComparison('the chainring, 71,600 rows', ring.value.program),
]);
