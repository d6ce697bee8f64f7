import { describe, expect, test } from '@jest/globals';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import type { StitchObject } from '../../model/stitchObject.ts';

type Throw = readonly [x0: number, y0: number, x1: number, y1: number];

/** Throws one after the other, every second one the other way. */
function programOf(columns: readonly (readonly Throw[])[], isCut: boolean): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  columns.forEach((throws, n) => {
    if (n > 0 && isCut) builder.trim();
    if (n === 0 || isCut) builder.jump(throws[0]![0], throws[0]![1]);
    throws.forEach(([x0, y0, x1, y1], k) => {
      const [a, b] = k % 2 === 0 ? ([x0, y0, x1, y1] as const).slice(0, 2) : [x1, y1];
      builder.stitch(Math.round(a! * 10) / 10, Math.round(b! * 10) / 10);
    });
  });
  return builder.trim().end().build();
}

const coversOf = (program: Program): StitchObject[] => recognizeProgram(program).objects.filter((o) => o.role === 'cover');

/** A stroke `width` wide, 12 mm on to the right, then 10 mm on after a corner of 60° about its inner edge, with one throw in the corner. */
function cornered(width: number): Throw[] {
  const across = Array.from({ length: 57 }, (_, k): Throw => [k * 0.21, 0, k * 0.21, width]);
  const leaning = (degrees: number, on: number): Throw => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const [x, y] = [12 + on * c, -on * s];
    return [x, y, x + width * s, y + width * c];
  };
  return [...across, leaning(30, 0), ...Array.from({ length: 48 }, (_, k) => leaning(60, k * 0.21))];
}

describe('columns that turn a corner', () => {
  test.each([1.2, 2, 3.2])('%p mm wide are one column, since they go on as wide as before', (width) => {
    const covers = coversOf(programOf([cornered(width)], false));
    expect(covers.map((o) => o.kind)).toEqual(['satin']);
    expect(Math.abs(covers[0]!.spacing! / 0.42 - 1)).toBeLessThan(0.12);
  });

  test('two columns with a cut between stay two, however they lie', () => {
    const throws = cornered(2);
    expect(coversOf(programOf([throws.slice(0, 57), throws.slice(58)], true)).map((o) => o.kind)).toEqual(['satin', 'satin']);
  });

  test('spots side by side, a jump apart, are as many columns and no narrow fill', () => {
    const spot = (cx: number): Throw[] =>
      Array.from({ length: 16 }, (_, k): Throw => {
        const x = -1.5 + k * 0.2;
        const half = 1.7 * Math.sqrt(Math.max(0.02, 1 - (x / 1.6) ** 2));
        return [cx + x, -half, cx + x, half];
      });
    const covers = coversOf(programOf([spot(0), spot(3.5), spot(7), spot(10.5)], true));
    expect(covers.map((o) => o.kind)).toEqual(['satin', 'satin', 'satin', 'satin']);
  });
});
