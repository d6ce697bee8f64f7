import { describe, expect, test } from '@jest/globals';
import { offsetRings } from '../../geometry/offset.ts';
import { type ObjectSpec, USUAL_SPEC } from '../../model/objectSpec.ts';
import { insideShare, square, stepsOf } from '../../testing/outsideShapes.ts';
import { turned } from '../column/columns.ts';
import { generateEdgeStitch } from './edgeStitch.ts';
import { generateObject } from '../sew/generateObject.ts';

const SPEC: ObjectSpec = { ...USUAL_SPEC, kind: 'edge-stitch' };

describe('an edge stitch', () => {
  test('has a prong on the bisector of each corner, square ones between, and none that cross at an inner corner', () => {
    const path = generateEdgeStitch(Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20, 0, 0), { spacing: 2, prong: 3 });
    const prongs: { x: number; y: number; px: number; py: number }[] = [];
    for (let k = 2; k + 3 < path.length; k += 2)
      if (path[k - 2] === path[k + 2] && path[k - 1] === path[k + 3])
        prongs.push({ x: path[k - 2]!, y: path[k - 1]!, px: path[k]! - path[k - 2]!, py: path[k + 1]! - path[k - 1]! });
    expect(prongs).toHaveLength(40);
    const corner = prongs.find(({ x, y }) => x === 20 && y === 20)!;
    expect(corner.px).toBeCloseTo(corner.py, 9);
    expect(corner.px).toBeLessThan(0);
    const between = prongs.find(({ x, y }) => Math.abs(x - 10) < 0.1 && y === 0)!;
    expect([between.px, between.py].map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0, 3]);
    // Beside the corner a prong stops before the bisector, x = y seen from there.
    const beside = prongs.find(({ x, y }) => Math.abs(x - 2) < 0.1 && y === 0)!;
    expect(beside.py).toBeLessThan(2);
    expect(() => generateEdgeStitch(Float64Array.of(0, 0), { spacing: 2, prong: 3 })).toThrow(/two points/);
  });

  test('has no more room for prongs than half of a stroke, and none in its tip', () => {
    const [tip, wide] = [Float64Array.of(0, 0, 40, 0, 40, 5, 0, 0.2), square(30)];
    const tipsOf = (rings: readonly Float64Array[], width: number): number[] => {
      const made = generateObject({ kind: 'area', rings: rings.map((r) => [...r]) }, { ...SPEC, spacing: 2, width });
      if (!made.ok) throw new Error(made.error);
      return made.value.parts.flatMap(({ points }) => {
        expect(insideShare(offsetRings(rings, 0.01), points)).toBe(1);
        return stepsOf(points).filter((_, k) => points[2 * k] === points[2 * k + 4] && points[2 * k + 1] === points[2 * k + 5]);
      });
    };
    // The longest, of a corner, goes half of the way across the broad end on its bisector.
    expect(Math.max(...tipsOf([tip], 4))).toBeLessThan(Math.hypot(2.5, 2.5));
    expect(Math.min(...tipsOf([tip], 4))).toBeGreaterThanOrEqual(0.36 - 1e-9);
    // Between the corners all reach as far as asked, also toward a hole.
    const [before, around] = [tipsOf([wide], 4), tipsOf([wide, square(8, 11, 11)], 4)];
    expect(before.filter((length) => Math.abs(length - 4) < 1e-6).length).toBeGreaterThan(30);
    expect(around.length).toBeGreaterThan(before.length + 14);
  });

  test('of a column stands on its outer edge and reaches across it, whatever its edges are called and wherever it begins', () => {
    const arc = (r: number): number[] =>
      Array.from({ length: 82 }, (_, k) => (k % 2 === 0 ? r * Math.cos((k * Math.PI) / 162) : r * Math.sin(((k - 1) * Math.PI) / 162)));
    const back = (points: number[]): number[] => [...turned(Float64Array.from(points))];
    const [outer, inner] = [arc(20), arc(16)];
    for (const [left, right] of [
      [outer, inner],
      [inner, outer],
      [back(outer), back(inner)],
      [back(inner), back(outer)],
    ] as const) {
      const made = generateObject({ kind: 'column', left, right }, { ...SPEC, spacing: 2.5, width: 4 });
      if (!made.ok) throw new Error(made.error);
      const { points } = made.value.parts[0]!;
      const from = Array.from({ length: points.length / 2 }, (_, k) => Math.hypot(points[2 * k]!, points[2 * k + 1]!));
      const tips = from.filter((_, k) => k % 3 === 1);
      expect(tips).toHaveLength(13);
      for (const r of tips) expect(r).toBeCloseTo(16, 1);
      for (const r of from.filter((_, k) => k % 3 !== 1)) expect(r).toBeCloseTo(20, 1);
    }
  });

  test('of a column with an edge that is none is sewn or refused, and an edge of very many corners stays inside it', () => {
    for (const [left, right] of [
      [
        [0, 0, 20, 0],
        [3, 3],
      ],
      [
        [3, 3],
        [0, 0, 20, 0],
      ],
      [[0, 0, 20, 0], []],
    ] as const)
      expect(typeof generateObject({ kind: 'column', left: [...left], right: [...right] }, { ...SPEC, spacing: 2, width: 3 }).ok).toBe(
        'boolean',
      );
    const ragged = Array.from({ length: 12_000 }, (_, k) => {
      const [turn, r] = [(Math.floor(k / 2) / 6000) * 2 * Math.PI, 20 + 0.5 * ((Math.sin((k >> 1) * 12.9898) * 43758.5453) % 1)];
      return k % 2 === 0 ? r * Math.cos(turn) : r * Math.sin(turn);
    });
    const made = generateObject({ kind: 'area', rings: [ragged] }, { ...SPEC, spacing: 2, width: 3 });
    if (!made.ok) throw new Error(made.error);
    const far = made.value.parts.flatMap(({ points }) =>
      Array.from({ length: points.length / 2 }, (_, k) => Math.hypot(points[2 * k]!, points[2 * k + 1]!)),
    );
    expect(far.reduce((most, r) => Math.max(most, r), 0)).toBeLessThan(20.6);
  });
});
