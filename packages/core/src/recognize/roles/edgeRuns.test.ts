import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../../generate/underlay.ts';
import { lengthOfPath } from '../../geometry/path.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import { specOf } from '../read/specOf.ts';

/** Five rooms in a row with doors of 1 mm between them: an edge run has no way from one into the next. */
const WALL: number[] = [0, 0];
for (let k = 0; k < 5; k++) WALL.push(k * 9 + 8, 0, k * 9 + 8, 4.5, ...(k < 4 ? [k * 9 + 9, 4.5, k * 9 + 9, 0] : []));
for (let k = 4; k >= 0; k--) WALL.push(k * 9 + 8, 10, k * 9, 10, ...(k > 0 ? [k * 9, 5.5, k * 9 - 1, 5.5] : []));
const ROOMS = Float64Array.from(WALL);
const COVER = generateFill([ROOMS], { angle: 20, spacing: 0.42, stitchLength: 3.6, offset: 0.3 });

/** Paths each with a lock where it begins and a cut at its end. */
function cutApart(paths: readonly Float64Array[]): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const path of paths) {
    builder.jump(path[0]!, path[1]!);
    for (const dx of [0, 0.7, 0, 0.7]) builder.stitch(path[0]! + dx, path[1]!);
    for (let k = 0; k < path.length; k += 2) builder.stitch(path[k]!, path[k + 1]!);
    builder.trim();
  }
  return builder.end().build();
}

describe('an edge run in parts', () => {
  test('is one layer, with which the fill is sewn anew', () => {
    const rings = generateEdgeRun([ROOMS], 0.8);
    expect(rings.length).toBe(5);
    const program = cutApart([...rings, ...COVER]);
    const { objects } = recognizeProgram(program);
    const cover = objects.filter((o) => o.role === 'cover').reduce((a, b) => (a.stitches >= b.stitches ? a : b));
    expect(cover.underlay.map(({ kind }) => kind)).toEqual(rings.map(() => 'edge-run'));
    const spec = specOf(program, cover);
    expect(spec.ok && spec.value.underlay.map(({ kind }) => kind)).toEqual(['edge-run']);
  });

  test('is none where its parts go along too little of the edge, or lie elsewhere', () => {
    const [one] = generateEdgeRun([ROOMS], 0.8);
    // From room to room through the middle: on its way, not along the edge.
    const through = Float64Array.from([2, 5, 6, 3, 8.5, 5, 12, 7, 15, 3, 17.5, 5, 22, 7, 24, 3, 26.5, 5, 33, 7, 35.5, 5, 40, 5]);
    expect(lengthOfPath(through)).toBeGreaterThan(40);
    for (const parts of [[one!.subarray(0, 14)], [through], [one!.subarray(0, 14), through]]) {
      const { objects } = recognizeProgram(cutApart([...parts, ...COVER]));
      expect(objects.filter((o) => o.role === 'underlay')).toEqual([]);
    }
  });
});

/** A hull: flat on top, round below, so many mm high and wide. */
function hull(width: number, height: number): Float64Array {
  const out: number[] = [];
  for (let k = 0; k <= 40; k++) {
    const at = Math.PI + (Math.PI * k) / 40;
    out.push((width / 2) * Math.cos(at), height * Math.sin(at));
  }
  return Float64Array.from(out);
}

describe('an edge run with rows right after it', () => {
  test.each([
    [30, 9, 20],
    [26, 8, 110],
    [36, 10, 45],
  ])('in a hull of %s by %s mm, covered at %s degrees, is told from them, in the order in which they were sewn', (width, height, angle) => {
    const shape = hull(width, height);
    const [edge] = generateEdgeRun([shape], 0.8);
    const [rows] = generateTatamiUnderlay([shape], angle, 3.5, 0.8);
    const [cover] = generateFill([shape], { angle, spacing: 0.42, stitchLength: 3.6, offset: 0.3 });
    const kindsOf = (...layers: readonly Float64Array[]): (string | undefined)[] => {
      const { objects } = recognizeProgram(cutApart([Float64Array.from([...layers, cover!].flatMap((path) => [...path]))]));
      const fill = objects.filter(({ role }) => role === 'cover').reduce((a, b) => (a.stitches >= b.stitches ? a : b));
      return fill.underlay.map(({ kind }) => kind);
    };
    expect(kindsOf(edge!, rows!)).toEqual(['edge-run', 'tatami']);
    // A run once around and nothing after it stays what it is.
    expect(kindsOf(edge!)).toEqual(['edge-run']);
  });
});
