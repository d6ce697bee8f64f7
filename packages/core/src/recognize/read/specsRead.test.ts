import { describe, expect, test } from '@jest/globals';
import { generateEdgeStitch } from '../../generate/line/edgeStitch.ts';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateRun } from '../../generate/line/run.ts';
import { generateSatin } from '../../generate/column/satin.ts';
import { coversOf, designOfPaths as design } from '../../testing/designs.ts';
import { shapeOf, specOf } from './specOf.ts';

const SQUARE = Float64Array.of(0, 0, 24, 0, 24, 20, 0, 20);

describe('specs as recognized', () => {
  test('say what a fill, a satin and a run were made with', () => {
    const drawn = design(
      generateFill([SQUARE], { angle: 40, spacing: 0.5, stitchLength: 3.5, offset: 0.25, rowEnds: 'square' })[0]!,
      generateSatin(Float64Array.of(0, 36, 30, 36), Float64Array.of(0, 27, 30, 27), { spacing: 0.4, pull: 0, splitLength: 12 }),
      generateRun(Float64Array.of(0, 45, 30, 45), { stitchLength: 2.2 }),
    );
    const [fill, satin, run] = coversOf(drawn);
    const { program } = drawn;
    const specs = [fill!, satin!, run!].map((o) => specOf(program, o));
    expect(specs[0]).toMatchObject({ ok: true, value: { kind: 'fill', underlay: [] } });
    const of = specs.map((s) => (s.ok ? s.value : undefined));
    expect(of[0]!.spacing).toBeCloseTo(0.5, 2);
    expect(of[0]!.angle).toBeCloseTo(40, 0);
    expect(of[0]!.stitchLength).toBeCloseTo(3.5, 1);
    expect(of[1]!.spacing).toBeCloseTo(0.4, 2);
    expect(of[1]!.width).toBeCloseTo(9, 0);
  });

  test('split throws are told by the longest of them; an edge stitch by its prongs, whichever side they are on', () => {
    const wide = design(
      generateSatin(Float64Array.of(0, 9, 30, 9), Float64Array.of(0, 0, 30, 0), { spacing: 0.4, pull: 0, splitLength: 12 }),
    );
    const spec = specOf(wide.program, coversOf(wide)[0]!);
    expect(spec.ok && spec.value.splitLength).toBeGreaterThan(8.9);
    for (const prong of [3, -3]) {
      const line = Float64Array.of(0, 0, 30, 0, 30, 24);
      const edge = design(generateEdgeStitch(line, { spacing: 2, prong }));
      const object = coversOf(edge).find((o) => o.pattern === 'edge-stitch')!;
      const read = specOf(edge.program, object);
      if (!read.ok) throw new Error(read.error);
      expect(read.value.kind).toBe('edge-stitch');
      expect(read.value.width).toBeCloseTo(3, 0);
      expect(read.value.spacing).toBeCloseTo(2, 0);
      const shape = shapeOf(edge.program, object);
      if (!shape.ok || shape.value.kind !== 'line') throw new Error('no line');
      // Prongs lie to the left of the line as it is read.
      expect(shape.value.path[0]! < 5 === prong > 0).toBe(true);
    }
  });
});
