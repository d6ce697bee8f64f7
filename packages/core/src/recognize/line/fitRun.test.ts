import { describe, expect, test } from '@jest/globals';
import { generateObject } from '../../generate/sew/generateObject.ts';
import { generateRun } from '../../generate/line/run.ts';
import { USUAL_SPEC } from '../../model/objectSpec.ts';
import { ProgramBuilder } from '../../model/program.ts';
import { fitRunLength } from './fitRun.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import { shapeOf, specOf } from '../read/specOf.ts';

/** A line that waves, `bend` mm to either side. */
const wave = (length: number, bend: number): Float64Array =>
  Float64Array.from({ length: 160 }, (_, k) => {
    const t = Math.floor(k / 2) / 79;
    return k % 2 === 0 ? length * t : bend * Math.sin(t * 5);
  });

describe('the stitch length of a run', () => {
  test.each([
    [31, 2, 1, 1.9],
    [24, 5, 2, 2.4],
    [17.5, 3, 3, 2.2],
    [40, 6, 1, 2.9],
    [22, 4, 3, 1.7],
  ])('of %p mm that waves by %p, in %p passes of %p mm stitches, sews it in as many again', (length, bend, passes, stitchLength) => {
    const pass = generateRun(wave(length, bend), { stitchLength });
    const back = Float64Array.from(pass.map((_, k) => pass[pass.length - 2 - k + 2 * (k % 2)]!));
    const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0).stitch(0, 0);
    const tenth = (v: number): number => Math.round(v * 10) / 10;
    for (let n = 0; n < passes; n++) {
      const path = n % 2 === 0 ? pass : back;
      for (let k = 2; k < path.length; k += 2) builder.stitch(tenth(path[k]!), tenth(path[k + 1]!));
    }
    const program = builder.trim().end().build();
    const run = recognizeProgram(program).objects.find((o) => o.kind === 'run' && o.role === 'cover')!;
    const [spec, shape] = [specOf(program, run), shapeOf(program, run)];
    if (!spec.ok || !shape.ok) throw new Error('no spec or shape');
    expect(spec.value.passes).toBe(passes);
    expect(Math.abs(spec.value.stitchLength / stitchLength - 1)).toBeLessThan(0.13);
    const made = generateObject(shape.value, spec.value);
    if (!made.ok) throw new Error(made.error);
    const stitches = made.value.parts.reduce((sum, { points }) => sum + points.length / 2, 0) - 1;
    expect(stitches).toBe(passes * (pass.length / 2 - 1));
  });

  test('stays what is usual where that sews it in as many, and what comes nearest where none does', () => {
    const line = Float64Array.of(0, 0, 20, 0);
    expect(fitRunLength(line, 10, 2.1)).toBeCloseTo(2.1, 9);
    // 2.23 mm makes nine of it, and 2.22 ten: not so near to where it tips over.
    expect(fitRunLength(line, 9, 2.225)).toBeGreaterThan(2.24);
    expect(fitRunLength(line, 40, 2)).toBeCloseTo(2 * 0.88, 1);
    expect(USUAL_SPEC.passes).toBe(1);
  });
});
