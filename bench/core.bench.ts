import {
  auditDesign,
  defaultTarget,
  generateFill,
  generateSatin,
  inspectProgram,
  layLengths,
  mapCover,
  readStitchCsv,
  repairFindings,
  runClock,
  countProgram,
  writeStitchCsv,
  writeSvg,
  readSvg,
  recognizeProgram,
  startDesign,
} from '@isola/core';
import { makeNoise, makeProgram, makeSquares } from './programs.ts';
import { mixedProgram } from './recognition/mixed.bench.ts';

const RUNS = 7;
const target = defaultTarget();

/** Times a computation: best and middle of several runs, after one to warm up, in ms. */
function time(name: string, wanted: string, act: () => unknown): Record<string, string> {
  act();
  const took = Array.from({ length: RUNS }, () => {
    const start = performance.now();
    act();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return { computation: name, 'best ms': took[0]!.toFixed(1), 'middle ms': took[RUNS >> 1]!.toFixed(1), target: wanted };
}

const rows100k = makeProgram(100_000);
const csv = writeStitchCsv(rows100k);
const svg = writeSvg(rows100k);
const design = startDesign(rows100k, target);
const square = Float64Array.of(0, 0, 90, 0, 90, 90, 0, 90);

console.table([
  time('100,000 rows: read stitch CSV', '150', () => readStitchCsv(csv)),
  time('100,000 rows: counts, clock and cover map', '100', () => {
    const lengths = layLengths(rows100k);
    countProgram(rows100k, lengths);
    runClock(rows100k, target.machine, lengths);
    mapCover(rows100k, target.thread, lengths);
  }),
  time('100,000 rows: all rules', '200', () => auditDesign(design)),
  time('100,000 rows: all figures', '', () => inspectProgram(rows100k, target)),
  time('100,000 rows: all repairs', '', () => repairFindings(design, () => true)),
  time('100,000 rows: write stitch CSV', '', () => writeStitchCsv(rows100k)),
  time('100,000 rows: read SVG', '', () => readSvg(svg)),
  time('fill of some 10,000 stitches', '', () => generateFill([square], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 })),
  time('satin of some 3,000 stitches', '', () =>
    generateSatin(Float64Array.of(0, 0, 600, 0), Float64Array.of(0, 4, 600, 4), { spacing: 0.4, pull: 0.2, splitLength: 7 }),
  ),
]);

const RECOGNIZED = 3;
for (const [rows, wanted] of [
  [100_000, '2,000'],
  [400_000, '9,000'],
] as const) {
  const table = [
    ['shapes in many manners', mixedProgram(rows)],
    ['large fills', makeProgram(rows)],
  ] as const;
  console.table(
    table.map(([what, program]) => {
      recognizeProgram(program);
      const took = Array.from({ length: RECOGNIZED }, () => {
        const start = performance.now();
        recognizeProgram(program);
        return performance.now() - start;
      }).sort((a, b) => a - b);
      return {
        'recognition of': `${program.rowCount.toLocaleString('en')} rows, ${what}`,
        'best ms': took[0]!.toFixed(0),
        'middle ms': took[RECOGNIZED >> 1]!.toFixed(0),
        target: wanted,
        'memory MB': (process.memoryUsage().rss / 1e6).toFixed(0),
      };
    }),
  );
}

console.table(
  ([100_000, 400_000, 1_000_000] as const).flatMap((rows) =>
    (
      [
        ['penetrations anywhere', makeNoise(rows)],
        ['small fills side by side', makeSquares(rows)],
      ] as const
    ).map(([what, program]) => {
      const start = performance.now();
      const { objects } = recognizeProgram(program);
      return {
        'recognition of': `${program.rowCount.toLocaleString('en')} rows, ${what}`,
        's, once': ((performance.now() - start) / 1000).toFixed(1),
        objects: objects.length,
      };
    }),
  ),
);
