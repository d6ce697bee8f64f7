import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateObject } from '../../generate/sew/generateObject.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../../generate/underlay.ts';
import { type ObjectSpec, USUAL_SPEC } from '../../model/objectSpec.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { fitGrid, rowsBetweenEnds, type RowPlace } from './fitGrid.ts';
import { startBeyond } from './gridRows.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import { shapeOf, specOf } from '../read/specOf.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import { runs } from '../../testing/runs.ts';

function programOf(paths: readonly Float64Array[], grain = 0.001): Program {
  const settle = (v: number): number => Math.round(v / grain) * grain;
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  builder.jump(settle(paths[0]![0]!), settle(paths[0]![1]!));
  for (const path of paths) for (let k = 0; k < path.length; k += 2) builder.stitch(settle(path[k]!), settle(path[k + 1]!));
  return builder.trim().end().build();
}

function coverOf(program: Program): StitchObject {
  return recognizeProgram(program)
    .objects.filter((o) => o.role === 'cover')
    .reduce((a, b) => (a.stitches >= b.stitches ? a : b));
}

const ellipse = (rx: number, ry: number): Float64Array =>
  Float64Array.from({ length: 96 }, (_, k) => (k % 2 === 0 ? rx * Math.cos((k * Math.PI) / 96) : ry * Math.sin(((k - 1) * Math.PI) / 96)));
/** A horseshoe: open rows across it come in two arms, with a walk between them that follows the edge. */
const HORSESHOE = Float64Array.of(0, 0, 9, 0, 9, 22, 21, 22, 21, 0, 30, 0, 30, 32, 0, 32);

describe('a fill so small that hardly a row has a whole stitch', () => {
  // Dots of 4 to 7 mm, in manners that no two share; scaled files leave out penetrations nearer or farther from the ends of rows.
  const manners: readonly [size: readonly [number, number], change: Partial<ObjectSpec>][] = [
    [[2.6, 2.6], { spacing: 0.45, angle: 24, stitchLength: 3.3, offset: 0.25 }],
    [[3.2, 2.4], { spacing: 0.42, angle: 71, stitchLength: 2.9, offset: 0.4, rowEnds: 'slanted' }],
    [[3.4, 3.4], { spacing: 0.5, angle: 118, stitchLength: 4.1, offset: 1 / 3, endStitch: 0.8 }],
    [[2.2, 3.5], { spacing: 0.38, angle: 160, stitchLength: 3, offset: 0.5, rowEnds: 'slanted' }],
    [[3.6, 2.8], { spacing: 0.4, angle: 0, stitchLength: 2.5, offset: 0.2 }],
  ];

  test.each(manners)('of %j mm is sewn anew with nearly the stitches that it had', ([rx, ry], change) => {
    const spec: ObjectSpec = { ...USUAL_SPEC, kind: 'fill', underlay: [], origin: [0.4, 0.3], ...change };
    const made = generateObject({ kind: 'area', rings: [[...ellipse(rx, ry)]] }, spec);
    if (!made.ok) throw new Error(made.error);
    const before = made.value.parts.map(({ points }) => points);
    const program = programOf(before);
    const object = coverOf(program);
    const [known, shape] = [specOf(program, object), shapeOf(program, object)];
    if (!known.ok || !shape.ok) throw new Error('no spec or shape');
    const again = generateObject(shape.value, known.value, { from: object.entry, to: object.exit });
    if (!again.ok) throw new Error(again.error);
    const count = (paths: readonly Float64Array[]): number => paths.reduce((sum, path) => sum + path.length / 2, 0);
    const now = count(again.value.parts.map(({ points }) => points));
    expect(Math.abs(now - count(before))).toBeLessThanOrEqual(Math.max(2, 0.05 * count(before)));
  });

  test('has the grid that sews what was sewn between the ends of its rows, or none', () => {
    const [stitchLength, offset] = [3.4, 0.3];
    const rows = Array.from({ length: 14 }, (_, line): RowPlace => {
      const [low, high] = [-2 - Math.sin(line / 3), 2 + Math.cos(line / 4)];
      const at = 0.7 + line * offset * stitchLength;
      const inner: number[] = [];
      for (let k = Math.ceil((low + 0.9 - at) / stitchLength); at + k * stitchLength <= high - 0.9; k++) inner.push(at + k * stitchLength);
      const us = [low, ...inner, high];
      return { v: line * 0.2, us: line % 2 === 0 ? us : us.reverse(), before: undefined };
    });
    const between = rowsBetweenEnds(rows, (v) => Math.round(v / 0.2), 'square');
    const grid = fitGrid(between)!;
    const sewn = between.flatMap(({ line, places }) =>
      places
        .map((u) => (u - grid.along) / grid.stitchLength - line * grid.offset)
        .map((at) => Math.abs(at - Math.round(at)) * grid.stitchLength),
    );
    expect(sewn.length).toBeGreaterThan(8);
    expect(Math.max(...sewn)).toBeLessThan(0.15);
    // Penetrations anywhere are those of no grid.
    const anywhere = rows.map((row, k) => ({ ...row, us: [-3, ((k * k * 0.77) % 3) - 1.5, ((k * 1.93) % 1.3) + 1.6, 4] }));
    expect(fitGrid(rowsBetweenEnds(anywhere, (v) => Math.round(v / 0.2), 'square'))).toBeUndefined();
  });
});

describe('tatami underlay in two arms', () => {
  const spec = { angle: 90, spacing: 0.5, stitchLength: 3.5, offset: 0.3 };
  const tatami = generateTatamiUnderlay([HORSESHOE], 90);
  const end = tatami[0]!.subarray(-2);
  const cover = generateFill([HORSESHOE], spec, { from: { x: end[0]!, y: end[1]! } });

  test.each([0.001, 0.1])('is one layer with the walk between them, and no edge run, at a grain of %p mm', (grain) => {
    const fill = coverOf(programOf([...tatami, ...cover], grain));
    expect(fill.underlay.map((u) => u.kind)).toEqual(['tatami']);
    expect(Math.abs(fill.underlay[0]!.spacing! / 3.5 - 1)).toBeLessThan(0.02);
    expect(fill.underlay[0]!.last - fill.underlay[0]!.first).toBeGreaterThan(0.9 * (tatami[0]!.length / 2));
  });

  test('and an edge run after it are two layers', () => {
    const fill = coverOf(programOf([...tatami, ...generateEdgeRun([HORSESHOE]), ...cover]));
    expect(fill.underlay.map((u) => u.kind)).toEqual(['tatami', 'edge-run']);
  });
});

test('the side of a section goes on beyond its last row as it came, but no steeper than a side can be', () => {
  const row = (line: number, last: number) => ({ line, first: 0, last, low: Math.min(0, last), high: Math.max(0, last) });
  const chain = [row(1, -5.2), row(2, 6), row(3, -4.6), row(4, 6.5)];
  expect(startBeyond(chain, 3, 0.3)).toBeCloseTo(-4.3);
  expect(startBeyond([row(1, -9), ...chain.slice(1)], 3, 0.3)).toBeCloseTo(-4);
  expect(startBeyond(chain, 2, 0.3)).toBeUndefined();
  expect(startBeyond([row(0, -5.2), ...chain.slice(1)], 3, 0.3)).toBeUndefined();
});

describe('a creep of stitches', () => {
  test('that fits in a box of less than 0.8 mm is one object, a run, whatever way its stitches turn; a little more may be a satin', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0, max: 0.55, noNaN: true }), fc.double({ min: 0, max: 0.55, noNaN: true })), {
          minLength: 6,
          maxLength: 60,
        }),
        (points) => {
          const { objects } = recognizeProgram(programOf([Float64Array.from(points.flat())]));
          // What only goes to and fro may be a lock.
          expect(objects.filter(({ kind, role }) => kind !== 'run' || role === 'cover').length).toBeLessThanOrEqual(1);
          expect(objects.every(({ kind }) => kind === 'run')).toBe(true);
        },
      ),
      runs(100, 61),
    );
    const narrow = Float64Array.from({ length: 60 }, (_, k) => (k % 2 === 0 ? 0.1 * k : k % 4 === 1 ? 0 : 1));
    expect(coverOf(programOf([narrow]))).toMatchObject({ kind: 'satin' });
  });
});

describe('a line that turns back beside itself', () => {
  const hairpin = (passes: number): Float64Array => {
    const there = Array.from({ length: 19 }, (_, k) => [k < 10 ? 2 * k : 2 * (18 - k), (k < 10 ? 0 : 1.4) + 0.25 * Math.sin(k)] as const);
    const back = [...there].reverse().slice(1);
    return Float64Array.from([there, back, there.slice(1)].slice(0, passes).flat(2));
  };

  test.each([1, 2, 3])('is a run, gone over %d times, and no open fill', (passes) => {
    const program = programOf([hairpin(passes)], 0.1);
    expect(coverOf(program)).toMatchObject({ kind: 'run' });
    expect(coverOf(program).stitches).toBeGreaterThan(0.8 * 18 * passes);
  });

  test('is a fill where it goes on from line to line', () => {
    const spec: ObjectSpec = { ...USUAL_SPEC, kind: 'fill', spacing: 2.6, rowEnds: 'square' };
    const made = generateObject({ kind: 'area', rings: [[0, 0, 18, 0, 18, 9, 0, 9]] }, spec);
    if (!made.ok) throw new Error(made.error);
    expect(coverOf(programOf(made.value.parts.map(({ points }) => points)))).toMatchObject({ kind: 'fill' });
  });
});
