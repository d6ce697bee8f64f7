import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../generate/fill.ts';
import { generateSatin } from '../generate/satin.ts';
import { type Program, ProgramBuilder } from '../model/program.ts';
import { axisDifference, type StitchObject } from './stitchObject.ts';
import { recognizeProgram } from './recognizeProgram.ts';

/** A path as a file rounds it, to the grain given in mm. */
function rounded(path: Float64Array, grain: number): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', '');
  for (let k = 0; k < path.length; k += 2) builder.stitch(Math.round(path[k]! / grain) * grain, Math.round(path[k + 1]! / grain) * grain);
  return builder.end().build();
}

const mainOf = (program: Program): StitchObject => recognizeProgram(program).objects.reduce((a, b) => (b.stitches > a.stitches ? b : a));

describe('figures', () => {
  const outline = Float64Array.of(0, 0, 30, 3, 27, 24, 12, 30, -3, 20);

  test.each([0.3, 0.38, 0.5, 0.65, 0.8, 1.1, 1.6, 2.2])(
    'a pitch of %d mm comes back within 3 %, at any angle, also rounded to 0.1 mm',
    (spacing) => {
      for (const angle of [0, 17, 45, 90, 133]) {
        for (const grain of [0.001, 0.1]) {
          const [path] = generateFill([outline], { angle, spacing, stitchLength: 3.7, offset: 0.3 });
          const fill = mainOf(rounded(path!, grain));
          expect({ angle, grain, kind: fill.kind }).toEqual({ angle, grain, kind: 'fill' });
          expect(Math.abs(fill.spacing! / spacing - 1)).toBeLessThan(0.03);
          expect(axisDifference(fill.angle!, angle)).toBeLessThan(2);
          expect(fill.stitchLength).toBeCloseTo(3.7, 0);
        }
      }
    },
  );

  test('straight rows so open that they look like a line beside itself are a fill, not a contour', () => {
    for (const rowEnds of ['square', 'slanted'] as const) {
      const square = Float64Array.of(0, 0, 60, 0, 60, 45, 0, 45);
      const [path] = generateFill([square], { angle: 0, spacing: 2.6, stitchLength: 3.7, offset: 0.3, rowEnds });
      const fill = mainOf(rounded(path!, 0.1));
      expect([fill.kind, fill.pattern]).toEqual(['fill', undefined]);
      expect(Math.abs(fill.spacing! / 2.6 - 1)).toBeLessThan(0.03);
    }
  });

  test.each([
    [1.2, 0.35],
    [3, 0.4],
    [6, 0.5],
    [11, 0.45],
  ])('a column %d mm wide at %d mm, straight and tapered to a tip', (width, spacing) => {
    const even = generateSatin(Float64Array.of(0, 0, 40, 6), Float64Array.of(0, width, 40, 6 + width), {
      spacing,
      pull: 0,
      splitLength: 7,
    });
    const pointed = generateSatin(Float64Array.of(0, 0, 40, 0), Float64Array.of(0, width, 40, 0.4), { spacing, pull: 0, splitLength: 7 });
    for (const grain of [0.001, 0.1]) {
      const satin = mainOf(rounded(even, grain));
      expect(satin.kind).toBe('satin');
      expect(Math.abs(satin.spacing! / spacing - 1)).toBeLessThan(0.04);
      expect(satin.width!.mean / width).toBeCloseTo(1, 0);
      const tip = mainOf(rounded(pointed, grain));
      expect(tip.kind).toBe('satin');
      expect(tip.width!.min).toBeLessThan(0.45 * width + 0.3);
      expect(tip.width!.max / width).toBeCloseTo(1, 0);
      expect(tip.rails!.left.length).toBeGreaterThan(20);
    }
  });

  test('angles without a sense differ by 90° at most', () => {
    for (const [a, b, difference] of [
      [0, 0, 0],
      [0, 180, 0],
      [179, 1, 2],
      [10, 100, 90],
      [-30, 170, 20],
      [45, 405, 0],
    ] as const) {
      expect(axisDifference(a, b)).toBeCloseTo(difference, 9);
      expect(axisDifference(b, a)).toBeCloseTo(difference, 9);
    }
  });
});
