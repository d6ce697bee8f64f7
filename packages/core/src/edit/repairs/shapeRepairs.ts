import type { ObjectFault, PairFault } from '../../audit/rules/objectFault.ts';
import { containsPoint } from '../../geometry/ring.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import type { Result } from '../../model/result.ts';
import { joinAreas, reach, sewThrough } from '../shapes/cutting.ts';
import type { Drawn, NewId } from '../shapes/drawing.ts';
import { nap } from '../shapes/edges.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { compensate } from './specRepairs.ts';
import { asRepairer, type Repaired, type Repairer } from './repairer.ts';

/** A nap layer reaches so far beyond the design, mm. Common practice: a margin wider. */
const NAP_MARGIN = 2;

/** Fills the holes that were found under details, and no others. */
export const fillSmallHoles: Repairer = asRepairer<ObjectFault>(({ design, faults }) =>
  oneByOne(design, [...new Set(faults.map(({ object }) => object))], (current, object, newId) => {
    const at = faults.filter((fault) => fault.object === object);
    return sewThrough(current, object, (hole) => at.some(({ x, y }) => containsPoint([hole], x, y)), newId);
  }),
);

/** Lays an open layer under all of the design that holds the pile down. */
export const holdPile: Repairer = ({ design }) =>
  oneByOne(design, ['all'], (current, _, newId) => nap(current, { objects: [], margin: NAP_MARGIN }, newId));

/** What reaches further than it must (mm) shows beyond what covers it. */
const MOST_REACH = 1.5;
/** A shape reaches so much farther than the gap is wide, mm. */
const OVERLAP = 0.2;

/** The lower of two objects is compensated; where that would change its drawing, its shape reaches under the upper one, there only. */
export const closeGaps: Repairer = asRepairer<PairFault>((ask) => {
  const done = compensate(ask);
  const left = new Set(done.refused.flatMap(({ objects }) => objects));
  const next = left.size === 0 ? undefined : applyOperation(ask.design, { id: 'sequence', operations: [...done.operations] });
  if (next?.ok !== true) return done;
  const pairs = ask.faults.filter(({ object }) => left.has(object));
  const reached = oneByOne(next.value, pairs, (current, { object, other, value }, newId) =>
    reach(current, object, other, Math.min(MOST_REACH, value + OVERLAP), newId),
  );
  const grown = new Set(reached.operations.flatMap((operation) => (operation.id === 'set-spec' ? [operation.object] : [])));
  return {
    operations: [...done.operations, ...reached.operations],
    refused: done.refused.filter(({ objects }) => !objects.some((id) => grown.has(id))),
  };
});

/** Joins pieces of one shape, however many they are. */
export const joinPieces: Repairer = asRepairer<ObjectFault & { other?: string }>(({ design, faults }) => {
  const groups: Set<string>[] = [];
  for (const { object, other } of faults) {
    const pair = [object, other ?? object];
    const meeting = groups.filter((group) => pair.some((id) => group.has(id)));
    const whole = new Set([...meeting.flatMap((group) => [...group]), ...pair]);
    groups.splice(0, groups.length, ...groups.filter((group) => !meeting.includes(group)), whole);
  }
  return oneByOne(design, groups, (current, group, newId) => joinAreas(current, [...group], newId));
});

/** Draws one thing after another, each on what the one before left; what cannot be drawn says why. */
function oneByOne<T>(
  design: Design,
  things: readonly T[],
  draw: (design: Design, thing: T, newId: NewId) => Result<Drawn, string>,
): Repaired {
  const operations: SimpleOperation[] = [];
  const refused: { objects: string[]; why: string }[] = [];
  let current = design;
  const newId = freshIds(design);
  for (const thing of things) {
    const drawn = draw(current, thing, newId);
    if (drawn.ok) {
      operations.push(...drawn.value.operations);
      current = drawn.value.design;
    } else refused.push({ objects: typeof thing === 'string' && thing in design.plan.objects ? [thing] : [], why: drawn.error });
  }
  return { operations, refused };
}

/** Ids that a design has not, the same each time: a repair is worked out more than once. */
function freshIds({ plan }: Design): NewId {
  const taken = new Set([...orderOf(plan), ...plan.blocks.map(({ id }) => id)]);
  let k = 0;
  return () => {
    do k++;
    while (taken.has(`drawn-${k}`));
    return `drawn-${k}`;
  };
}
