import { describe, expect, test } from '@jest/globals';
import { containsPoint, distanceToRings } from '../../geometry/ring.ts';
import { inspectProgram } from '../../measure/inspect.ts';
import { orderOf } from '../../model/plan.ts';
import { startDesign } from '../../plan/designOf.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { demoFile } from '../../testing/designs.ts';
import { extendHistory, startHistory } from '../journal.ts';
import type { Operation } from '../operations/registry.ts';
import { COLOR, ProgramBuilder, STOP } from '../../model/program.ts';
import { ask, BLUE, box, circle, drawn, on, pointsOf, RED, refused } from '../../testing/drawnShapes.ts';
import { ringsOf } from './drawing.ts';
import { SHAPE_NAMES, type ShapeName } from './drawShapes.ts';

describe('the whole', () => {
  test('what is drawn in several pieces is cut between them: nothing is walked outside of what it covers', () => {
    const { design } = drawn(on('fleece'), [RED, [circle(0, 0, 6)]], [RED, [circle(50, 10, 6)]], [RED, [circle(20, 50, 6)]]);
    const { design: after, made } = ask(design, 'nap', { margin: 2 });
    expect(made).toHaveLength(3);
    const far = made.flatMap((id) => {
      const rings = ringsOf(after, id);
      const object = after.plan.objects[id]!.sewn;
      return pointsOf(after, id)
        .concat([[object.start.x, object.start.y]])
        .filter(([x, y]) => !containsPoint(rings, x, y) && distanceToRings(rings, x, y) > 0.6);
    });
    expect(far).toEqual([]);
    const { trims } = inspectProgram(after.program, after.target);
    expect(trims - inspectProgram(design.program, design.target).trims).toBe(3);
  });

  test('scaled keeps its spacing within 3 %, and its count goes with its area', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(0, 0, 30)]], [BLUE, [circle(60, 15, 14)], 75]);
    for (const factor of [0.7, 1.5]) {
      const { design: after } = ask(design, 'scale', { factor });
      const [before, now] = [design, after].map((d) => inspectProgram(d.program, d.target));
      expect(now!.extents.width / before!.extents.width).toBeCloseTo(factor, 1);
      expect(Math.abs(now!.stitches / before!.stitches / factor ** 2 - 1)).toBeLessThan(0.12);
      for (const id of ids) {
        const [was, is] = [design, after].map((d) =>
          objectsOf(startDesign(d.program, d.target).plan).objects.filter((o) => o.role === 'cover'),
        );
        expect(is!.map((o, k) => Math.abs(o.spacing! / was![k]!.spacing! - 1) < 0.03)).toEqual(is!.map(() => true));
        expect(after.plan.objects[id]!.name).toBe(design.plan.objects[id]!.name);
      }
    }
    // A file of another hand, with all that is in it.
    const heron = startDesign(demoFile('heron.csv'), on('twill'));
    const larger = ask(heron, 'scale', { factor: 1.2 });
    const [a, b] = [heron, larger.design].map((d) => inspectProgram(d.program, d.target).extents);
    expect(b!.width / a!.width).toBeCloseTo(1.2, 1);
  });

  test('applique is placement, stop, tack-down, stop and cover for all pieces; the pieces are sewn no more', () => {
    const { design, ids } = drawn(on('canvas'), [RED, [circle(0, 0, 12)]], [RED, [circle(40, 0, 12)]]);
    const { design: after, made } = ask(design, 'applique', { objects: ids, cover: 2.5 });
    expect(made).toHaveLength(6);
    expect(orderOf(after.plan)).toEqual(made);
    expect(made.map((id) => objectsOf(after.plan).objects.find((o) => o.id === id)!.role)).toEqual([
      ...['placement', 'placement', 'tackdown', 'tackdown', 'cover', 'cover'],
    ]);
    const { program } = after;
    const order = Array.from(program.command.keys()).flatMap((row) => (program.command[row] === STOP ? [program.notes.get(row)!] : []));
    expect(order.map((note) => note.split(' ')[0])).toEqual(['Lay', 'Cut']);
    // Each step has its own color row, so that the machine stops and blocks do not merge (common practice).
    expect(Array.from(program.command).filter((c) => c === COLOR)).toHaveLength(3);
    // The tack-down lies under the cover, which reaches 1.25 mm to both sides.
    for (const id of made.slice(2, 4))
      for (const [x, y] of pointsOf(after, id)) expect(Math.min(Math.hypot(x, y), Math.hypot(x - 40, y)) + 0).toBeGreaterThan(12 - 1.4);
  });

  test('is drawn and taken back as steps of a journal, on the objects of a file, without touching what was not meant', () => {
    const heron = startDesign(demoFile('heron.csv'), on('twill'));
    const steps = ['border', 'nap', 'backing'].map((name) => ask(heron, name as ShapeName, {}));
    for (const { operations } of steps) {
      const operation = JSON.parse(JSON.stringify({ id: 'sequence', operations })) as Operation;
      const done = extendHistory(startHistory(heron), { id: crypto.randomUUID(), kind: 'do', name: 'draw', operation });
      if (!done.ok) throw new Error(done.error);
      for (const id of orderOf(heron.plan)) expect(done.value.design.plan.objects[id]).toBe(heron.plan.objects[id]);
      const undone = extendHistory(done.value, { id: crypto.randomUUID(), kind: 'undo' });
      expect(undone.ok && undone.value.design).toBe(heron);
    }
    const { operations } = ask(heron, 'remove', { objects: [orderOf(heron.plan)[3]] });
    expect(operations).toHaveLength(1);
  });

  test('what makes no sense is refused with its reason', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(0, 0, 20)]], [BLUE, [box(40, 0, 3, 1.2)]]);
    const [wide, narrow] = ids as [string, string];
    expect(refused(design, 'outline', { objects: [narrow], as: 'run', place: 'inside', offset: 2 })).toMatch(
      /too narrow for that distance/,
    );
    expect(refused(design, 'carve', { object: wide, by: narrow, keep: 1 })).toMatch(/too narrow to leave 1 mm/);
    expect(refused(design, 'carve', { object: narrow, by: wide, keep: 0 })).toMatch(/do not lie on each other/);
    expect(refused(design, 'reach', { object: wide, under: narrow })).toMatch(/does not meet/);
    expect(refused(design, 'join', { objects: ids })).toMatch(/different threads/);
    expect(refused(design, 'fill-holes', {})).toMatch(/no object has a hole/);
    expect(refused(design, 'remove', { objects: ids })).toMatch(/nothing would be left/);
    expect(refused(design, 'remove', { objects: ['none'] })).toMatch(/no object none/);
    expect(refused(design, 'scale', { factor: 40 })).toMatch(/makes no sense/);
    expect(refused(design, 'scale', { factor: NaN })).toMatch(/factor/);
    expect(refused(design, 'recolor', { block: 9, color: '#111111' })).toMatch(/no block 9; there are 2/);
    expect(refused(design, 'border', { color: 'red' })).toMatch(/#rrggbb/);
    expect(refused(design, 'outline', { objects: [] })).toMatch(/objects/);
    const line = new ProgramBuilder().color('#123456', '').jump(0, 0);
    for (let k = 0; k < 12; k++) line.stitch(2.5 * k, 0);
    const runs = startDesign(line.trim().end().build(), on('twill'));
    const [run] = orderOf(runs.plan);
    expect(refused(runs, 'outline', { objects: [run] })).toMatch(/only areas and columns/);
    // A border goes around lines, too.
    expect(ask(runs, 'border', {}).made).toHaveLength(1);
    expect(SHAPE_NAMES).toHaveLength(18);
  });
});
