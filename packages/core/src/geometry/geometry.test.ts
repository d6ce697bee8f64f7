import { describe, expect, test } from '@jest/globals';
import { areaD, FillRule, type PathD, pointInPolygonD, PointInPolygonResult, unionD } from 'clipper2-ts';
import fc from 'fast-check';
import { svgPathProperties } from 'svg-path-properties';
import { CURVE_TOLERANCE, flattenCubic } from './flattenCubic.ts';
import { labelCells } from './labelCells.ts';
import { clamp, roundToThousandth } from './number.ts';
import { offsetRings } from './offset.ts';
import { lengthOfPath, resamplePath } from './path.ts';
import { containsPoint, signedArea } from './ring.ts';
import { runs } from '../testing/runs.ts';

const coordinate = fc.integer({ min: -5000, max: 5000 }).map((v) => v / 100);
const ring = fc.array(fc.tuple(coordinate, coordinate), { minLength: 3, maxLength: 12 }).map((points) => Float64Array.from(points.flat()));

function asPath(points: Float64Array): PathD {
  return Array.from({ length: points.length / 2 }, (_, k) => ({ x: points[k * 2]!, y: points[k * 2 + 1]! }));
}

/** A regular polygon of so many corners that it passes for a circle. */
function circle(radius: number, x = 0, y = 0, corners = 720): Float64Array {
  const out = new Float64Array(corners * 2);
  for (let k = 0; k < corners; k++) {
    out[k * 2] = x + radius * Math.cos((2 * Math.PI * k) / corners);
    out[k * 2 + 1] = y + radius * Math.sin((2 * Math.PI * k) / corners);
  }
  return out;
}

describe('numbers', () => {
  test('rounding keeps three decimals, is never −0, and does not move what has three already', () => {
    expect(roundToThousandth(1.23456)).toBe(1.235);
    expect(Object.is(roundToThousandth(-0.0001), 0)).toBe(true);
    fc.assert(
      fc.property(fc.integer({ min: -1_000_000, max: 1_000_000 }), (thousandths) => {
        expect(roundToThousandth(thousandths / 1000)).toBe(thousandths / 1000 + 0);
      }),
      runs(100, 57),
    );
    expect([clamp(-1, 0, 2), clamp(1, 0, 2), clamp(9, 0, 2)]).toEqual([0, 1, 2]);
  });
});

describe('rings', () => {
  test('areas are those of Clipper 2, for any ring, whichever way it runs', () => {
    fc.assert(
      fc.property(ring, (points) => {
        expect(signedArea(points)).toBeCloseTo(areaD(asPath(points)), 6);
      }),
      runs(200, 5),
    );
    expect(signedArea(new Float64Array(0))).toBe(0);
    expect(signedArea(Float64Array.of(1, 2, 3, 4))).toBe(0);
  });

  test('a point is inside where Clipper 2 says so, for any ring that does not cross itself', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 14 }),
        fc.array(fc.integer({ min: 5, max: 40 }), { minLength: 14, maxLength: 14 }),
        coordinate,
        coordinate,
        (corners, radii, x, y) => {
          // A star around the origin never crosses itself.
          const star = Float64Array.from(
            Array.from({ length: corners }, (_, k) => [
              radii[k]! * Math.cos((2 * Math.PI * k) / corners),
              radii[k]! * Math.sin((2 * Math.PI * k) / corners),
            ]).flat(),
          );
          const theirs = pointInPolygonD({ x, y }, asPath(star));
          if (theirs === PointInPolygonResult.IsOn) return;
          expect(containsPoint([star], x, y)).toBe(theirs === PointInPolygonResult.IsInside);
        },
      ),
      runs(400, 6),
    );
    expect(containsPoint([], 0, 0)).toBe(false);
    expect(containsPoint([circle(10), circle(4)], 0, 0)).toBe(false);
    expect(containsPoint([circle(10), circle(4)], 6, 0)).toBe(true);
  });

  test('an offset circle is a circle of the other radius, a hole shrinks as its area grows, and what vanishes is gone', () => {
    const area = (rings: readonly Float64Array[]): number =>
      unionD(rings.map(asPath), [], FillRule.EvenOdd, 4).reduce((sum, path) => sum + areaD(path), 0);
    for (const distance of [-3, -0.6, 0.5, 2]) {
      const moved = offsetRings([circle(10)], distance);
      expect(moved).toHaveLength(1);
      expect(Math.abs(signedArea(moved[0]!)) / (Math.PI * (10 + distance) ** 2)).toBeCloseTo(1, 2);
      const withHole = area(offsetRings([circle(20), circle(10)], distance));
      expect(withHole / (Math.PI * ((20 + distance) ** 2 - (10 - distance) ** 2))).toBeCloseTo(1, 2);
    }
    expect(offsetRings([circle(10)], -11)).toEqual([]);
    expect(offsetRings([], 1)).toEqual([]);
  });
});

describe('paths', () => {
  test('resampling any path keeps its ends, never makes it longer, and approaches its length', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate), { minLength: 2, maxLength: 20 }),
        fc.integer({ min: 2, max: 60 }),
        (points, count) => {
          const path = Float64Array.from(points.flat());
          const even = resamplePath(path, count);
          expect(even).toHaveLength(count * 2);
          expect([even[0], even[1]]).toEqual([path[0], path[1]]);
          expect(even[count * 2 - 2]).toBeCloseTo(path[path.length - 2]!, 6);
          expect(lengthOfPath(even)).toBeLessThanOrEqual(lengthOfPath(path) + 1e-6);
          expect(lengthOfPath(resamplePath(path, 4000)) / Math.max(1e-9, lengthOfPath(path)) > 0.97 || lengthOfPath(path) === 0).toBe(true);
        },
      ),
      runs(100, 8),
    );
    expect(lengthOfPath(new Float64Array(0))).toBe(0);
    expect(lengthOfPath(Float64Array.of(4, 4))).toBe(0);
  });

  test('a flattened curve is as long as svg-path-properties says, for any control points', () => {
    fc.assert(
      fc.property(fc.array(coordinate, { minLength: 8, maxLength: 8 }), (c) => {
        const [x0, y0, x1, y1, x2, y2, x3, y3] = c as [number, number, number, number, number, number, number, number];
        const out = [x0, y0];
        flattenCubic(out, x0, y0, x1, y1, x2, y2, x3, y3);
        expect(out.slice(-2)[0]).toBeCloseTo(x3, 9);
        const theirs = new svgPathProperties(`M${x0} ${y0}C${x1} ${y1} ${x2} ${y2} ${x3} ${y3}`).getTotalLength();
        expect(Math.abs(lengthOfPath(Float64Array.from(out)) - theirs)).toBeLessThan(0.002 * theirs + 0.02);
      }),
      runs(150, 9),
    );
  });

  test('a coarser tolerance takes fewer points, and a straight curve one chord', () => {
    const count = (tolerance: number): number => {
      const out: number[] = [];
      flattenCubic(out, 0, 0, 0, 40, 60, 40, 60, 0, tolerance);
      return out.length / 2;
    };
    expect(count(CURVE_TOLERANCE)).toBeGreaterThan(2 * count(1));
    const straight: number[] = [];
    flattenCubic(straight, 0, 0, 1, 1, 2, 2, 3, 3);
    expect(straight).toEqual([3, 3]);
  });
});

describe('cells', () => {
  /** The plain way: grow each group until nothing joins it any more. */
  function bruteForce(marks: Uint16Array, columns: number): number[][] {
    const group = Array.from(marks, (mark, cell) => (mark === 0 ? -1 : cell));
    for (let isMoving = true; isMoving;) {
      isMoving = false;
      for (let cell = 0; cell < marks.length; cell++) {
        const near = [cell % columns < columns - 1 ? cell + 1 : -1, cell + columns];
        for (const other of near) {
          if (other < 0 || other >= marks.length || marks[cell] === 0 || marks[cell] !== marks[other] || group[cell] === group[other])
            continue;
          const least = Math.min(group[cell]!, group[other]!);
          group[cell] = least;
          group[other] = least;
          isMoving = true;
        }
      }
    }
    const groups = new Map<number, number[]>();
    group.forEach((id, cell) => {
      if (id >= 0) groups.set(id, [...(groups.get(id) ?? []), cell]);
    });
    return [...groups.values()];
  }

  test('groups are those of brute force, on any small grid with several marks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 7 }),
        fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 49 }),
        (columns, values) => {
          const marks = Uint16Array.from(values.slice(0, Math.max(columns, Math.floor(values.length / columns) * columns)));
          const sort = (groups: number[][]): number[][] => groups.map((g) => [...g].sort((a, b) => a - b)).sort((a, b) => a[0]! - b[0]!);
          expect(sort(labelCells(marks, columns))).toEqual(sort(bruteForce(marks, columns)));
        },
      ),
      runs(300, 10),
    );
    expect(labelCells(new Uint16Array(0), 1)).toEqual([]);
  });
});
