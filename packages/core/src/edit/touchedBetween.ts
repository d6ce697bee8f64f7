import type { Design } from '../model/design.ts';
import { type ObjectId, orderOf, type Plan } from '../model/plan.ts';
import { type History, stateOf } from './journal.ts';

/** What a change of a design changes: two changes that touch nothing in common can be made in either order. */
export interface Touched {
  /** Objects that are sewn, named or made otherwise, that are new, or that are gone. */
  readonly objects: ReadonlySet<ObjectId>;
  /** Objects to which the way is another one. */
  readonly ways: ReadonlySet<ObjectId>;
  /** Blocks with another thread, by id. */
  readonly blocks: ReadonlySet<string>;
  /** Places of findings that were kept or opened again, by their keys. */
  readonly places: ReadonlySet<string>;
  /** Whether objects that are in both come one after another otherwise. */
  readonly isOrdered: boolean;
  readonly isTarget: boolean;
}

/** What is other in one design than in another. Records are compared by what they are, not by what they hold: operations share all that they leave alone. O(objects). */
export function touchedBetween(before: Design, after: Design): Touched {
  const [a, b] = [before.plan, after.plan];
  return {
    objects: differing(a.objects, b.objects),
    // The way to an object that comes or goes is part of that.
    ways: new Set([
      ...[...differing(a.links, b.links)].filter((id) => a.objects[id] !== undefined && b.objects[id] !== undefined),
      ...(a.ending === b.ending ? [] : [ENDING]),
    ]),
    blocks: blocksBetween(a, b),
    places: differing(before.kept, after.kept),
    isOrdered: isOrderedAnew(a, b),
    isTarget: before.target !== after.target,
  };
}

/** Stands for the way to the end, which leads to no object. */
const ENDING = '(end)';

/**
 * What was touched since a step (null: the start) by others than who made the steps `own`: by each step that was made on top of it or, where that step
 * is no longer done, by all that is other than it was then. Nothing where that step is not in hand.
 */
export function touchedSince(history: History, since: string | null, own: ReadonlySet<string>): Touched | undefined {
  const { far, done, design } = history;
  const root = far.at(-1)?.id ?? null;
  const at = done.findIndex(({ id }) => id === since);
  if (since === root || at >= 0)
    return joinTouched(
      done
        .slice(at + 1)
        .filter(({ id }) => !own.has(id))
        .map(({ before, after }) => touchedBetween(before, after)),
    );
  const was = stateOf(history, since ?? 'start');
  return was === undefined ? undefined : touchedBetween(was, design);
}

/** All that several changes touch. */
function joinTouched(all: readonly Touched[]): Touched {
  const union = <K extends 'objects' | 'ways' | 'blocks' | 'places'>(key: K) => new Set(all.flatMap((one) => [...one[key]]));
  return {
    ...{ objects: union('objects'), ways: union('ways'), blocks: union('blocks'), places: union('places') },
    isOrdered: all.some(({ isOrdered }) => isOrdered),
    isTarget: all.some(({ isTarget }) => isTarget),
  };
}

/** What two changes both touch, in words for who made one of them: objects by their names in `design`. Nothing: they go together. */
export function overlapOf(one: Touched, other: Touched, design: Design): string[] {
  const said = (id: ObjectId): string => design.plan.objects[id]?.name ?? 'an object that is gone';
  const both = (key: 'objects' | 'ways' | 'blocks' | 'places'): string[] => [...one[key]].filter((id) => other[key].has(id));
  return [
    ...both('objects').map(said),
    ...both('ways').map((id) => (id === ENDING ? 'the way to the end' : `the way to ${said(id)}`)),
    ...(both('blocks').length > 0 ? ['the thread of a block'] : []),
    ...(both('places').length > 0 ? ['what is kept of a finding'] : []),
    ...(one.isOrdered && other.isOrdered ? ['the order'] : []),
    ...(one.isTarget && other.isTarget ? ['what it is sewn on'] : []),
  ];
}

function differing<T>(before: Readonly<Record<string, T>>, after: Readonly<Record<string, T>>): Set<string> {
  if (before === after) return new Set();
  return new Set([...Object.keys(before), ...Object.keys(after)].filter((key) => before[key] !== after[key]));
}

/** Blocks that both have, with another thread, or that may now be merged and might not before. */
function blocksBetween(a: Plan, b: Plan): Set<string> {
  if (a.blocks === b.blocks) return new Set();
  const before = new Map(a.blocks.map((block) => [block.id, block]));
  const others = b.blocks.filter(({ id, thread, keep }) => {
    const was = before.get(id);
    return was !== undefined && (was.thread !== thread || was.keep !== keep);
  });
  return new Set(others.map(({ id }) => id));
}

function isOrderedAnew(a: Plan, b: Plan): boolean {
  if (a.blocks === b.blocks) return false;
  const before = orderOf(a).filter((id) => b.objects[id] !== undefined);
  const after = orderOf(b).filter((id) => a.objects[id] !== undefined);
  return before.some((id, k) => id !== after[k]);
}
