import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { repairShape } from '../../generate/sew/repairShape.ts';
import { nodesAt, smooth } from '../../geometry/nodes.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { countProgram } from '../../measure/counts.ts';
import { isSameProgram, ProgramBuilder } from '../../model/program.ts';
import { startDesign } from '../../plan/designOf.ts';
import { ask as made, box, drawn, newId, on, pointsOf, RED } from '../../testing/drawnShapes.ts';
import { applyOperation, type Operation } from '../operations/registry.ts';
import { DRAWN_FORMS, DRAWN_KINDS } from './drawNew.ts';
import { drawShapes, readShapeAsk } from './drawShapes.ts';
import { nodesOf } from './nodes.ts';
import { runs } from '../../testing/runs.ts';

// What somebody draws who thinks of nothing: lines that cross, fold and double back, in every form and kind.

const place = fc.double({ min: -40, max: 40, noNaN: true }).map((v) => Math.round(v * 100) / 100);
const line = fc.array(fc.tuple(place, place), { minLength: 2, maxLength: 9 }).chain((places) =>
  fc.boolean().map((isSmooth) => {
    const nodes = nodesAt(places.flat());
    return isSmooth ? smooth(nodes, places.keys(), false) : nodes;
  }),
);

describe('lines by chance', () => {
  test('are drawn as what can be sewn, with no stitch longer than the machine makes, or refused with the reason', () => {
    const blank = startDesign(new ProgramBuilder().end().build(), on('twill'));
    const done = new Set<string>();
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 1, maxLength: 2 }),
        fc.constantFrom(...DRAWN_FORMS),
        fc.option(fc.constantFrom(...DRAWN_KINDS), { nil: undefined }),
        fc.array(fc.double({ min: 0, max: 9, noNaN: true }), { maxLength: 9 }),
        (lines, form, kind, widths) => {
          const read = readShapeAsk('draw', { form, lines, widths, ...(kind === undefined ? {} : { kind }) });
          if (!read.ok) throw new Error(read.error);
          const drawn = drawShapes(blank, read.value, newId);
          if (!drawn.ok) {
            expect(drawn.error).toMatch(
              /nodes|places|cross|too thin|no length|encloses|nothing|too wide|hang|column|shape|line|edge|spacing/i,
            );
            return;
          }
          done.add(form);
          const { operations, design } = drawn.value;
          expect(countProgram(design.program).longestStitch).toBeLessThanOrEqual(design.target.machine.maxStitch + 1e-6);
          const again = applyOperation(blank, JSON.parse(JSON.stringify({ id: 'sequence', operations })) as Operation);
          expect(again.ok && isSameProgram(again.value.program, design.program)).toBe(true);
          const nodes = nodesOf(design, drawn.value.made[0]!);
          expect(nodes.ok ? nodes.value.lines.flat().every(Number.isFinite) : nodes.error.length > 0).toBe(true);
        },
      ),
      runs(120, 21),
    );
    // Sides that are set by chance nearly always cross.
    expect(done.size).toBeGreaterThanOrEqual(2);
  });

  test('a knife of any line parts a shape into pieces that lie in it, or says that it misses', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(-15, -10, 30, 20)]]);
    const room = [box(-16, -11, 32, 22)];
    let cuts = 0;
    fc.assert(
      fc.property(fc.array(fc.tuple(place, place), { minLength: 2, maxLength: 5 }), (places) => {
        const read = readShapeAsk('cut', { object: ids[0], along: places.flat() });
        if (!read.ok) throw new Error(read.error);
        const cut = drawShapes(design, read.value, newId);
        if (!cut.ok) {
          expect(cut.error).toMatch(/misses|from one side to the other|nothing|thin/);
          return;
        }
        cuts++;
        for (const id of [ids[0]!, ...cut.value.made])
          expect(pointsOf(cut.value.design, id).every(([x, y]) => containsPoint(room, x, y))).toBe(true);
      }),
      runs(40, 5),
    );
    expect(cuts).toBeGreaterThan(3);
  });

  test('what is drawn twice the same is the same, row for row', () => {
    const blank = startDesign(new ProgramBuilder().end().build(), on('jersey'));
    const one = made(blank, 'draw', { form: 'middle', lines: [nodesAt([-10, 0, 0, 6, 10, 0])], widths: [1, 5, 1] });
    const two = made(blank, 'draw', { form: 'middle', lines: [nodesAt([-10, 0, 0, 6, 10, 0])], widths: [1, 5, 1] });
    expect(isSameProgram(one.design.program, two.design.program)).toBe(true);
  });

  test('an outline that goes out and straight back has no area; one with such a spike is what it is without it', () => {
    const bent = [0, 40, 0, 20, 0, 0, 8, 0, 40, 0, 8, 0, 0, 0, 0, 0, 0, 0, 0, 20];
    expect(repairShape([Float64Array.from(bent)])).toMatchObject({ ok: false, error: expect.stringMatching(/no area/) });
    const spiked = repairShape([Float64Array.of(0, 0, 20, 0, 20, 0, 30, 0, 20, 0, 20, 10, 0, 10)]);
    expect(spiked.ok && spiked.value.rings.map((ring) => ring.length / 2)).toEqual([4]);
  });
});
