import { describe, expect, test } from '@jest/globals';
import { diffArrays } from 'diff';
import fc from 'fast-check';
import { nodesAt } from '../geometry/nodes.ts';
import { orderOf } from '../model/plan.ts';
import { placeOf } from '../plan/assemble.ts';
import { applied, fourObjects, sewnAnew } from '../testing/designs.ts';
import { ask } from '../testing/drawnShapes.ts';
import { changesSinceFile, longestRising } from './changesSinceFile.ts';
import { editPoints } from './points/editPoints.ts';
import { runs } from '../testing/runs.ts';

describe('what differs from the file as it came', () => {
  test('is nothing at first; then what was drawn, sewn anew, touched, placed and moved, each said of its object', () => {
    const design = fourObjects();
    expect(changesSinceFile(design.plan)).toEqual([]);
    const [a, b, c] = orderOf(design.plan);
    let next = sewnAnew(design, a!, { spacing: 0.6 });
    const { first } = placeOf(next.plan, b!);
    const touched = editPoints(next, { what: 'move', rows: [first + 3], dx: 0.2, dy: 0, long: 'split' });
    if (!touched.ok) throw new Error(touched.error);
    next = ask(touched.value.design, 'place', { objects: [c], dx: 3 }).design;
    next = ask(next, 'draw', { form: 'line', lines: [nodesAt([0, 40, 20, 40])] }).design;
    const said = new Map(changesSinceFile(next.plan).map(({ object, kinds }) => [object, kinds]));
    expect([a, b, c].map((id) => said.get(id!))).toEqual([['sewn-anew'], ['touched'], ['placed']]);
    expect([...said.values()].filter((kinds) => kinds.includes('drawn'))).toHaveLength(1);
    const block = design.plan.blocks.find(({ objects }) => objects.length > 1);
    if (block === undefined) return;
    const moved = applied(design, { id: 'move-objects', objects: [block.objects[0]!], block: block.id, before: null });
    const changes = changesSinceFile(moved.plan);
    expect(changes.map(({ kinds }) => kinds)).toEqual([['moved']]);
    expect(changes[0]!.from).not.toBe(changes[0]!.to);
  });

  // Against the longest common subsequence of another author's library (jsdiff).
  test('moves as few in the order as can be', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 400 }), { maxLength: 60 }), (values) => {
        const stays = longestRising(values);
        const common = diffArrays(
          values,
          [...values].sort((x, y) => x - y),
        ).filter(({ added, removed }) => !added && !removed);
        expect(stays).toHaveLength(common.reduce((sum, { value }) => sum + value.length, 0));
        expect(stays.every((k, n) => n === 0 || (k > stays[n - 1]! && values[k]! > values[stays[n - 1]!]!))).toBe(true);
      }),
      runs(200, 3),
    );
    expect(longestRising([])).toEqual([]);
  });
});
