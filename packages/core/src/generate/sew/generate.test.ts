import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { svgPathProperties } from 'svg-path-properties';
import { flattenPath } from '../../formats/svg/flattenPath.ts';
import { offsetRings } from '../../geometry/offset.ts';
import { lengthOfPath, resamplePath } from '../../geometry/path.ts';
import { containsPoint, signedArea } from '../../geometry/ring.ts';
import { generateFill } from '../fill/fill.ts';
import { generateRun } from '../line/run.ts';
import { generateSatin } from '../column/satin.ts';
import {
  generateCenterRun,
  generateColumnEdgeRun,
  generateEdgeRun,
  generateReturnRun,
  generateTatamiUnderlay,
  generateZigzag,
} from '../underlay.ts';
import { runs } from '../../testing/runs.ts';

const SQUARE = Float64Array.of(0, 0, 25.4, 0, 25.4, 25.4, 0, 25.4);
const CROSS = Float64Array.of(0, 10, 10, 10, 10, 0, 20, 0, 20, 10, 30, 10, 30, 20, 20, 20, 20, 30, 10, 30, 10, 20, 0, 20);

function ring(radius: number, x = 0, y = 0): Float64Array {
  return Float64Array.from(
    Array.from({ length: 240 }, (_, k) =>
      k % 2 === 0 ? x + radius * Math.cos((k * Math.PI) / 120) : y + radius * Math.sin(((k - 1) * Math.PI) / 120),
    ),
  );
}

function steps(path: Float64Array): number[] {
  return Array.from({ length: path.length / 2 - 1 }, (_, k) =>
    Math.hypot(path[k * 2 + 2]! - path[k * 2]!, path[k * 2 + 3]! - path[k * 2 + 1]!),
  );
}

describe('run', () => {
  test('steps are even, no longer than asked, and no farther than 0.1 mm from the curve', () => {
    const flat = flattenPath('M0 0C20 40 60 -40 80 0', '', 1, 0.05);
    if (!flat.ok) throw new Error(flat.error.found);
    const path = Float64Array.from(flat.value[0]!);
    const run = generateRun(path, { stitchLength: 2.5 });
    expect(Math.max(...steps(run))).toBeLessThanOrEqual(2.5);
    const length = new svgPathProperties('M0 0C20 40 60 -40 80 0').getTotalLength();
    expect(lengthOfPath(run)).toBeGreaterThan(length * 0.995);
    expect([run[0], run[1]]).toEqual([0, 0]);
  });

  test('a corner keeps its penetration', () => {
    const run = generateRun(Float64Array.of(0, 0, 10, 0, 10, 7), { stitchLength: 3 });
    expect(Array.from({ length: run.length / 2 }, (_, k) => [run[k * 2], run[k * 2 + 1]])).toContainEqual([10, 0]);
  });

  test('resampling is even and refuses what has no meaning', () => {
    const even = steps(resamplePath(Float64Array.of(0, 0, 3, 4, 9, 4), 12));
    expect(Math.max(...even) / Math.min(...even)).toBeLessThan(1.1);
    expect([...resamplePath(Float64Array.of(2, 3), 2)]).toEqual([2, 3, 2, 3]);
    expect(() => resamplePath(new Float64Array(0), 2)).toThrow(/needs a point/);
  });
});

describe('satin', () => {
  test('penetrations on the outer edge stand at the pitch asked for, within 3 %', () => {
    const arc = (radius: number): Float64Array => ring(radius).slice(0, 120);
    const satin = generateSatin(arc(20), arc(16), { spacing: 0.4, pull: 0, splitLength: 7 });
    const outer: number[] = [];
    for (let k = 4; k < satin.length / 2; k += 2)
      outer.push(Math.hypot(satin[k * 2]! - satin[k * 2 - 4]!, satin[k * 2 + 1]! - satin[k * 2 - 3]!));
    const mean = outer.reduce((a, b) => a + b, 0) / outer.length;
    expect(Math.abs(mean - 0.4) / 0.4).toBeLessThan(0.03);
  });

  test('pull widens either side, crowded inner edges get short stitches, broad columns are split', () => {
    const [left, right] = [Float64Array.of(0, 0, 0, 20), Float64Array.of(4, 0, 4, 20)];
    const wide = generateSatin(left, right, { spacing: 0.4, pull: 0.25, splitLength: 7 });
    expect(Math.min(...wide.filter((_, k) => k % 2 === 0))).toBeCloseTo(-0.25, 9);
    expect(Math.max(...wide.filter((_, k) => k % 2 === 0))).toBeCloseTo(4.25, 9);
    const tight = generateSatin(ring(6).slice(0, 120), ring(1).slice(0, 120), { spacing: 0.4, pull: 0, splitLength: 9 });
    const inner = Array.from({ length: tight.length / 2 }, (_, k) => Math.hypot(tight[k * 2]!, tight[k * 2 + 1]!)).filter(
      (_, k) => k % 2 === 1,
    );
    expect(inner.some((r) => r > 2)).toBe(true);
    const broad = generateSatin(left, Float64Array.of(12, 0, 12, 20), { spacing: 0.4, pull: 0, splitLength: 7 });
    expect(Math.max(...steps(broad))).toBeLessThanOrEqual(7);
  });

  test('columns get their underlay inside their edges, ending where it began', () => {
    const [left, right] = [Float64Array.of(0, 0, 0, 20), Float64Array.of(4, 0, 4, 20)];
    const zigzagAndBack = Float64Array.from([...generateZigzag(left, right, 2), ...generateReturnRun(left, right)]);
    for (const path of [generateCenterRun(left, right), generateColumnEdgeRun(left, right), zigzagAndBack]) {
      for (let k = 0; k < path.length; k += 2) expect(path[k]! > 0.3 && path[k]! < 3.7).toBe(true);
      expect(path[path.length - 1]).toBeCloseTo(0, 6);
    }
  });
});

describe('fill', () => {
  test('a full fill of a square inch takes 1,000 to 1,500 stitches (from memory)', () => {
    const [path] = generateFill([SQUARE], { angle: 20, spacing: 0.4, stitchLength: 3.5, offset: 0.3 });
    expect(path!.length / 2).toBeGreaterThan(1000);
    expect(path!.length / 2).toBeLessThan(1500);
  });

  test('it covers its area at the pitch asked for, stays inside and never steps over its stitch length', () => {
    for (const rings of [[SQUARE], [CROSS], [ring(15), ring(6, 3, 2)]]) {
      for (const angle of [0, 33, 90, 147]) {
        const paths = generateFill(rings, { angle, spacing: 0.4, stitchLength: 4, offset: 0.3 });
        const area = rings.reduce((sum, r, k) => sum + (k === 0 ? 1 : -1) * Math.abs(signedArea(r)), 0);
        const laid = paths.reduce((sum, p) => sum + lengthOfPath(p), 0);
        expect(laid * 0.2).toBeGreaterThan(area * 0.96);
        expect(laid * 0.2).toBeLessThan(area * 1.1);
        const near = offsetRings(rings, 0.3);
        for (const path of paths) {
          expect(Math.max(...steps(path))).toBeLessThan(5.9);
          for (let k = 0; k < path.length; k += 2) expect(containsPoint(near, path[k]!, path[k + 1]!)).toBe(true);
        }
      }
    }
  });

  test('a shape with a hole and arms sews without a cut, since its sections are joined inside it', () => {
    expect(generateFill([CROSS], { angle: 45, spacing: 0.4, stitchLength: 4, offset: 0.3 })).toHaveLength(1);
    expect(generateFill([ring(15), ring(6)], { angle: 10, spacing: 0.4, stitchLength: 4, offset: 0.3 })).toHaveLength(1);
  });

  test('underlay lies inside the edge, whatever way the rings run', () => {
    const outline = ring(15);
    const hole = ring(6);
    for (const inner of [
      hole,
      Float64Array.from(
        Array.from(hole)
          .reverse()
          .map((_, k, all) => (k % 2 === 0 ? all[k + 1]! : all[k - 1]!)),
      ),
    ]) {
      const edges = generateEdgeRun([outline, inner]);
      expect(edges).toHaveLength(2);
      for (const path of [...edges, ...generateTatamiUnderlay([outline, inner], 0)]) {
        for (let k = 0; k < path.length; k += 2) {
          const radius = Math.hypot(path[k]!, path[k + 1]!);
          expect(radius < 14.6 && radius > 6.3).toBe(true);
        }
      }
    }
  });

  test('shapes that no row meets, and shapes of any corners, give an answer', () => {
    expect(generateFill([Float64Array.of(0, 0, 1, 0, 1, 0.05)], { angle: 0, spacing: 0.4, stitchLength: 4, offset: 0.3 })).toEqual([]);
    expect(generateFill([], { angle: 0, spacing: 0.4, stitchLength: 4, offset: 0.3 })).toEqual([]);
    expect(offsetRings([SQUARE], -20)).toEqual([]);
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 6, maxLength: 16 }),
        fc.integer({ min: 0, max: 179 }),
        (values, angle) => {
          const shape = Float64Array.from(values.slice(0, values.length - (values.length % 2)));
          for (const path of generateFill([shape], { angle, spacing: 0.8, stitchLength: 4, offset: 0.3 })) {
            for (let k = 0; k < path.length; k++) expect(Math.abs(path[k]!)).toBeLessThanOrEqual(20.001);
          }
        },
      ),
      runs(60, 12),
    );
  });
});
