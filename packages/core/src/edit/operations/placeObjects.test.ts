import { describe, expect, test } from '@jest/globals';
import { motionOf } from '../../geometry/motion.ts';
import { nodesAt } from '../../geometry/nodes.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import { isSameProgram } from '../../model/program.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { fourObjects } from '../../testing/designs.ts';
import { ask, box, drawn, on, RED } from '../../testing/drawnShapes.ts';
import { readObjectShape } from '../sewSpecs.ts';
import { printOf } from './printOf.ts';
import { applyOperation, type Operation } from './registry.ts';

const placed = (design: Design, ids: readonly string[], motion: readonly number[]) =>
  applyOperation(design, {
    ...{ id: 'place-objects', motion: [...motion] },
    objects: ids.map((object) => ({ object, was: printOf(design.plan, object) })),
  } as Operation);
const moved = motionOf([0, 0], { dx: 4, dy: -3 });

describe('objects placed', () => {
  test('go with their ways when they follow each other: all of a file moved there and back is the file', () => {
    const design = fourObjects();
    const there = placed(design, orderOf(design.plan), moved);
    if (!there.ok) throw new Error(there.error);
    expect(there.value.program.rowCount).toBe(design.program.rowCount);
    const back = placed(there.value, orderOf(there.value.plan), motionOf([0, 0], { dx: -4, dy: 3 }));
    expect(back.ok && isSameProgram(back.value.program, design.program)).toBe(true);
    const [id] = orderOf(design.plan);
    // The stitches that the file had are kept beside it.
    const own = applyOperation(there.value, { id: 'reset-object', object: id!, was: printOf(there.value.plan, id!) });
    expect(own.ok && printOf(own.value.plan, id!)).toBe(printOf(design.plan, id!));
  });

  test('are refused where they changed since, where lengths would change, and beyond any hoop; nothing is half done', () => {
    const design = fourObjects();
    const [a, b] = orderOf(design.plan);
    const there = placed(design, [a!], moved);
    if (!there.ok) throw new Error(there.error);
    const stale = applyOperation(there.value, {
      ...{ id: 'place-objects', motion: [...moved] as [number, number, number, number, number, number] },
      objects: [b!, a!].map((object) => ({ object, was: printOf(design.plan, object) })),
    });
    expect(stale).toMatchObject({ ok: false, error: expect.stringMatching(/was changed since/) });
    expect(placed(design, [a!], [2, 0, 0, 2, 0, 0])).toMatchObject({ ok: false, error: expect.stringMatching(/keeps lengths/) });
    expect(placed(design, [a!], motionOf([0, 0], { dx: 1500 }))).toMatchObject({ ok: false, error: expect.stringMatching(/any hoop/) });
    expect(
      placed(
        design,
        ['nobody'].filter((id) => id in design.plan.objects),
        moved,
      ).ok,
    ).toBe(true);
  });

  test('take their specs and shapes along: angle, angle lines, nodes, sides of a column', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(0, 0, 20, 10)], 20]);
    const column = ask(design, 'draw', { form: 'middle', lines: [nodesAt([0, 20, 20, 20])], widths: [1, 4] });
    const all = [ids[0]!, column.made[0]!];
    const mirrored = placed(column.design, all, motionOf([0, 0], { mirror: 'x' }));
    if (!mirrored.ok) throw new Error(mirrored.error);
    const of = (id: string) => objectsOf(mirrored.value.plan).objects.find((object) => object.id === id)!;
    expect(of(ids[0]!).made!.spec.angle).toBeCloseTo(160, 3);
    const shape = readObjectShape(mirrored.value, all[1]!);
    if (!shape.ok || shape.value.kind !== 'column') throw new Error('no column');
    // Left stays left of the way that it goes.
    const { left, right } = shape.value;
    const [dx, dy] = [left.at(-2)! - left[0]!, left.at(-1)! - left[1]!];
    expect(dx * (right[1]! - left[1]!) - dy * (right[0]! - left[0]!)).toBeLessThan(0);
  });
});

describe('cloth that is laid', () => {
  test('is said of placement lines, taken back, and refused of what is none', () => {
    const { design, ids } = drawn(on('canvas'), [RED, [box(0, 0, 20)]]);
    const made = ask(design, 'applique', { objects: ids });
    const line = objectsOf(made.design.plan).objects.find(({ role }) => role === 'placement')!;
    expect(line.piece).toEqual({ color: RED.color, look: design.target.fabric.look });
    const none = applyOperation(made.design, { id: 'lay-cloth', object: line.id, piece: null });
    if (!none.ok) throw new Error(none.error);
    expect(objectsOf(none.value.plan).objects.find(({ id }) => id === line.id)).not.toHaveProperty('piece');
    expect(isSameProgram(none.value.program, made.design.program)).toBe(true);
    expect(applyOperation(design, { id: 'lay-cloth', object: ids[0]!, piece: null })).toMatchObject({
      ok: false,
      error: expect.stringMatching(/no placement line/),
    });
  });
});
