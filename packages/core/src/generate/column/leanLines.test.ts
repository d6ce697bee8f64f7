import { describe, expect, test } from '@jest/globals';
import { ObjectSpec, USUAL_SPEC } from '../../model/objectSpec.ts';
import { ProgramBuilder } from '../../model/program.ts';
import { recognizeProgram } from '../../recognize/recognizeProgram.ts';
import { specOf } from '../../recognize/read/specOf.ts';
import { generateObject } from '../sew/generateObject.ts';
import { lineAcross, readLean, rungsOf } from './leanLines.ts';
import { generateSatin } from './satin.ts';

// A straight column 40 mm long and 4 mm wide, its edges along y = 4 and y = 0.
const column = { left: Float64Array.of(0, 4, 40, 4), right: Float64Array.of(0, 0, 40, 0) };
const spec: ObjectSpec = { ...USUAL_SPEC, kind: 'satin', width: 4 };
const shape = { kind: 'column' as const, left: [...column.left], right: [...column.right] };

/** The angle of the throws that cross x, degrees from upright: leaning to the right is positive. */
function leanAt(points: Float64Array, x: number): number {
  const leans: number[] = [];
  for (let k = 2; k < points.length; k += 2) {
    const [x0, y0, x1, y1] = [points[k - 2]!, points[k - 1]!, points[k]!, points[k + 1]!];
    if (Math.abs((x0 + x1) / 2 - x) < 1 && Math.abs(y1 - y0) > 2)
      leans.push((Math.atan2((x1 - x0) * Math.sign(y1 - y0), Math.abs(y1 - y0)) * 180) / Math.PI);
  }
  return leans.reduce((sum, l) => sum + l, 0) / leans.length;
}

describe('angle lines of a satin', () => {
  test('throws lie along the line where it crosses, and turn evenly to the square ends', () => {
    // From (18, 0) to (22, 4): 45° to the right in the middle of the column.
    const made = generateObject(shape, { ...spec, angleLines: [[18, 0, 22, 4]] });
    if (!made.ok) throw new Error(made.error);
    const points = made.value.parts.find((p) => p.role === 'cover')!.points;
    expect(Math.abs(leanAt(points, 20) - 45)).toBeLessThan(1.5);
    // The lean grows with the way along the column: half of the offset at a quarter of it (atan of 2 mm over 4 mm is 26.6°).
    expect(leanAt(points, 10)).toBeGreaterThan(22);
    expect(leanAt(points, 10)).toBeLessThan(31);
    expect(Math.abs(leanAt(points, 0.8))).toBeLessThan(6);
    for (let k = 1; k < points.length; k += 2) expect(points[k]! > -0.01 && points[k]! < 4.01).toBe(true);
  });

  test('one that crosses another is left out with a word, and one beyond the edges is taken to them', () => {
    const crossing = generateObject(shape, { ...spec, angleLines: [[10, 0, 30, 4], [30, 0, 10, 4]] }); // prettier-ignore
    expect(crossing.ok && crossing.value.notes).toEqual(['an angle line is left out: throws cannot cross one another']);
    expect(rungsOf(column, [[19, 1, 21, 3]]).rungs).toEqual([[22 / 40, 18 / 40]]);
    expect(rungsOf(column, [[-50, -9, -49, 90]]).rungs).toEqual([]);
    expect(rungsOf(column, [lineAcross(column, 0.25)]).rungs).toEqual([[0.25, 0.25]]);
  });

  test('lie anywhere in a hoop, left of and below its middle too, and nowhere else', () => {
    const at = (x: number): boolean => ObjectSpec.safeParse({ ...spec, angleLines: [[x, -3, x + 2, -7]] }).success;
    expect([at(-200), at(0), at(200), at(-4000), at(NaN)]).toEqual([true, true, true, false, false]);
  });

  test('are read again from the throws that they led, and none from throws that lie straight across', () => {
    const throwsOf = (points: Float64Array): [number, number, number, number][] =>
      Array.from({ length: points.length / 2 - 1 }, (_, k) => [points[k * 2]!, points[k * 2 + 1]!, points[k * 2 + 2]!, points[k * 2 + 3]!]);
    const led = generateSatin(column.left, column.right, { spacing: 0.4, pull: 0, splitLength: 12, rungs: [[0.6, 0.4]] });
    const [line, ...more] = readLean(column, throwsOf(led), 2);
    expect(more).toEqual([]);
    // Its ends stand 8 mm apart along the edges, as the rung says.
    expect(Math.abs(line![0] - line![2])).toBeGreaterThan(6.5);
    const straight = generateSatin(column.left, column.right, { spacing: 0.4, pull: 0, splitLength: 12 });
    expect(readLean(column, throwsOf(straight), 2)).toEqual([]);

    const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(led[0]!, led[1]!);
    for (let k = 0; k < led.length; k += 2) builder.stitch(Math.round(led[k]! * 10) / 10, Math.round(led[k + 1]! * 10) / 10);
    const program = builder.trim().end().build();
    const object = recognizeProgram(program).objects.find((o) => o.kind === 'satin')!;
    const read = specOf(program, object);
    expect(read.ok && read.value.angleLines).toHaveLength(1);
  });
});
