import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateSatin } from '../../generate/column/satin.ts';
import { signedArea } from '../../geometry/ring.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { type StitchObject } from '../../model/stitchObject.ts';
import { axisDifference } from '../../geometry/axis.ts';
import { recognizeProgram } from '../recognizeProgram.ts';

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
    [9, 0.45],
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

describe('ends of rows', () => {
  // Edges that lean by 45°, along which a turn leans half toward the row and half across it.
  const rhomb = Float64Array.of(0, 0, 24, 0, 40, 16, 16, 16);
  const found = (rowEnds: 'square' | 'slanted', angle: number, spacing: number, grain: number) => {
    const [path] = generateFill([rhomb], { angle, spacing, stitchLength: 3.6, offset: 0.3, rowEnds });
    const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(path![0]!, path![1]!);
    const settle = (v: number): number => Math.round(v / grain) * grain;
    for (let k = 0; k < path!.length; k += 2) builder.stitch(settle(path![k]!), settle(path![k + 1]!));
    const fills = recognizeProgram(builder.trim().end().build()).objects.filter((o) => o.role === 'cover' && o.kind === 'fill');
    return fills.reduce((a, b) => (a.stitches > b.stitches ? a : b));
  };

  test.each([
    ['square', 0, 0.9],
    ['slanted', 0, 0.9],
    ['square', 20, 0.9],
    ['slanted', 20, 0.9],
    ['square', 0, 0.7],
    ['slanted', 0, 0.7],
  ] as const)('%s at %p°, %p mm apart, are told on slanting edges, rounded or not', (rowEnds, angle, spacing) => {
    for (const grain of [0.001, 0.1]) {
      const fill = found(rowEnds, angle, spacing, grain);
      expect({ grain, rowEnds: fill.rowEnds }).toEqual({ grain, rowEnds });
      expect(Math.abs(fill.spacing! / spacing - 1)).toBeLessThan(0.02);
      expect(Math.abs(fill.stitchLength / 3.6 - 1)).toBeLessThan(0.04);
    }
  });
});

describe('areas of a fill', () => {
  test('two lobes that hang together by a neck are one outline with all of the area, whichever way the rows run', () => {
    // A dumbbell: two squares of 14 mm and a neck of 3 mm by 10 mm.
    const bell = Float64Array.of(0, 0, 14, 0, 14, 5.5, 24, 5.5, 24, 0, 38, 0, 38, 14, 24, 14, 24, 8.5, 14, 8.5, 14, 14, 0, 14);
    for (const angle of [0, 35, 90]) {
      const [path] = generateFill([bell], { angle, spacing: 0.5, stitchLength: 3.5, offset: 0.3 });
      const fill = mainOf(rounded(path!, 0.1));
      expect(fill.kind).toBe('fill');
      const area = Math.abs(signedArea(fill.outline)) - fill.holes.reduce((sum, hole) => sum + Math.abs(signedArea(hole)), 0);
      expect({ angle, share: Math.abs(area / (2 * 14 * 14 + 3 * 10) - 1) < 0.05 }).toEqual({ angle, share: true });
    }
  });
});
