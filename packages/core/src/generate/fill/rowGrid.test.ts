import { describe, expect, test } from '@jest/globals';
import { square } from '../../testing/outsideShapes.ts';
import { generateFill } from './fill.ts';
import type { FillSpec } from './fillSpec.ts';

const STITCH = 4;
const SPEC: FillSpec = { angle: 0, spacing: 0.8, stitchLength: STITCH, offset: 'random', rowEnds: 'square' };

/** Where the grid of each row lies, as a share of a stitch, by the penetrations inside it, lowest row first. */
function shiftsOf(path: Float64Array): number[] {
  const rows = new Map<number, number[]>();
  for (let k = 0; k < path.length; k += 2) {
    const height = Math.round(path[k + 1]! * 1000);
    const row = rows.get(height);
    if (row === undefined) rows.set(height, [path[k]!]);
    else row.push(path[k]!);
  }
  return [...rows]
    .sort(([a], [b]) => a - b)
    .map(([, at]) => {
      const inner = [...at].sort((a, b) => a - b).slice(1, -1);
      const shifts = inner.map((x) => (((x / STITCH) % 1) + 1) % 1);
      // One grid a row: all its penetrations say the same.
      for (const shift of shifts) expect(Math.abs(Math.sin(Math.PI * (shift - shifts[0]!)))).toBeLessThan(1e-6);
      return shifts[0]!;
    });
}

/** How far apart two places on a circle of length 1 are. */
const apart = (a: number, b: number): number => Math.abs(((a - b + 1.5) % 1) - 0.5);

describe('rows shifted by chance', () => {
  const [path] = generateFill([square(40)], SPEC);
  const shifts = shiftsOf(path!);

  test('are spread over the whole stitch, evenly by a chi-squared test', () => {
    const bins = new Array<number>(8).fill(0);
    for (const shift of shifts) bins[Math.min(7, Math.floor(8 * shift))]!++;
    const even = shifts.length / 8;
    const chi = bins.reduce((sum, count) => sum + (count - even) ** 2 / even, 0);
    expect(shifts.length).toBeGreaterThan(90);
    // 7 degrees of freedom, 0.999 quantile (standard tables of the chi-squared distribution): 24.32.
    expect(chi).toBeLessThan(24.32);
  });

  test('make no pattern: no shift from row to row is usual, as it is where rows are shifted by a share', () => {
    const steps = (list: readonly number[]): number => {
      const most = list.slice(1).map((shift, r) => (shift - list[r]! + 1) % 1);
      return Math.max(...most.map((step) => most.filter((other) => apart(step, other) < 0.02).length)) / most.length;
    };
    expect(steps(shifts)).toBeLessThan(0.2);
    expect(steps(shiftsOf(generateFill([square(40)], { ...SPEC, offset: 0.3 })[0]!))).toBeGreaterThan(0.95);
  });

  test('belong to the place, so that the same fill comes out the same and one beside it goes on', () => {
    expect(generateFill([square(40)], SPEC)[0]).toEqual(path);
    const beside = shiftsOf(generateFill([square(40, 41)], SPEC)[0]!);
    beside.forEach((shift, r) => expect(apart(shift, shifts[r]!)).toBeLessThan(1e-6));
  });
});
