import { describe, expect, test } from '@jest/globals';
import { areaD } from 'clipper2-ts';
import { cutSpans } from '../../generate/fill/spans.ts';
import { parallelLines } from '../../generate/fill/rowLines.ts';
import { generateFill } from '../../generate/fill/fill.ts';
import type { FillSpec } from '../../generate/fill/fillSpec.ts';
import { generateObject } from '../../generate/sew/generateObject.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { USUAL_SPEC } from '../../model/objectSpec.ts';
import { agreedStep, findGrid, followRows, startOf } from './gridRows.ts';
import { outlineOfRows } from './outlineRows.ts';
import { growRows } from '../rows/growRows.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import { readGrid } from '../read/readGrid.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import { shapeOf, specOf } from '../read/specOf.ts';
import type { StitchObject } from '../../model/stitchObject.ts';

function programOf(paths: readonly Float64Array[], grain: number): Program {
  const settle = (v: number): number => Math.round(v / grain) * grain;
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const path of paths) {
    builder.jump(settle(path[0]!), settle(path[1]!));
    for (let k = 0; k < path.length; k += 2) builder.stitch(settle(path[k]!), settle(path[k + 1]!));
    builder.trim();
  }
  return builder.end().build();
}

function largestOf(program: Program): StitchObject {
  return recognizeProgram(program)
    .objects.filter((o) => o.role === 'cover')
    .reduce((a, b) => (a.stitches >= b.stitches ? a : b));
}

/** How far a value is from the nearest whole one. */
const offWhole = (value: number): number => Math.abs(value - Math.round(value));

// A blunt arrow with a bay: edges along, across and aslant of any rows.
const ARROW = Float64Array.of(0, 0, 18, -2, 30, 9, 20, 24, 11, 15, 4, 21, -3, 12);
const SPEC: FillSpec = { angle: 23.4, spacing: 0.413, stitchLength: 3.7, offset: 0.37, rowEnds: 'square', origin: [3.21, 4.56] };

describe('the grid of a fill', () => {
  test.each([0.001, 0.1])('is read from penetrations rounded to %p mm: pitch, stitch, shift, and where it lies', (grain) => {
    const program = programOf(generateFill([ARROW], SPEC), grain);
    const { spans } = largestOf(program);
    const grid = readGrid(program, spans, { angle: SPEC.angle, spacing: 0.411, stitchLength: 3.6, offset: undefined })!;
    expect(Math.abs(grid.spacing / SPEC.spacing - 1)).toBeLessThan(0.001);
    expect(Math.abs(grid.stitchLength / SPEC.stitchLength - 1)).toBeLessThan(0.005);
    expect(Math.abs(grid.offset! - (SPEC.offset as number))).toBeLessThan(0.003);
    expect(Math.abs(grid.endStitch! - 0.9)).toBeLessThan(0.12);
    // Another place of the same grid: whole rows and, with each row's shift, whole stitches away.
    const [c, s] = [Math.cos((SPEC.angle * Math.PI) / 180), Math.sin((SPEC.angle * Math.PI) / 180)];
    const [dx, dy] = [grid.origin[0] - SPEC.origin![0], grid.origin[1] - SPEC.origin![1]];
    const rows = (dy * c - dx * s) / (SPEC.spacing / 2);
    expect(offWhole(rows)).toBeLessThan(0.2);
    expect(offWhole((dx * c + dy * s) / SPEC.stitchLength - Math.round(rows) * (SPEC.offset as number))).toBeLessThan(0.06);
  });

  test('keeps rows and penetrations where they were when an object is sewn anew, and its rows when only its stitch changes', () => {
    const program = programOf(generateFill([ARROW], SPEC, { from: { x: 0, y: 0 } }), 0.001);
    const object = largestOf(program);
    const [spec, shape] = [specOf(program, object), shapeOf(program, object)];
    if (!spec.ok || !shape.ok) throw new Error('no spec or shape');
    const made = (stitchLength: number): number[][] => {
      const again = generateObject(shape.value, { ...spec.value, stitchLength }, { from: object.entry, to: object.exit });
      if (!again.ok) throw new Error(again.error);
      return again.value.parts.flatMap(({ points }) =>
        Array.from({ length: points.length / 2 }, (_, k) => [points[k * 2]!, points[k * 2 + 1]!]),
      );
    };
    const isNear = ([px, py]: number[]): boolean => {
      for (let i = 0; i < program.rowCount; i++) if (Math.hypot(program.x[i]! - px!, program.y[i]! - py!) < 0.12) return true;
      return false;
    };
    const same = made(spec.value.stitchLength);
    expect(same.filter(isNear).length).toBeGreaterThan(0.97 * same.length);
    const [c, s] = [Math.cos((SPEC.angle * Math.PI) / 180), Math.sin((SPEC.angle * Math.PI) / 180)];
    const first = SPEC.origin![1] * c - SPEC.origin![0] * s;
    const other = made(2.6);
    expect(other.length).toBeGreaterThan(1.15 * same.length);
    const offLine = other.filter(([x, y]) => offWhole((y! * c - x! * s - first) / (SPEC.spacing / 2)) > 0.12);
    expect(offLine.length).toBeLessThan(0.02 * other.length);
  });

  test('is read from as many penetrations as the largest fills have', () => {
    const builder = new ProgramBuilder(200_000).color('#1f4e5f', 'Harbor');
    for (let r = 0; r < 1500; r++) {
      const us = [0, ...Array.from({ length: 110 }, (_, k) => 1 + ((r * 0.37) % 1) * 2.6 + k * 2.6), 290];
      for (const u of r % 2 === 0 ? us : us.reverse()) builder.stitch(u, r * 0.2);
    }
    const program = builder.end().build();
    const spans = [{ first: 1, last: program.rowCount - 2 }];
    const grid = readGrid(program, spans, { angle: 0, spacing: 0.3995, stitchLength: 2.6, offset: undefined })!;
    expect(grid.spacing).toBeCloseTo(0.4, 4);
    expect(grid.offset).toBeCloseTo(0.37, 3);
  });

  test('is none where penetrations lie anywhere, and a step that is off by a part is put right over all rows', () => {
    const chance = (k: number): number => (Math.sin(k * 12.9898) * 43758.5453) % 1;
    const noise = new ProgramBuilder().color('#1f4e5f', '');
    for (let k = 0; k < 200; k++) noise.stitch(30 * chance(k), 30 * chance(k + 500));
    const spans = [{ first: 1, last: 199 }];
    expect(readGrid(noise.end().build(), spans, { angle: 0, spacing: 0.4, stitchLength: 4, offset: 0.3 })).toBeUndefined();
    const v = Float64Array.from({ length: 400 }, (_, r) => Math.round((7.3 + r * 0.2137) * 10) / 10);
    const even = v.map(() => 1);
    expect(Math.abs(agreedStep(v, even, 0.2137 * 0.97) / 0.2137 - 1)).toBeLessThan(0.0005);
    expect(findGrid(v, even, 0.2137)).toBeDefined();
    expect(findGrid(v, even, 0.2137 * 0.97)).toBeUndefined();
  });

  test.each([
    ['in parts, two of ten', 0.8, 0.318, 50],
    ['in parts, three of ten', 0.7, 0.3016, 50],
    ['not at all, two of ten', 1.2, 0.2731, 50],
    ['in parts, one of ten, on lines of which rounding leaves little', 0.9, 0.17, 80],
  ])('steps that were miscounted, since rows were told %s, are put right', (_, off, step, length) => {
    const v = Float64Array.from({ length }, (_, r) => Math.round((7.3 + r * step) * 10) / 10);
    expect(
      Math.abs(
        agreedStep(
          v,
          v.map(() => 1),
          step * off,
        ) /
          step -
          1,
      ),
    ).toBeLessThan(0.01);
    // Rows on lines as close as the file's grain lie on no others that the grain alone would make.
    const close = Float64Array.from({ length: 50 }, (_, r) => Math.round((7.3 + r * 0.153) * 10) / 10);
    expect(
      Math.abs(
        agreedStep(
          close,
          close.map(() => 1),
          0.153,
        ) /
          0.153 -
          1,
      ),
    ).toBeLessThan(0.08);
  });
});

describe('an outline by its rows', () => {
  // Two arms with a slit of 0.3 mm between them, and a hole.
  const COMB = Float64Array.of(0, 0, 16, 0, 16, 5, 4, 5, 4, 5.3, 16, 5.3, 16, 11, 0, 11);
  const HOLE = Float64Array.of(1, 7, 1, 9.5, 3, 9.5, 3, 7);

  test('ends a bay half way to the first row above it, which stays whole', () => {
    // An arch: rows across its legs are parted, those above its opening are not.
    const arch = Float64Array.of(0, 0, 8, 0, 8, 15.4, 18, 15.4, 18, 0, 26, 0, 26, 26, 0, 26);
    const spec: FillSpec = { angle: 0, spacing: 2.4, stitchLength: 3, offset: 0.3, rowEnds: 'square', origin: [0, 0.1] };
    const { outline } = largestOf(programOf(generateFill([arch], spec), 0.001));
    const rows = (rings: readonly Float64Array[]): number => cutSpans(rings, parallelLines(rings, 0, 1.2, spec.origin)).count;
    expect(rows([outline])).toBe(rows([arch]));
    const tops = Array.from({ length: outline.length / 2 }, (_, k) => [outline[k * 2]!, outline[k * 2 + 1]!]).filter(
      ([x, y]) => x! > 9 && x! < 17 && y! < 20,
    );
    expect(tops.length).toBeGreaterThan(0);
    // The last parted row lies at 14.5, the first whole one at 15.7.
    for (const [, y] of tops) expect(y).toBeCloseTo(15.1, 1);
  });

  test.each([90, 60])('keeps narrow slits and holes, and the area, at %p°', (angle) => {
    const program = programOf(generateFill([COMB, HOLE], { ...SPEC, angle, spacing: 0.42 }), 0.001);
    const { outline, holes } = largestOf(program);
    const asPath = (ring: Float64Array) => Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[k * 2]!, y: ring[k * 2 + 1]! }));
    expect(holes).toHaveLength(1);
    const area = areaD(asPath(outline)) + areaD(asPath(holes[0]!));
    const drawn = areaD(asPath(COMB)) + areaD(asPath(HOLE));
    expect(Math.abs(area / drawn - 1)).toBeLessThan(0.03);
    // Rows cut with it are parted where they were.
    const parted = (rings: readonly Float64Array[]): number => cutSpans(rings, parallelLines(rings, angle, 0.21, SPEC.origin)).count;
    expect(Math.abs(parted([outline, ...holes]) / parted([COMB, HOLE]) - 1)).toBeLessThan(0.05);
  });

  test('takes a row that slants into the next from between its neighbours’ ends, and links what lies a hair apart', () => {
    const grid = { step: 0.2, lineAt: (v: number) => Math.round(v / 0.2), heightOf: (line: number) => line * 0.2 };
    // To and fro between two slanting sides; of each row only the end is on its line.
    const u = Float64Array.from({ length: 41 }, (_, k) => (k % 2 === 0 ? k * 0.1 : 8 + k * 0.1));
    const v = Float64Array.from({ length: 41 }, (_, k) => k * 0.2);
    const [chain] = followRows([{ u, v }], grid);
    expect(chain).toHaveLength(41);
    expect(startOf(chain!, 10)).toBeCloseTo(8 + 10 * 0.1, 6);
    expect(startOf(chain!, 0)).toBeUndefined();
    const [ring, ...more] = outlineOfRows([chain!], grid);
    expect(more).toEqual([]);
    expect(
      Math.abs(areaD(Array.from({ length: ring!.length / 2 }, (_, k) => ({ x: ring![k * 2]!, y: ring![k * 2 + 1]! }))) / (8 * 8.2) - 1),
    ).toBeLessThan(0.03);
    const row = (line: number, a: number, b: number) => ({ line, first: a, last: b, low: a, high: b });
    const apart = [[0, 1, 2, 3].map((line) => row(line, 0, 4)), [4, 5, 6, 7].map((line) => row(line, 4.3, 8))];
    expect(outlineOfRows(apart, grid)).toHaveLength(1);
    const far = [apart[0]!, [4, 5, 6, 7].map((line) => row(line, 9, 12))];
    expect(outlineOfRows(far, grid)).toHaveLength(2);
  });
});

describe('rows beside a fill', () => {
  test('that go on as it does are given to it from the run before, others are not', () => {
    const grown = (heights: readonly number[]): number => {
      const builder = new ProgramBuilder().color('#1f4e5f', '').jump(10.4, 2.2);
      for (const [x, y] of [
        [10.4, 2.2],
        [6.6, 0.8],
        [2.8, -0.3],
        [0, heights[0]!],
        [1.9, heights[1]!],
        [2, heights[2]!],
      ] as const)
        builder.stitch(x, y);
      const first = builder.rowCount;
      const rows: { first: number; last: number }[] = [];
      for (let r = 0; r < 12; r++) {
        const places = [0, 1.3 + (r % 3), 5.3 + (r % 3), 16];
        rows.push({ first: builder.rowCount, last: builder.rowCount + 3 });
        for (const u of r % 2 === 0 ? places : [...places].reverse()) builder.stitch(u, r * 0.2);
      }
      const program = builder.trim().end().build();
      const last = program.rowCount - 3;
      const set = {
        count: rows.length,
        first: Int32Array.from(rows, (row) => row.first),
        last: Int32Array.from(rows, (row) => row.last),
        length: new Float64Array(rows.length).fill(16),
        hasTurn: new Uint8Array(rows.length).fill(1),
        angle: 0,
        evenness: 1,
      };
      const run = makePiece(program, 0, 0, 2, first, 'cover');
      const fill = { ...makePiece(program, 0, 0, first + 1, last, 'cover'), rows: set, measured: measureRows(program, set, 'fill') };
      const [before, after] = growRows(program, [run, fill]);
      expect(before!.last + 1).toBe(after!.first);
      return first + 1 - after!.first;
    };
    // The row before, to its end on the walk's side, and the stitch that turns into the first one.
    expect(grown([-0.4, -0.2, -0.2])).toBeGreaterThanOrEqual(1);
    expect(grown([-0.83, -0.71, -0.77])).toBe(0);
  });
});

describe('what only seems to be underlay', () => {
  test('is no layer of the whole fill', () => {
    const builder = new ProgramBuilder().color('#1f4e5f', '').jump(1, 1);
    for (let k = 0; k < 9; k++) builder.stitch(1 + k * 0.9, k % 2 === 0 ? 1 : 3.4);
    const [path] = generateFill([ARROW], { ...SPEC, spacing: 0.4 }, { from: { x: 8.2, y: 1 } });
    for (let k = 0; k < path!.length; k += 2) builder.stitch(path![k]!, path![k + 1]!);
    const program = builder.trim().end().build();
    const spec = specOf(program, largestOf(program));
    expect(spec.ok && spec.value.underlay).toEqual([]);
    expect(spec.ok && spec.value.tie).toBe(USUAL_SPEC.tie);
  });
});
