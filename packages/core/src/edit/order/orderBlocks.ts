import type { Design } from '../../model/design.ts';
import type { Block, ObjectId } from '../../model/plan.ts';
import type { Point } from '../../model/stitchObject.ts';
import type { SeenLayers } from '../../order/seenLayers.ts';
import { findTour } from '../../order/tour.ts';
import { CARRY } from '../../plan/joining.ts';
import { hasStop } from '../../plan/stops.ts';
import { waysFor } from '../../order/waysFor.ts';
import { type EndsChoice, endsOf, SEWN_ANEW } from './objectEnds.ts';
import { placesToMeet } from './placesToMeet.ts';
import { guessSeconds } from './wayCosts.ts';

/** Which objects may be sewn at another place of the order, and which ends are thought of for them. */
export interface OrderFreedom {
  /** Whether an object is held where it is, by a lock or for this order. */
  readonly isHeld: (id: ObjectId) => boolean;
  /** Whether it is asked about at all. */
  readonly isAsked: (id: ObjectId) => boolean;
  /** Whether ends may be chosen, and objects sewn anew for them. */
  readonly mayTurn: boolean;
  readonly maySew: boolean;
}

/** The objects within each block in an order that loses the least time between them. */
export function orderObjects(
  design: Design,
  blocks: readonly Block[],
  { ids, layers }: SeenLayers,
  { isHeld, isAsked, mayTurn, maySew }: OrderFreedom,
): Block[] {
  const { plan, target } = design;
  const indexOf = new Map(ids.map((id, k) => [id, k]));
  const under = ids.map((): number[] => []);
  for (const layer of layers) under[layer.over]!.push(layer.under);
  const isFree = (id: ObjectId): boolean => !isHeld(id) && isAsked(id) && !hasStop(plan, id);
  const ways = waysFor(design, blocks);
  let sewnUpTo = -1;
  return blocks.map((block): Block => {
    const { objects } = block;
    const partAt = ways.stack.partsFrom(sewnUpTo + objects.length);
    sewnUpTo += objects.length;
    if (objects.length < 3) return block;
    const places = maySew
      ? placesToMeet(
          objects.map((id) => plan.objects[id]!.sewn.reading),
          (place) => partAt(place) > 0,
        )
      : [];
    const ends = objects.map((id, k) => {
      const choices = mayTurn && isFree(id) ? endsOf(design, id, maySew, places[k]) : endsOf(design, id, false).slice(0, 1);
      return { ins: guessEnds(choices, 'from', partAt), outs: guessEnds(choices, 'to', partAt) };
    });
    const cost = (a: number, b: number): number => {
      // The nearest of all pairs of ends, and of those that a hidden path may join.
      let [near, least] = [Infinity, Infinity];
      for (const out of ends[a]!.outs)
        for (const into of ends[b]!.ins) {
          const way = (out.at.x - into.at.x) ** 2 + (out.at.y - into.at.y) ** 2;
          const isHidden = out.part > 0 && out.part === into.part;
          if (!isHidden && way > CARRY * CARRY && way >= near) continue;
          near = Math.min(near, way);
          least = Math.min(least, guessSeconds(target.machine, out.at, into.at, isHidden) + out.extra + into.extra);
        }
      return least;
    };
    const local = new Map(objects.map((id, k) => [indexOf.get(id)!, k]));
    const before = objects.map((id, k): number[] => [
      ...under[indexOf.get(id)!]!.flatMap((u) => local.get(u) ?? []),
      // What may not move keeps its place among all others: each after those before it, and before those after it.
      ...(isFree(id) ? lastHeld(objects, k, isFree) : objects.slice(0, k).map((_, n) => n)),
    ]);
    return { ...block, objects: findTour({ count: objects.length, cost, before }).map((k) => objects[k]!) };
  });
}

/** An end that an object can have: what hidden part it lies in, and what it counts to have it there, seconds. */
interface GuessedEnd {
  readonly at: Point;
  readonly part: number;
  readonly extra: number;
}

/** Each place that an object can begin or end at, once. */
function guessEnds(choices: readonly EndsChoice[], end: 'from' | 'to', partAt: (place: Point) => number): GuessedEnd[] {
  const own = choices[0]![end];
  const out = new Map<string, GuessedEnd>();
  for (const choice of choices) {
    const at = choice[end];
    const isSewn = choice.how === 'sewn' && (at.x !== own.x || at.y !== own.y);
    const key = `${at.x} ${at.y}`;
    const extra = isSewn ? SEWN_ANEW / 2 : 0;
    if ((out.get(key)?.extra ?? Infinity) > extra) out.set(key, { at, part: partAt(at), extra });
  }
  return [...out.values()];
}

/** The last object before one that has to keep its place; whatever comes after that one in the file comes after it. */
function lastHeld(objects: readonly ObjectId[], k: number, isFree: (id: ObjectId) => boolean): number[] {
  for (let n = k - 1; n >= 0; n--) if (!isFree(objects[n]!)) return [n];
  return [];
}
