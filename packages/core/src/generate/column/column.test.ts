import { describe, expect, test } from '@jest/globals';
import { lengthOfPath } from '../../geometry/path.ts';
import { type ObjectShape, type ObjectSpec, USUAL_SPEC } from '../../model/objectSpec.ts';
import { ProgramBuilder } from '../../model/program.ts';
import { recognizeProgram } from '../../recognize/recognizeProgram.ts';
import { shapeOf, specOf } from '../../recognize/read/specOf.ts';
import { generateObject } from '../sew/generateObject.ts';
import { createWalk } from '../fill/walker.ts';

const SATIN: ObjectSpec = { ...USUAL_SPEC, kind: 'satin', spacing: 0.42, pull: 0, underlay: [] };

/** A column along a spiral that shrinks from `from` to `to` mm while it turns by `turn` radians, `width` mm wide. */
function curl(from: number, to: number, turn: number, width: number): Extract<ObjectShape, { kind: 'column' }> {
  const left: number[] = [];
  const right: number[] = [];
  for (let k = 0; k <= 120; k++) {
    const [a, r] = [(turn * k) / 120, from + ((to - from) * k) / 120];
    left.push((r - width / 2) * Math.cos(a), (r - width / 2) * Math.sin(a));
    right.push((r + width / 2) * Math.cos(a), (r + width / 2) * Math.sin(a));
  }
  return { kind: 'column', left, right };
}

function sew(shape: ObjectShape, spec: ObjectSpec, ends = {}) {
  const made = generateObject(shape, spec, ends);
  if (!made.ok) throw new Error(made.error);
  return made.value.parts;
}

const countOf = (parts: readonly { points: Float64Array }[]): number => parts.reduce((sum, { points }) => sum + points.length / 2, 0);

describe('a column', () => {
  test('that curls in on itself keeps the way its edges run: no throw is much longer than it is wide', () => {
    const parts = sew(curl(9, 6.5, 5.4, 9), { ...SATIN, splitLength: 12 });
    for (const { points } of parts)
      for (let k = 2; k < points.length; k += 2)
        expect(Math.hypot(points[k]! - points[k - 2]!, points[k + 1]! - points[k - 1]!)).toBeLessThan(9 * 1.15);
  });

  test('that comes back beside its start is sewn to its other end without a run back, with layers of underlay that turn it, too', () => {
    const ring = curl(12, 12, 2 * Math.PI - 0.35, 4);
    const at = (k: number) => ({ x: (ring.left[k]! + ring.right[k]!) / 2, y: (ring.left[k + 1]! + ring.right[k + 1]!) / 2 });
    // The way out lies between the ends of the column, a little nearer to its start.
    const [from, end] = [at(0), at(ring.left.length - 2)];
    const to = { x: 0.55 * from.x + 0.45 * end.x, y: 0.55 * from.y + 0.45 * end.y };
    for (const underlay of [[], [{ kind: 'center-run' as const }, { kind: 'center-run' as const }], [{ kind: 'edge-run' as const }]]) {
      const parts = sew(ring, { ...SATIN, underlay }, { from, to });
      const walked = countOf(parts.filter((p) => p.role === 'travel'));
      expect(walked).toBeLessThan(4);
      expect(parts.filter((p) => p.layer === 'center-run').length).toBe(underlay.filter((u) => u.kind === 'center-run').length);
    }
  });

  test.each([6.6, 6.9, 7.2])('%p mm wide, about its split length, is split as often again when it is read and sewn anew', (width) => {
    const parts = sew(curl(22, 18, 2.6, width), { ...SATIN, underlay: [{ kind: 'zigzag' }, { kind: 'center-run' }] });
    const builder = new ProgramBuilder().color('#1f4e5f', '').jump(parts[0]!.points[0]!, parts[0]!.points[1]!);
    for (const { points } of parts)
      for (let k = 0; k < points.length; k += 2) builder.stitch(Math.round(points[k]! * 10) / 10, Math.round(points[k + 1]! * 10) / 10);
    const program = builder.trim().end().build();
    const object = recognizeProgram(program).objects.find((o) => o.role === 'cover' && o.kind === 'satin')!;
    const [spec, shape] = [specOf(program, object), shapeOf(program, object)];
    if (!spec.ok || !shape.ok) throw new Error('no spec or shape');
    expect(spec.value.underlay.map((u) => u.kind)).toEqual(['zigzag', 'center-run']);
    const again = sew(shape.value, spec.value, { from: object.entry, to: object.exit });
    expect(Math.abs(countOf(again) / countOf(parts) - 1)).toBeLessThan(0.05);
  });

  test('has a zigzag whose throws are split from the length on that its own are', () => {
    const [split, whole] = [6, 11].map((splitLength) => {
      const parts = sew(curl(22, 18, 2.6, 10), { ...SATIN, splitLength, underlay: [{ kind: 'zigzag' }, { kind: 'center-run' }] });
      return countOf(parts.filter((p) => p.layer === 'zigzag'));
    });
    expect(split! / whole!).toBeGreaterThan(1.8);
  });
});

describe('a walk', () => {
  const notched = Float64Array.of(0, 0, 20, 0, 20, 8, 12, 8, 12, 2, 8, 2, 8, 8, 0, 8);
  const wayOf = (points: Float64Array, x0: number, y0: number, x1: number, y1: number): number =>
    lengthOfPath(Float64Array.from([x0, y0, ...points, x1, y1]));

  test('is straight along an edge, in stitches no longer than a walk’s, and goes round what lies outside', () => {
    const walk = createWalk([notched]);
    const along = walk(0, 8, 7.9, 8)!;
    expect(along.length / 2).toBe(1);
    expect(wayOf(along, 0, 8, 7.9, 8)).toBeCloseTo(7.9, 6);
    const around = walk(7, 7, 13, 7)!;
    expect(wayOf(around, 7, 7, 13, 7)).toBeGreaterThan(6 + 5);
    expect(around.length / 2).toBeGreaterThan(2);
  });
});
