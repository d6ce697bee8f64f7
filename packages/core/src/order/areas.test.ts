import { describe, expect, test } from '@jest/globals';
import { Clipper, FillRule, type Paths64 } from 'clipper2-ts';
import fc from 'fast-check';
import { containsPoint } from '../geometry/ring.ts';
import { areaOf, liesOn, relate, relatedPairs, shareOfEdgeOn } from './areas.ts';
import { runs } from '../testing/runs.ts';

interface Area {
  readonly outline: Float64Array;
  readonly holes: readonly Float64Array[];
  readonly kind: 'fill';
}

const area = (outline: readonly number[], ...holes: readonly number[][]): Area => ({
  outline: Float64Array.from(outline),
  holes: holes.map((hole) => Float64Array.from(hole)),
  kind: 'fill',
});
const box = (x: number, y: number, w: number, h: number): number[] => [x, y, x + w, y, x + w, y + h, x, y + h];

/** Convex areas around a place, none smaller than cells can tell. */
const anyArea = fc
  .record({
    x: fc.double({ min: -20, max: 20, noNaN: true }),
    y: fc.double({ min: -20, max: 20, noNaN: true }),
    r: fc.double({ min: 3, max: 9, noNaN: true }),
    n: fc.integer({ min: 3, max: 9 }),
    turn: fc.double({ min: 0, max: 6, noNaN: true }),
  })
  .map(({ x, y, r, n, turn }) =>
    area(
      Array.from({ length: n }, (_, k) => {
        const at = turn + (k * 2 * Math.PI) / n;
        return [x + r * Math.cos(at), y + r * Math.sin(at)];
      }).flat(),
    ),
  );

const GRAIN = 1000;
const clipperPaths = ({ outline }: Area): Paths64 => [
  Array.from({ length: outline.length / 2 }, (_, k) => ({
    x: Math.round(outline[2 * k]! * GRAIN),
    y: Math.round(outline[2 * k + 1]! * GRAIN),
  })),
];

describe('areas', () => {
  test('share what a clipping library says that they share, and are as large as it says, to within a cell along their edges', () => {
    fc.assert(
      fc.property(anyArea, anyArea, (a, b) => {
        const shared = Math.abs(Clipper.areaPaths(Clipper.intersect(clipperPaths(a), clipperPaths(b), FillRule.NonZero))) / GRAIN ** 2;
        const own = Math.abs(Clipper.areaPaths(clipperPaths(a))) / GRAIN ** 2;
        expect(Math.abs(areaOf(a) - own)).toBeLessThan(4);
        expect(Math.abs(relate(a, b).shared - shared)).toBeLessThan(4);
        expect(relate(b, a)).toEqual(relate(a, b));
      }),
      runs(60, 20),
    );
  });

  test('hold a place where a point-in-ring test says so, but for those within a cell of the edge', () => {
    fc.assert(
      fc.property(anyArea, fc.double({ min: -25, max: 25, noNaN: true }), fc.double({ min: -25, max: 25, noNaN: true }), (a, x, y) => {
        const around = [-0.2, 0, 0.2].flatMap((dx) => [-0.2, 0, 0.2].map((dy) => containsPoint([a.outline], x + dx, y + dy)));
        if (new Set(around).size === 1) expect(liesOn(a, x, y)).toBe(around[0]);
      }),
      runs(300, 21),
    );
  });

  test('meet along their common edge, over a gap of a thread, and not over a wider one', () => {
    const tile = area(box(0, 0, 10, 8));
    const contactAt = (gap: number): number => relate(tile, area(box(10 + gap, 0, 10, 8))).contact;
    expect(contactAt(0)).toBeGreaterThan(7);
    expect(contactAt(0)).toBeLessThan(10.5);
    expect(contactAt(0.3)).toBeGreaterThan(7);
    expect(contactAt(1)).toBe(0);
    expect(relate(tile, area(box(10, 0, 10, 8))).shared).toBe(0);
    // One inside the other shares all of itself though their edges are far apart, unless a hole is there for it.
    const inner = area(box(4, 3, 2, 2));
    expect(relate(tile, inner).shared).toBeCloseTo(4, 0);
    expect(relate(area(box(0, 0, 10, 8), box(3, 2, 4, 4)), inner)).toEqual({ contact: 0, shared: 0 });
  });

  test('know how much of an edge another one covers', () => {
    const tile = area(box(0, 0, 10, 10));
    expect(shareOfEdgeOn(tile, area(box(-1, -1, 12, 2)))).toBeCloseTo(0.3, 1);
    expect(shareOfEdgeOn(tile, area(box(-1, -1, 12, 12)))).toBe(1);
    expect(shareOfEdgeOn(tile, area(box(20, 0, 5, 5)))).toBe(0);
  });

  test('are paired as comparing each with each pairs them', () => {
    fc.assert(
      fc.property(fc.array(anyArea, { minLength: 1, maxLength: 9 }), (areas) => {
        const expected = areas.flatMap((a, k) =>
          areas.flatMap((b, n) => (n > k && (relate(a, b).contact > 0 || relate(a, b).shared > 0) ? [[k, n]] : [])),
        );
        expect(relatedPairs(areas).map(({ a, b }) => [a, b])).toEqual(expected);
      }),
      runs(40, 22),
    );
  });

  test('of nothing have no size and meet nothing', () => {
    const nothing = area([0, 0, 0.01, 0, 0, 0.01]);
    expect([areaOf(nothing), shareOfEdgeOn(nothing, nothing), relate(nothing, area(box(-1, -1, 2, 2))).contact]).toEqual([0, 0, 0]);
    expect(relatedPairs([])).toEqual([]);
  });
});
