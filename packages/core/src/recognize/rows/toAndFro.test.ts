import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateEdgeRun } from '../../generate/underlay.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import type { StitchObject } from '../../model/stitchObject.ts';

const BLOCK = Float64Array.of(0, 0, 32, 0, 32, 22, 0, 22);

/** Rows across the block that all slant, each to where the next begins, `pitch` mm apart in one direction, in stitches of 3.5 mm. */
function slanted(pitch: number): Float64Array {
  const points: number[] = [1, 1];
  for (let row = 0, y = 1; y + pitch / 2 < 21; row++) {
    const [x0, y0] = [points[points.length - 2]!, points[points.length - 1]!];
    y += pitch / 2;
    const x1 = row % 2 === 0 ? 31 : 1;
    for (let part = 1; part <= 9; part++) points.push(x0 + ((x1 - x0) * part) / 9, y0 + ((y - y0) * part) / 9);
  }
  return Float64Array.from(points);
}

function programOf(paths: readonly Float64Array[]): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  builder.jump(paths[0]![0]!, paths[0]![1]!);
  for (const path of paths)
    for (let k = 0; k < path.length; k += 2) builder.stitch(Math.round(path[k]! * 10) / 10, Math.round(path[k + 1]! * 10) / 10);
  return builder.trim().end().build();
}

function mainOf(program: Program): StitchObject {
  return recognizeProgram(program)
    .objects.filter((o) => o.role === 'cover')
    .reduce((a, b) => (a.stitches >= b.stitches ? a : b));
}

const [COVER] = generateFill([BLOCK], { angle: 80, spacing: 0.42, stitchLength: 4, offset: 0.3, rowEnds: 'slanted' });

describe('very open rows under a fill', () => {
  test.each([3, 3.6, 4])('that slant as a whole, %p mm apart, are tatami with their pitch', (pitch) => {
    const main = mainOf(programOf([slanted(pitch), COVER!]));
    expect(main.kind).toBe('fill');
    expect(main.underlay.map((layer) => layer.kind)).toEqual(['tatami']);
    expect(Math.abs(main.underlay[0]!.spacing! / pitch - 1)).toBeLessThan(0.1);
  });

  test('are none where a line goes around along the edge', () => {
    const main = mainOf(programOf([...generateEdgeRun([BLOCK]), COVER!]));
    expect(main.underlay.map((layer) => layer.kind)).toEqual(['edge-run']);
  });
});
