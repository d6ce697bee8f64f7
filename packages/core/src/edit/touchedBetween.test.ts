import { describe, expect, test } from '@jest/globals';
import { defaultTarget } from '../materials/shop.ts';
import type { Design } from '../model/design.ts';
import { orderOf } from '../model/plan.ts';
import { isSameProgram } from '../model/program.ts';
import { demoFile, fourObjects, specFor } from '../testing/designs.ts';
import { startDesign } from '../plan/designOf.ts';
import { printOf } from './operations/printOf.ts';
import { extendHistory, type History, type JournalEntry, startHistory } from './journal.ts';
import { applyOperation, type Operation } from './operations/registry.ts';
import { sewSpecs } from './sewSpecs.ts';
import { overlapOf, touchedBetween, touchedSince } from './touchedBetween.ts';

let count = 0;
const entryOf = (operation: Operation): Extract<JournalEntry, { kind: 'do' }> => {
  const id = `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`;
  return { id, kind: 'do', name: operation.id, operation };
};
function after(history: History, ...entries: JournalEntry[]): History {
  let now = history;
  for (const entry of entries) {
    const next = extendHistory(now, entry);
    if (!next.ok) throw new Error(next.error);
    now = next.value;
  }
  return now;
}
const respec = (design: Design, id: string, change: object): Operation => {
  const { operations } = sewSpecs(design, [{ object: id, spec: specFor(design, id, change) }]);
  return { id: 'sequence', operations: [...operations] };
};
const prints = ({ plan }: Design, ids: readonly string[]) => ids.map((id) => ({ object: id, was: printOf(plan, id) }));

/** Edits of many kinds that a design takes, each made on it as it is. */
function editsOf(design: Design): Operation[] {
  const ids = orderOf(design.plan);
  const [first, last] = [ids[0]!, ids.at(-1)!];
  const tries: Operation[] = [
    ...ids.slice(0, 5).map((object, k): Operation => ({ id: 'rename-object', object, name: `Named ${k}` })),
    ...ids.slice(0, 4).map((object): Operation => ({ id: 'lock-object', object, isLocked: true })),
    { id: 'set-target', target: { ...design.target, quantity: 99 } },
    { id: 'set-target', target: { ...defaultTarget(), quantity: 3 } },
    { id: 'keep-finding', places: ['a'], rule: 'tiny-stitch', title: 'tiny', reason: 'wanted so' },
    { id: 'keep-finding', places: ['a', 'b'], rule: 'tiny-stitch', title: 'tiny', reason: 'so wanted' },
    { id: 'remove-objects', objects: prints(design, [last]) } as unknown as Operation,
    { id: 'remove-objects', objects: prints(design, [first]) } as unknown as Operation,
    ...ids
      .filter((id) => design.plan.objects[id]!.sewn.reading.kind === 'fill')
      .slice(0, 2)
      .flatMap((id) => [respec(design, id, { spacing: 0.5 }), respec(design, id, { angle: 70 })]),
  ];
  return tries.filter((operation) => applyOperation(design, operation).ok);
}

describe('edits of two people', () => {
  test.each([
    ['four objects', fourObjects()],
    ['the heron of the demo', startDesign(demoFile('heron.csv'), defaultTarget())],
  ])('that touch nothing in common lead to the same rows in either order: %s', (_, design) => {
    const edits = editsOf(design);
    expect(edits.length).toBeGreaterThan(8);
    const made = edits.map((operation) => ({ operation, design: after(startHistory(design), entryOf(operation)).design }));
    let apart = 0;
    let together = 0;
    for (const [k, { operation: one, design: a }] of made.entries())
      for (const { operation: other, design: b } of made.slice(k + 1)) {
        const overlap = overlapOf(touchedBetween(design, a), touchedBetween(design, b), design);
        if (overlap.length > 0) {
          together++;
          continue;
        }
        apart++;
        const [ab, ba] = [applyOperation(a, other), applyOperation(b, one)];
        if (!ab.ok || !ba.ok) throw new Error(`${one.id} and ${other.id} do not go together`);
        expect(isSameProgram(ab.value.program, ba.value.program)).toBe(true);
        expect([ab.value.target, ab.value.kept]).toEqual([ba.value.target, ba.value.kept]);
      }
    expect(apart).toBeGreaterThan(together);
    expect(together).toBeGreaterThan(3);
  });

  test('are told apart by what others did since a step, on its way or on another one, and not by steps of one’s own', () => {
    const design = fourObjects();
    const [first, second] = orderOf(design.plan) as [string, string];
    const start = startHistory(design);
    const [mine, theirs] = [first, second].map((object) => entryOf({ id: 'rename-object', object, name: 'Wing' })) as [
      ReturnType<typeof entryOf>,
      ReturnType<typeof entryOf>,
    ];
    const both = after(start, mine, theirs);
    const objects = (history: History, since: string | null, own: string[] = []) => [
      ...touchedSince(history, since, new Set(own))!.objects,
    ];
    expect(objects(both, null)).toEqual([first, second]);
    expect(objects(both, null, [mine.id])).toEqual([second]);
    expect(objects(both, mine.id)).toEqual([second]);
    expect(objects(both, theirs.id)).toEqual([]);
    // They took back what it was made on: all that is other since is theirs.
    const back = after(both, { id: entryOf(mine.operation).id, kind: 'go', to: null });
    expect(objects(back, theirs.id)).toEqual([first, second]);
    // Of a history that goes on from later that step is not in hand.
    expect(
      touchedSince({ ...startHistory(design), isWhole: false, far: [{ id: 'x', name: 'x', isTarget: false }] }, 'y', new Set()),
    ).toBeUndefined();
    const named = overlapOf(touchedBetween(design, both.design), touchedBetween(design, both.design), both.design);
    expect(named).toEqual(['Wing', 'Wing']);
  });
});
