import { describe, expect, test } from '@jest/globals';
import { lengthOfPath } from '../../geometry/path.ts';
import { awayFrom, insideShare, outsideShapes, square, stepsOf } from '../../testing/outsideShapes.ts';
import { generateContour } from './contour.ts';
import { generateMeander } from './meander.ts';
import { someOf } from '../../testing/runs.ts';

/** The share of places inside rings, a millimeter apart, that lie farther than so many mm from all lines. */
function bareShare(rings: readonly Float64Array[], lines: readonly Float64Array[], away: number): number {
  const [xs, ys] = [0, 1].map((axis) => rings[0]!.filter((_, k) => k % 2 === axis));
  let [all, bare] = [0, 0];
  for (let x = Math.min(...xs!) + 0.5; x < Math.max(...xs!); x += 1) {
    for (let y = Math.min(...ys!) + 0.5; y < Math.max(...ys!); y += 1) {
      if (insideShare(rings, Float64Array.of(x, y)) === 0) continue;
      all++;
      if (awayFrom(lines, x, y) > away) bare++;
    }
  }
  return bare / all;
}

describe('single-line fills', () => {
  test.each(someOf(outsideShapes()))(
    '$name: contour and meander are unbroken, inside, as long as their spacing lets them, and come everywhere',
    ({ rings, parts, area }) => {
      const contour = generateContour(rings, { spacing: 1, stitchLength: 2.5 });
      expect(contour.length).toBeLessThanOrEqual(parts + 1);
      const laid = contour.reduce((sum, p) => sum + lengthOfPath(p), 0);
      expect(laid / area).toBeGreaterThan(0.8);
      expect(laid / area).toBeLessThan(1.2);
      for (const path of contour) {
        expect(insideShare(rings, path)).toBe(1);
        expect(Math.max(...stepsOf(path))).toBeLessThanOrEqual(2.5 + 1e-9);
      }
      expect(bareShare(rings, contour, 1)).toBeLessThan(0.01);

      const meander = generateMeander(rings, { spacing: 1, stitchLength: 2.2 });
      expect(meander.length).toBeLessThanOrEqual(parts + 1);
      for (const path of meander) {
        expect(insideShare(rings, path)).toBe(1);
        expect(Math.max(...stepsOf(path))).toBeLessThanOrEqual(2.2 + 1e-9);
        expect([path[0], path[1]]).toEqual([path[path.length - 2], path[path.length - 1]]);
      }
      const wandered = meander.reduce((sum, p) => sum + lengthOfPath(p), 0);
      expect(wandered / area).toBeGreaterThan(0.75);
      expect(wandered / area).toBeLessThan(1.1);
      expect(bareShare(rings, meander, 1)).toBeLessThan(0.07);
    },
  );

  test('a meander line does not cross itself, and differs with its seed', () => {
    const [path] = generateMeander([square(16)], { spacing: 2, stitchLength: 2 });
    const side = (ax: number, ay: number, bx: number, by: number, px: number, py: number) => (bx - ax) * (py - ay) - (by - ay) * (px - ax);
    const at = (k: number): [number, number, number, number] => [path![k]!, path![k + 1]!, path![k + 2]!, path![k + 3]!];
    for (let a = 0; a + 3 < path!.length; a += 2) {
      for (let b = a + 4; b + 3 < path!.length; b += 2) {
        const [p, q] = [at(a), at(b)];
        const isCrossing =
          side(...p, q[0], q[1]) * side(...p, q[2], q[3]) < -1e-9 && side(...q, p[0], p[1]) * side(...q, p[2], p[3]) < -1e-9;
        expect(isCrossing).toBe(false);
      }
    }
    expect([...generateMeander([square(16)], { spacing: 2, stitchLength: 2, seed: 2 })[0]!]).not.toEqual([...path!]);
  });

  test('a meander goes into what is one place broad and comes back, and over to what lies beyond, as one line', () => {
    // Two squares with a strip between them on which there is room for one way only, and a dead end.
    const dumbbell = Float64Array.of(
      0,
      0,
      9,
      0,
      9,
      4,
      24,
      4,
      24,
      0,
      33,
      0,
      33,
      9,
      24,
      9,
      24,
      5.5,
      9,
      5.5,
      9,
      9,
      5,
      9,
      5,
      16,
      3.5,
      16,
      3.5,
      9,
      0,
      9,
    );
    const lines = generateMeander([dumbbell], { spacing: 1.2, stitchLength: 2.4 });
    expect(lines).toHaveLength(1);
    for (const [x, y] of [
      [16, 4.7],
      [30, 5],
      [4.2, 15],
    ] as const)
      expect(awayFrom(lines, x, y)).toBeLessThan(1.2);
    expect(insideShare([dumbbell], lines[0]!)).toBe(1);
  });

  test.each([1.5, 2.1, 3, 3.9, 5.4])('of a strip %p spacings broad, a contour leaves no more than three quarters of one bare', (broad) => {
    const strip = Float64Array.of(0, 0, 40, 0, 40, broad, 0, broad);
    const contour = generateContour([strip], { spacing: 1, stitchLength: 2.5 });
    expect(contour).toHaveLength(1);
    for (let y = 0.1; y < broad; y += 0.1) expect(awayFrom(contour, 20, y)).toBeLessThan(0.8);
  });
});
