import type { Design } from '../../model/design.ts';
import type { Block, ObjectId } from '../../model/plan.ts';
import { remember } from '../../model/remember.ts';
import type { Point } from '../../model/stitchObject.ts';
import type { HiddenWays } from '../../order/hiddenWays.ts';
import { CARRY } from '../../plan/joining.ts';
import { type EndsChoice, endsOf, SEWN_ANEW } from './objectEnds.ts';
import { placesToMeet } from './placesToMeet.ts';
import { cutSeconds, guessSeconds } from './wayCosts.ts';

/** Its own stitches turned count as if they took so many seconds more, so that nothing is turned for nothing. */
const TURNED = 0.05;
/** Ways that turned out not to be hidden are known, and ends chosen anew, so many times. */
const ROUNDS = 10;

/** Which objects may begin and end elsewhere, and whether they may be sewn anew for that. */
export interface EndsAsk {
  readonly mayChange: (id: ObjectId) => boolean;
  readonly maySew: boolean;
}

/** How each object begins and ends so that the ways between them take the least time together: by blocks, over all choices of ends. */
export function chooseEnds(
  design: Design,
  blocks: readonly Block[],
  ways: HiddenWays,
  { mayChange, maySew }: EndsAsk,
): [ObjectId, EndsChoice][] {
  const { plan, target } = design;
  const failed = new Set<string>();
  const wayKey = (a: Point, b: Point): string => [a.x, a.y, b.x, b.y].map((v) => v.toFixed(2)).join();
  let first = 0;
  const chosen: [ObjectId, EndsChoice][] = [];
  for (const { objects } of blocks) {
    const partAt = ways.stack.partsFrom(first);
    const places = maySew
      ? placesToMeet(
          objects.map((id) => plan.objects[id]!.sewn.reading),
          (place) => partAt(place) > 0,
        )
      : [];
    const choices = objects.map((id, k) => (mayChange(id) ? endsOf(design, id, maySew, places[k]) : endsOf(design, id, false).slice(0, 1)));
    const partOf = remember(partAt);
    let best: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      best = cheapestEnds(choices, (k, out, into) => {
        if (plan.links[objects[k + 1]!]!.wish === 'cut') return cutSeconds(target.machine, 0);
        const mayHide = partOf(out) > 0 && partOf(out) === partOf(into) && !failed.has(wayKey(out, into));
        return guessSeconds(target.machine, out, into, mayHide);
      });
      let isGood = true;
      for (let k = 0; k + 1 < objects.length; k++) {
        const [out, into] = [choices[k]![best[k]!]!.to, choices[k + 1]![best[k + 1]!]!.from];
        if (Math.hypot(out.x - into.x, out.y - into.y) <= CARRY || failed.has(wayKey(out, into))) continue;
        if (partOf(out) === 0 || partOf(out) !== partOf(into)) continue;
        if (typeof ways.find(out, into, first + k) === 'string') {
          failed.add(wayKey(out, into));
          isGood = false;
        }
      }
      if (isGood) break;
    }
    best.forEach((c, k) => {
      const choice = choices[k]![c]!;
      if (choice.how !== 'as-is') chosen.push([objects[k]!, choice]);
    });
    first += objects.length;
  }
  return chosen;
}

/** The cheapest choice of ends for objects in a row (dynamic programming over the places where they can end and begin). */
function cheapestEnds(choices: readonly (readonly EndsChoice[])[], cost: (k: number, out: Point, into: Point) => number): number[] {
  const own = (choice: EndsChoice): number => (choice.how === 'sewn' ? SEWN_ANEW : choice.how === 'turned' ? TURNED : 0);
  const from: number[][] = [];
  let sums = choices[0]?.map(own) ?? [];
  for (let k = 0; k + 1 < choices.length; k++) {
    // The cheapest choice that ends at each place, and from which of those each beginning is reached.
    const outs = new Map<Point, number>();
    choices[k]!.forEach(({ to }, a) => {
      const known = outs.get(to);
      if (known === undefined || sums[a]! < sums[known]! - 1e-9) outs.set(to, a);
    });
    const ins = new Map<Point, { readonly sum: number; readonly at: number }>();
    for (const { from: into } of choices[k + 1]!) {
      if (ins.has(into)) continue;
      let [least, at] = [Infinity, 0];
      for (const [out, a] of outs) {
        const sum = sums[a]! + cost(k, out, into);
        if (sum < least - 1e-9) [least, at] = [sum, a];
      }
      ins.set(into, { sum: least, at });
    }
    from.push(choices[k + 1]!.map((choice) => ins.get(choice.from)!.at));
    sums = choices[k + 1]!.map((choice) => ins.get(choice.from)!.sum + own(choice));
  }
  let at = sums.indexOf(Math.min(...sums));
  const out = [at];
  for (let k = from.length - 1; k >= 0; k--) {
    at = from[k]![at]!;
    out.unshift(at);
  }
  return choices.length === 0 ? [] : out;
}
