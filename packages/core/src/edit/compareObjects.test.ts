import { describe, expect, test } from '@jest/globals';
import { nodesAt } from '../geometry/nodes.ts';
import { orderOf } from '../model/plan.ts';
import { placeOf } from '../plan/assemble.ts';
import { applied, fourObjects, sewnAnew } from '../testing/designs.ts';
import { ask } from '../testing/drawnShapes.ts';
import { compareObjects } from './compareObjects.ts';
import { recolorBlock } from './order/arrange.ts';
import type { ObjectChange } from './changesSinceFile.ts';
import { editPoints } from './points/editPoints.ts';

const said = (changes: readonly ObjectChange[]) => new Map(changes.map(({ object, kinds }) => [object, kinds]));

describe('what differs between two states of a design', () => {
  const design = fourObjects();
  const [a, b, c] = orderOf(design.plan);

  test('is nothing between one and itself, and each change of an object by its kind, forth and back', () => {
    expect(compareObjects(design.plan, design.plan)).toEqual([]);
    let next = sewnAnew(design, a!, { spacing: 0.6 });
    const { first } = placeOf(next.plan, b!);
    const touched = editPoints(next, { what: 'move', rows: [first + 3], dx: 0.2, dy: 0, long: 'split' });
    if (!touched.ok) throw new Error(touched.error);
    next = ask(touched.value.design, 'place', { objects: [c], dx: 3 }).design;
    next = ask(next, 'draw', { form: 'line', lines: [nodesAt([0, 40, 20, 40])] }).design;
    const forth = said(compareObjects(design.plan, next.plan));
    expect([a, b, c].map((id) => forth.get(id!))).toEqual([['sewn-anew'], ['touched'], ['placed']]);
    const drawn = orderOf(next.plan).find((id) => !orderOf(design.plan).includes(id))!;
    expect([forth.get(drawn), forth.size]).toEqual([['new'], 4]);
    const back = said(compareObjects(next.plan, design.plan));
    expect([back.get(drawn), back.get(a!), back.get(b!), back.get(c!)]).toEqual([['gone'], ['sewn-anew'], ['touched'], ['placed']]);
  });

  test('leaves out what was done and taken back by another way, and says threads, names and places in the order', () => {
    const there = ask(design, 'place', { objects: [c], dx: 3 }).design;
    const back = ask(there, 'place', { objects: [c], dx: -3 }).design;
    expect(said(compareObjects(there.plan, back.plan)).get(c!)).toEqual(['placed']);
    const named = applied(design, { id: 'rename-object', object: a!, name: 'Left wing' });
    expect(compareObjects(design.plan, named.plan)).toEqual([{ object: a, name: 'Left wing', kinds: ['renamed'], from: 0, to: 0 }]);
    const block = design.plan.blocks.find(({ objects }) => objects.includes(a!))!;
    const asked = recolorBlock(design.plan, block.id, { color: '#aa3311', name: 'Brick' });
    if (!asked.ok) throw new Error(asked.error);
    const recolored = applied(design, asked.value);
    const changes = said(compareObjects(design.plan, recolored.plan));
    expect([...changes.keys()]).toEqual(block.objects);
    expect(changes.get(a!)).toEqual(['thread']);
    const many = design.plan.blocks.find(({ objects }) => objects.length > 1);
    if (many === undefined) throw new Error('no block of two objects');
    const moved = applied(design, { id: 'move-objects', objects: [many.objects[0]!], block: many.id, before: null });
    expect(compareObjects(design.plan, moved.plan).map(({ kinds }) => kinds)).toEqual([['moved']]);
  });
});
