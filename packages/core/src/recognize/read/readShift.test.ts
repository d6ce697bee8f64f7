import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { agree } from '../rows/agree.ts';
import { readShift } from './readShift.ts';
import { runs } from '../../testing/runs.ts';

/** Penetrations of so many rows whose grid is shifted by a share of a stitch from line to line, off by some noise; some are missing. */
function grid(stitchLength: number, offset: number, along: number, lines: number, noise: (n: number) => number, first = 0) {
  return Array.from({ length: lines }, (_, r) => r + first).flatMap((line) =>
    Array.from({ length: 5 }, (_, k) => ({ line, u: along + (k - 2 + line * offset) * stitchLength + noise(line * 5 + k) })).filter(
      (_, k) => (line * 7 + k) % 5 !== 3,
    ),
  );
}

const apartBy = (a: number, b: number): number => Math.abs(a - b - Math.round(a - b));

describe('the shift of rows against each other', () => {
  test('is read from any grid that was sewn, wherever it lies and whichever line is counted first', () => {
    fc.assert(
      fc.property(
        fc.record({
          stitchLength: fc.double({ min: 2, max: 6, noNaN: true }),
          offset: fc.integer({ min: 0, max: 99 }),
          along: fc.double({ min: -50, max: 50, noNaN: true }),
          lines: fc.integer({ min: 12, max: 120 }),
          first: fc.integer({ min: -200, max: 200 }),
        }),
        ({ stitchLength, offset, along, lines, first }) => {
          const sewn = grid(stitchLength, offset / 100, along, lines, (n) => 0.03 * Math.sin(n * 12.9898), first);
          const read = readShift(sewn, stitchLength);
          expect(read).toBeDefined();
          // Over all lines it slips by less than a tenth of a stitch.
          expect(apartBy(read!.offset, offset / 100) * lines).toBeLessThan(0.1);
          // And where it says that the grid lies, penetrations agree as well as they can.
          const weights = sewn.map(() => 1);
          const off = sewn.map(({ u, line }) => apartBy((u - read!.along) / stitchLength - line * read!.offset, 0));
          expect(off.reduce((a, b) => a + b, 0) / off.length).toBeLessThan(0.1);
          const { agreement } = agree(sewn, weights, ({ u, line }) => u / stitchLength - line * read!.offset);
          expect(agreement).toBeGreaterThan(0.8);
        },
      ),
      runs(120, 31),
    );
  });

  test('is none where penetrations lie anywhere, where rows are too few, or where there are none', () => {
    let at = 7;
    const chance = (): number => (at = (at * 48271) % 2147483647) / 2147483647;
    const anywhere = Array.from({ length: 200 }, (_, k) => ({ line: k >> 2, u: 40 * chance() }));
    expect(readShift(anywhere, 4)).toBeUndefined();
    expect(
      readShift(
        grid(4, 0.3, 0, 2, () => 0),
        4,
      ),
    ).toBeUndefined();
    expect(readShift([], 4)).toBeUndefined();
  });

  test('says no more than a tidy value where one sews the same, and the value as it is where it does not', () => {
    expect(
      readShift(
        grid(4, 0.25, 1, 40, () => 0),
        4,
      )!.offset,
    ).toBeCloseTo(0.25, 12);
    const odd = readShift(
      grid(4, 0.3137, 1, 120, () => 0),
      4,
    )!;
    expect(Math.abs(odd.offset - 0.3137)).toBeLessThan(0.0012);
  });
});
