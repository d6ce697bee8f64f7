import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { containsPoint, signedArea } from '../../geometry/ring.ts';
import { countProgram } from '../../measure/counts.ts';
import { orderOf } from '../../model/plan.ts';
import { box, drawn, newId, on, pointsOf, RED, BLUE, sizeOf } from '../../testing/drawnShapes.ts';
import { applyOperation, type Operation } from '../operations/registry.ts';
import { ringsOf } from './drawing.ts';
import { drawShapes, readShapeAsk, type ShapeName } from './drawShapes.ts';
import { runs } from '../../testing/runs.ts';

// Shapes that nobody thought of: whatever comes out is either sound or refused in words.

/** A star-shaped ring about a middle, of any number of corners. */
const blob = (x: number, y: number) =>
  fc.array(fc.double({ min: 5, max: 14, noNaN: true }), { minLength: 3, maxLength: 14 }).map((radii) =>
    Float64Array.from(
      radii.flatMap((radius, k) => {
        const angle = (2 * Math.PI * k) / radii.length;
        return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
      }),
    ),
  );
const shapes = fc.record({
  lower: blob(0, 0),
  upper: fc
    .tuple(fc.double({ min: -18, max: 18, noNaN: true }), fc.double({ min: -18, max: 18, noNaN: true }))
    .chain(([x, y]) => blob(x, y)),
});

function ask(design: ReturnType<typeof drawn>['design'], name: ShapeName, values: Record<string, unknown>) {
  const read = readShapeAsk(name, values);
  if (!read.ok) throw new Error(read.error);
  return drawShapes(design, read.value, newId);
}

describe('shapes by chance', () => {
  test('cut by one another keep to what is left of them: nothing is sewn where it was taken away, and areas only shrink', () => {
    fc.assert(
      fc.property(shapes, fc.double({ min: 0, max: 3, noNaN: true }), ({ lower, upper }, gap) => {
        const { design, ids } = drawn(on('twill'), [RED, [lower]], [BLUE, [upper], 75]);
        for (const [name, values] of [
          ['carve', { object: ids[0], by: ids[1], keep: gap }],
          ['cut-away', { objects: [ids[0]], by: ids[1], gap }],
        ] as const) {
          const cut = ask(design, name, values);
          if (!cut.ok) {
            expect(cut.error).toMatch(/do not lie on each other|nothing worth sewing|too narrow|nothing would be sewn/);
            continue;
          }
          const left = ringsOf(cut.value.design, ids[0]!);
          expect(sizeOf(left)).toBeLessThan(sizeOf([lower]));
          for (const [x, y] of pointsOf(cut.value.design, ids[0]!)) {
            // A cut edge is a shape's edge like any other: compensation and the needle's grid reach over it a little.
            if (containsPoint([lower], x, y)) continue;
            expect(Math.min(...distances(lower, x, y))).toBeLessThan(0.6);
          }
          expect(pointsOf(cut.value.design, ids[1]!)).toEqual(pointsOf(design, ids[1]!));
        }
      }),
      runs(20, 7),
    );
  });

  test('outlined, bordered and backed are sewn without a stitch that no machine makes, and come back step by step', () => {
    fc.assert(
      fc.property(
        shapes,
        fc.constantFrom('satin', 'run', 'triple', 'edge'),
        fc.constantFrom('whole', 'merged', 'trimmed'),
        ({ lower, upper }, as, overlap) => {
          const { design, ids } = drawn(on('pique-polo'), [RED, [lower]], [BLUE, [upper], 75]);
          for (const [name, values] of [
            ['outline', { objects: ids, as, overlap }],
            ['border', { distance: 2 }],
            ['backing', { holes: 'keep' }],
            ['nap', {}],
          ] as const) {
            const made = ask(design, name, values);
            if (!made.ok) throw new Error(`${name}: ${made.error}`);
            expect(countProgram(made.value.design.program).longestStitch).toBeLessThanOrEqual(
              Math.max(12.1, countProgram(design.program).longestStitch),
            );
            const sent = JSON.parse(JSON.stringify({ id: 'sequence', operations: made.value.operations })) as Operation;
            const again = applyOperation(design, sent);
            expect(again.ok && again.value.program.rowCount).toBe(made.value.design.program.rowCount);
            // What was drawn is taken out again, and nothing is left of it.
            const gone = ask(made.value.design, 'remove', { objects: made.value.made });
            expect(gone.ok && orderOf(gone.value.design.plan)).toEqual(orderOf(design.plan));
          }
        },
      ),
      runs(8, 7),
    );
  });

  test('scaled and scaled back are about what they were', () => {
    fc.assert(
      fc.property(blob(0, 0), fc.double({ min: 0.7, max: 1.6, noNaN: true }), (ring, factor) => {
        const { design, ids } = drawn(on('twill'), [RED, [ring]]);
        const there = ask(design, 'scale', { factor });
        if (!there.ok) throw new Error(there.error);
        expect(sizeOf(ringsOf(there.value.design, ids[0]!)) / sizeOf([ring]) / factor ** 2).toBeCloseTo(1, 6);
        const back = ask(there.value.design, 'scale', { factor: 1 / factor });
        if (!back.ok) throw new Error(back.error);
        expect(sizeOf(ringsOf(back.value.design, ids[0]!))).toBeCloseTo(sizeOf([ring]), 3);
      }),
      runs(20, 7),
    );
  });

  test('that are no shapes are refused or put right with a word: crossing themselves, flat, twice the same point', () => {
    const bow = Float64Array.of(0, 0, 20, 20, 20, 0, 0, 20);
    const { design, ids } = drawn(on('twill'), [RED, [bow]], [BLUE, [box(40, 0, 20)], 75]);
    const border = ask(design, 'border', {});
    expect(border.ok).toBe(true);
    const grown = ask(design, 'scale', { factor: 1.2 });
    expect(grown.ok).toBe(true);
    const outlined = ask(design, 'outline', { objects: [ids[0]], as: 'run' });
    expect(outlined.ok ? outlined.value.made.length > 0 : outlined.error.length > 10).toBe(true);
    expect(Math.abs(signedArea(bow))).toBeLessThan(1e-9);
  });
});

function distances(ring: Float64Array, px: number, py: number): number[] {
  return Array.from({ length: ring.length / 2 }, (_, k) => {
    const [x0, y0] = [ring[2 * k]!, ring[2 * k + 1]!];
    const [dx, dy] = [ring[(2 * k + 2) % ring.length]! - x0, ring[(2 * k + 3) % ring.length]! - y0];
    const t = Math.min(1, Math.max(0, ((px - x0) * dx + (py - y0) * dy) / (dx * dx + dy * dy)));
    return Math.hypot(x0 + t * dx - px, y0 + t * dy - py);
  });
}
