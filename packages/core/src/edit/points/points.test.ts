import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import inPolygon from 'point-in-polygon-hao';
import { auditDesign } from '../../audit/auditDesign.ts';
import { nodesAt } from '../../geometry/nodes.ts';
import { countProgram } from '../../measure/counts.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import { isSameProgram, JUMP, ProgramBuilder, STITCH, TRIM } from '../../model/program.ts';
import { placeOf } from '../../plan/assemble.ts';
import { startDesign } from '../../plan/designOf.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { ask as draw, BLUE, box, drawn, on, RED } from '../../testing/drawnShapes.ts';
import { applyOperation, type Operation } from '../operations/registry.ts';
import { printOf } from '../operations/printOf.ts';
import { editPoints, type EditedPoints } from './editPoints.ts';
import { nearestRow, rowsInLasso, rowsUnderBrush } from './pickPoints.ts';
import { PointsAsk } from './pointsAsk.ts';
import { runs } from '../../testing/runs.ts';

const edit = (design: Design, ask: Record<string, unknown>): EditedPoints => {
  const made = editPoints(design, PointsAsk.parse(ask));
  if (!made.ok) throw new Error(made.error);
  const { operations, design: after } = made.value;
  // What is sent and applied again gives the same rows.
  const sent = JSON.parse(JSON.stringify({ id: 'sequence', operations })) as Operation;
  const again = applyOperation(design, sent);
  expect(again.ok && isSameProgram(again.value.program, after.program)).toBe(true);
  return made.value;
};
const refused = (design: Design, ask: Record<string, unknown>): string => {
  const made = editPoints(design, PointsAsk.parse(ask));
  return made.ok ? '' : made.error;
};
const at = ({ program }: Design, row: number): [number, number] => [program.x[row]!, program.y[row]!];
const count = ({ program }: Design, what: number): number => program.command.filter((c) => c === what).length;
/** Rows of an object's penetrations. */
const rowsOf = (design: Design, id: string): number[] =>
  objectsOf(design.plan)
    .objects.find((object) => object.id === id)!
    .spans.flatMap(({ first, last }) => Array.from({ length: last - first + 1 }, (_, k) => first + k))
    .filter((row) => design.program.command[row] === STITCH);
const owned = (design: Design, id: string): string => {
  const { first, end } = placeOf(design.plan, id);
  return JSON.stringify([[...design.program.x.slice(first, end)], [...design.program.y.slice(first, end)]]);
};

/** A run along x of stitches 2.5 mm long, and a fill above it. */
function runAndFill(): { design: Design; run: string; fill: string } {
  const { design, ids } = drawn(on('twill'), [BLUE, [box(0, 10, 20, 12)]]);
  const { design: both, made } = draw(design, 'draw', { form: 'line', lines: [nodesAt([0, 0, 30, 0])], color: RED.color });
  return { design: both, run: made[0]!, fill: ids[0]! };
}

describe('single penetrations', () => {
  test('are moved, alone or many, and nothing else is; the object says how many, and its spec gives it back', () => {
    const { design, run, fill } = runAndFill();
    const rows = rowsOf(design, run);
    const some = rows.slice(3, 6);
    const { design: after, rows: now } = edit(design, { what: 'move', rows: some, dx: 0.25, dy: -0.1 });
    expect(now).toEqual(some);
    expect(some.map((row) => at(after, row))).toEqual(
      some.map((row) => [at(design, row)[0] + 0.25, -0.1].map((v) => expect.closeTo(v, 9))),
    );
    expect(owned(after, fill)).toBe(owned(design, fill));
    expect(objectsOf(after.plan).objects.find(({ id }) => id === run)!.edited).toBe(3);
    // It keeps its points when a neighbour changes.
    const moved = draw(after, 'place', { objects: [fill], dx: 3 }).design;
    expect(owned(moved, run)).toBe(owned(after, run));
    const back = applyOperation(draw(design, 'place', { objects: [fill], dx: 3 }).design, {
      ...{ id: 'reset-object', object: fill },
      was: printOf(draw(design, 'place', { objects: [fill], dx: 3 }).design.plan, fill),
    });
    expect(back.ok || back.error).toBeTruthy();
    expect(refused(design, { what: 'move', rows: [0], dx: 1, dy: 0 })).toMatch(/row 0 is no stitch/);
  });

  // Common practice, no source: removing a stitch can leave one that is longer than the machine can make.
  test('too long a stitch that comes of it is parted and said so, or refused with its place and length', () => {
    const { design, run } = runAndFill();
    const rows = rowsOf(design, run);
    const asked = { what: 'move', rows: [rows[4]!], dx: 0, dy: 20 };
    const { design: after, notes } = edit(design, asked);
    expect(notes.join()).toMatch(/2 stitches were parted: up to 20\.\d mm, where the machine makes/);
    expect(countProgram(after.program).longestStitch).toBeLessThanOrEqual(design.target.machine.maxStitch);
    expect(refused(design, { ...asked, long: 'refuse' })).toMatch(/would be 20\.\d mm long; the machine makes/);
    const { notes: gone } = edit(design, { what: 'delete', rows: rows.slice(2, 9) });
    expect(gone.join()).toMatch(/1 stitch was parted/);
    expect(edit(design, { what: 'move', rows: [rows[4]!], dx: 0, dy: 400 }).notes.join()).toMatch(/outside the hoop/);
  });

  test('are set, deleted, lifted and brought down again', () => {
    const { design, run } = runAndFill();
    const rows = rowsOf(design, run);
    const [x, y] = at(design, rows[4]!);
    const more = edit(design, { what: 'insert', row: rows[4], side: 'after' });
    expect(at(more.design, more.rows[0]!)[0]).toBeCloseTo((x + at(design, rows[5]!)[0]) / 2, 3);
    const before = edit(design, { what: 'insert', row: rows[4], side: 'before', at: [x, y + 1] });
    expect([before.design.program.rowCount - design.program.rowCount, at(before.design, rows[4]!)]).toEqual([1, [x, y + 1]]);
    const less = edit(more.design, { what: 'delete', rows: more.rows });
    expect(isSameProgram(less.design.program, design.program)).toBe(true);
    const up = edit(design, { what: 'jump', rows: [rows[4]] });
    expect([count(up.design, JUMP) - count(design, JUMP), at(up.design, rows[4]!)]).toEqual([1, [x, y]]);
    expect(isSameProgram(edit(up.design, { what: 'stitch', rows: [rows[4]] }).design.program, design.program)).toBe(true);
  });

  test('the thread is cut after one, locked on both sides; within a lock at its end; where it ends already that is said', () => {
    const { design, run } = runAndFill();
    const rows = rowsOf(design, run);
    const { design: after } = edit(design, { what: 'cut', row: rows[5] });
    expect(count(after, TRIM) - count(design, TRIM)).toBe(1);
    expect(auditDesign(after).find(({ rule }) => rule === 'missing-tie')?.places.length ?? 0).toBe(
      auditDesign(design).find(({ rule }) => rule === 'missing-tie')?.places.length ?? 0,
    );
    const lock = objectsOf(design.plan).objects.find(({ role, name }) => role === 'tie' && name.includes('Line'))!;
    const inLock = editPoints(design, { what: 'cut', row: lock.first + 1 });
    expect(inLock.ok ? inLock.value.notes.join() : inLock.error).toMatch(/lock|does not go on/);
    expect(refused(design, { what: 'cut', row: countProgram(design.program).stitches > 0 ? lastStitch(design) : 0 })).toMatch(
      /does not go on/,
    );
  });

  test('are smoothed and set straight, each side of a column by itself, and spaced anew along their way', () => {
    const { design, run } = runAndFill();
    const rows = rowsOf(design, run);
    const bent = edit(design, { what: 'move', rows: [rows[5]!], dx: 0, dy: 1.5 }).design;
    const picked = rows.slice(2, 9);
    const deviation = (of: Design): number => Math.max(...picked.map((row) => Math.abs(at(of, row)[1])));
    expect(deviation(edit(bent, { what: 'smooth', rows: picked }).design)).toBeLessThan(1);
    expect(deviation(edit(bent, { what: 'straighten', rows: picked }).design)).toBeCloseTo(0, 9);
    const spaced = edit(design, { what: 'respace', rows: picked, length: 1 }).design;
    expect(spaced.program.rowCount - design.program.rowCount).toBe(Math.round(6 * 2.5) - 6);
    expect(refused(design, { what: 'smooth', rows: picked.slice(0, 2) })).toMatch(/three penetrations/);
    expect(refused(design, { what: 'respace', rows: [rows[3]], length: 1 })).toMatch(/two penetrations/);
    const column = draw(design, 'draw', { form: 'middle', lines: [nodesAt([0, -12, 30, -12])], width: 4 });
    const sides = rowsOf(column.design, column.made[0]!).slice(20, 40);
    const ugly = edit(column.design, { what: 'move', rows: [sides[9]!], dx: 0, dy: 0.8 }).design;
    const even = edit(ugly, { what: 'straighten', rows: sides }).design;
    for (const side of [0, 1]) {
      const heights = sides.filter((_, k) => k % 2 === side).map((row) => at(even, row)[1]);
      expect(Math.max(...heights) - Math.min(...heights)).toBeLessThan(0.05);
    }
    expect(Math.abs(at(even, sides[0]!)[1] - at(even, sides[1]!)[1])).toBeGreaterThan(3);
  });
});

function lastStitch({ program }: Design): number {
  let row = program.rowCount - 1;
  while (program.command[row] !== STITCH) row--;
  return row;
}

describe('a part that is taken out', () => {
  test('leaves clean ends: locks and a cut where the thread went in and out, no stray stitch across; what is gone as a whole is taken out as an object', () => {
    const { design, run, fill } = runAndFill();
    const right = rowsInLasso(design.program, box(12, 5, 20, 30));
    const { design: after, notes } = edit(design, { what: 'take-out', rows: right });
    expect(rowsInLasso(after.program, box(12.9, 5, 20, 30))).toEqual([]);
    expect(countProgram(after.program).longestStitch).toBeLessThanOrEqual(Math.max(countProgram(design.program).longestStitch, 5));
    const loose = (of: Design): number => auditDesign(of).find(({ rule }) => rule === 'missing-tie')?.places.length ?? 0;
    expect(loose(after)).toBeLessThanOrEqual(loose(design));
    expect(notes).toEqual([]);
    expect(owned(after, run)).toBe(owned(design, run));
    const all = edit(design, { what: 'take-out', rows: rowsInLasso(design.program, box(-5, 5, 40, 30)) });
    expect(orderOf(all.design.plan)).toEqual([run]);
    expect(all.notes.join()).toContain('nothing was left of it');
    expect(all.design.plan.objects[fill]).toBeUndefined();
    expect(refused(all.design, { what: 'delete', rows: rowsOf(all.design, run) })).toMatch(/nothing would be left/);
  });
});

describe('what is picked', () => {
  test('lies in the lasso as another author’s library says, whatever its line does; none lies in less than three corners', () => {
    const place = fc.integer({ min: -20, max: 20 });
    const points = fc.array(fc.tuple(place, place), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(points, fc.array(fc.tuple(place, place), { minLength: 3, maxLength: 12 }), (stitches, corners) => {
        const out = new ProgramBuilder();
        for (const [x, y] of stitches) out.stitch(x, y);
        const program = out.build();
        const ring = corners.map(([x, y]) => [x, y] as [number, number]);
        const closed = [...ring, ring[0]!];
        const mine = new Set(rowsInLasso(program, Float64Array.from(ring.flat())));
        stitches.forEach(([x, y], row) => {
          const said = inPolygon([x, y], [closed]);
          // On the line counts as inside.
          expect([row, mine.has(row)]).toEqual([row, said === 0 ? true : said]);
        });
      }),
      runs(300, 11),
    );
    const program = new ProgramBuilder().stitch(0, 0).build();
    expect(rowsInLasso(program, Float64Array.of(-1, -1, 1, 1))).toEqual([]);
  });

  test('lies under the brush or next to the pointer, of those that may be picked', () => {
    const design = startDesign(
      new ProgramBuilder().jump(0, 0).stitch(0, 0).stitch(3, 0).stitch(6, 0).stitch(6, 0.2).trim().end().build(),
      on('twill'),
    );
    const { program } = design;
    expect(rowsUnderBrush(program, Float64Array.of(-1, 0.5, 4, 0.5), 0.6)).toEqual([1, 2]);
    expect(rowsUnderBrush(program, Float64Array.of(6, 0), 0.5, (row) => row !== 4)).toEqual([3]);
    expect([nearestRow(program, 6, 0.15, 1), nearestRow(program, 20, 0, 1)]).toEqual([4, -1]);
  });
});
