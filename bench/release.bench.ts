import { productionPdf } from '@isola/sheets';
import {
  countProgram,
  defaultTarget,
  productionSheet,
  encodeLayout,
  decodeLayout,
  LIST_RULES,
  MACHINES,
  planByRule,
  planLanes,
  runLanes,
  type MachineLayout,
  readGcode,
  SIMULATED_LAYOUT,
  simulateRun,
  writeGcode,
  HOOPS,
} from '@isola/core';
import { makeProgram } from './programs.ts';

const AGAIN = 9;
const best = (act: () => unknown): number => {
  let least = Infinity;
  for (let k = 0; k < AGAIN; k++) {
    const start = performance.now();
    act();
    least = Math.min(least, performance.now() - start);
  }
  return least;
};

/** Steps as sums of weighted bits in three bytes, the command in a fourth. */
const axis = (from: number): MachineLayout['record']['x'] => ({
  bits: [1, -1, 3, -3, 9, -9, 27, -27, 81, -81].map((weight, k) => ({ byte: (from + k) >> 3, bit: (from + k) & 7, weight })),
  relative: true,
});
const BITS: MachineLayout = {
  ...SIMULATED_LAYOUT,
  ...{ name: 'weighted bits', mmPerCount: 0.1, longest: 12.1 },
  header: { ...SIMULATED_LAYOUT.header, fields: SIMULATED_LAYOUT.header.fields.slice(0, 1) },
  record: { ...SIMULATED_LAYOUT.record, length: 5, x: axis(0), y: axis(10) },
};

const program = makeProgram(200_000);
console.table(
  [SIMULATED_LAYOUT, BITS].map((layout) => {
    const written = encodeLayout(program, layout);
    if (!written.ok) throw new Error(written.error);
    const { bytes, records } = written.value;
    const read = best(() => decodeLayout(bytes, layout));
    return {
      layout: layout.name,
      records,
      'written ms': best(() => encodeLayout(program, layout)).toFixed(0),
      'read ms': read.toFixed(0),
      'records a ms': (records / read).toFixed(0),
      target: 1000,
    };
  }),
);
const piece = makeProgram(20_000);
const target = { ...defaultTarget(), quantity: 240 };
const sheet = productionSheet({ program: piece, target, kept: {} });
const pdfTimes: number[] = [];
for (let k = 0; k < AGAIN; k++) {
  const start = performance.now();
  await productionPdf({ title: 'Bench', state: 'for the bench' }, sheet, { program: piece, extents: countProgram(piece).extents });
  pdfTimes.push(performance.now() - start);
}
console.table([
  {
    'production sheet of': '20,000 stitches',
    'best ms': Math.min(...pdfTimes).toFixed(0),
    'worst ms': Math.max(...pdfTimes).toFixed(0),
    'target ms': 2000,
  },
]);
const text = writeGcode(program);
console.table([
  { 'of 200,000 rows': 'G-code written', 'best ms': best(() => writeGcode(program)).toFixed(0) },
  { 'of 200,000 rows': 'G-code read', 'best ms': best(() => readGcode(text)).toFixed(0) },
  {
    'of 200,000 rows': 'sewn on the simulated machine',
    'best ms': best(() => simulateRun(program, MACHINES[0]!, HOOPS.at(-1)!)).toFixed(0),
  },
]);
let seed = 3;
const chance = (): number => (seed = (Math.imul(seed, 48_271) >>> 0) % 2_147_483_647) / 2_147_483_647;
const orders = Array.from({ length: 60 }, (_, k) => {
  const minutes = 20 + chance() * 600;
  return { id: `order ${k}`, due: 600 + chance() * 2600, minutes: [minutes, minutes * 1.1, minutes / 3, minutes * 0.8] };
});
const rules = Math.min(...Object.values(LIST_RULES).map((rule) => runLanes(orders, planByRule(orders, 4, rule)).late));
console.table([
  {
    planned: '60 orders on 4 machines',
    'best ms': best(() => planLanes(orders, 4)).toFixed(0),
    'target ms': 200,
    'late, min': runLanes(orders, planLanes(orders, 4)).late.toFixed(0),
    'best rule, min': rules.toFixed(0),
  },
]);
