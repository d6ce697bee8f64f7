import { xorshift } from './xorshift.ts';

/**
 * What it takes to get from where one visit leaves to where another begins, mm; each given by its number, from 0. {@link OUTSIDE} to where it all begins, or
 * from where it all ends.
 */
export type CostOf = (from: number, to: number) => number;
export const OUTSIDE = -1;

/** An order is shaken up so many times; fewer the more visits there are, so that about so many places are looked at. */
const MOST_SHAKES = 80;
const MOST_LOOKS = 60_000;
/** Rounds of moves that an order usually takes. */
const ROUNDS = 4;
/** The best of all orders is found where that takes no more looks than this: six sections, each sewn in one of four ways. */
const MOST_EXACT = 40_000;
/** Orders that differ by less than this (mm) are as good as one another. */
const ALIKE = 1e-6;

/**
 * The order in which to visit everything once, each in one of several ways, with the least cost between: a tour through groups of visits, `groups[k]`
 * being the numbers of the ways to visit the k-th. The group `last` stays last. Gives one number of each group, in order. Few groups: the best of all
 * orders (dynamic programming over what was visited: M. Held and R. M. Karp, A dynamic programming approach to sequencing problems, 1962); many: begins
 * with the nearest next, moves one at a time as long as that helps, and does so again from shaken orders (local search with restarts, seeded).
 */
export function orderVisits(groups: readonly (readonly number[])[], cost: CostOf, last?: number): number[] {
  const count = groups.reduce((sum, group) => sum + group.length, 0);
  if (2 ** groups.length * count * count <= MOST_EXACT) return bestOfAll(groups, cost, last);
  const free = groups.filter((_, k) => k !== last);
  const end = last === undefined ? [] : [groups[last]!];
  const chance = xorshift(1);
  let best = improve(nearestNext(free, end, cost), end.length, groups, cost);
  const shakes = Math.min(MOST_SHAKES, Math.floor(MOST_LOOKS / (ROUNDS * groups.length * count)));
  for (let n = 0; n < shakes; n++) {
    const other = improve(shake(best.order, end.length, chance), end.length, groups, cost);
    if (other.cost < best.cost - ALIKE) best = other;
  }
  return best.order;
}

/** For each set of groups and each visit that may be the last of them the least cost of an order through them. */
function bestOfAll(groups: readonly (readonly number[])[], cost: CostOf, last: number | undefined): number[] {
  const visits = groups.flat();
  const groupOf = groups.flatMap((group, k) => group.map(() => k));
  const n = visits.length;
  const sets = 2 ** groups.length;
  const least = new Float64Array(sets * n).fill(Infinity);
  const before = new Int16Array(sets * n).fill(-1);
  // The group that comes last goes into the set of all only.
  const mayFollow = (set: number, k: number): boolean => (set & (1 << k)) === 0 && (k !== last || (set | (1 << k)) === sets - 1);
  const goOn = (set: number, a: number, from: number, upTo: number): void => {
    for (let b = 0; b < n; b++) {
      if (!mayFollow(set, groupOf[b]!)) continue;
      const at = (set | (1 << groupOf[b]!)) * n + b;
      const sum = upTo + cost(from, visits[b]!);
      if (sum >= least[at]!) continue;
      least[at] = sum;
      before[at] = a;
    }
  };
  goOn(0, -1, OUTSIDE, 0);
  for (let set = 1; set < sets - 1; set++)
    for (let a = 0; a < n; a++) if (least[set * n + a]! < Infinity) goOn(set, a, visits[a]!, least[set * n + a]!);
  const whole = visits.map((visit, b) => least[(sets - 1) * n + b]! + cost(visit, OUTSIDE));
  const order: number[] = [];
  let set = sets - 1;
  for (let at = whole.indexOf(Math.min(...whole)); at >= 0;) {
    order.unshift(visits[at]!);
    const next = before[set * n + at]!;
    set &= ~(1 << groupOf[at]!);
    at = next;
  }
  return order;
}

function nearestNext(free: readonly (readonly number[])[], end: readonly (readonly number[])[], cost: CostOf): number[] {
  const order: number[] = [];
  let at = OUTSIDE;
  for (const left of [new Set(free), new Set(end)])
    while (left.size > 0) {
      let next: { visit: number; group: readonly number[] } | undefined;
      let least = Infinity;
      for (const group of left)
        for (const visit of group) {
          const way = cost(at, visit);
          if (next !== undefined && way >= least) continue;
          [next, least] = [{ visit, group }, way];
        }
      left.delete(next!.group);
      order.push(next!.visit);
      at = next!.visit;
    }
  return order;
}

/** Takes one after another out and puts it where and how it costs least, until no such move helps any more; the last `fixed` ones stay there. */
function improve(
  start: readonly number[],
  fixed: number,
  groups: readonly (readonly number[])[],
  cost: CostOf,
): { readonly order: number[]; readonly cost: number } {
  const order = [...start];
  const at = (k: number): number => order[k] ?? OUTSIDE;
  for (let isBetter = true; isBetter;) {
    isBetter = false;
    for (const group of groups) {
      const from = order.findIndex((visit) => group.includes(visit));
      const [own] = order.splice(from, 1);
      const old = cost(at(from - 1), own!) + cost(own!, at(from)) - cost(at(from - 1), at(from));
      let best = { place: from, visit: own!, cost: old - ALIKE };
      const isFixed = from > order.length - fixed;
      const [first, last] = isFixed ? [order.length, order.length] : [0, order.length - fixed];
      for (let place = first; place <= last; place++) {
        const [before, after] = [at(place - 1), at(place)];
        const saved = cost(before, after);
        for (const visit of group) {
          const now = cost(before, visit) + cost(visit, after) - saved;
          if (now < best.cost) best = { place, visit, cost: now };
        }
      }
      isBetter ||= best.cost < old - ALIKE;
      order.splice(best.place, 0, best.visit);
    }
  }
  let sum = cost(OUTSIDE, at(0));
  for (let k = 0; k < order.length; k++) sum += cost(at(k), at(k + 1));
  return { order, cost: sum };
}

/** Stretches of the order swapped, and perhaps one of them turned; the last `fixed` ones left where they are. */
function shake(order: readonly number[], fixed: number, chance: () => number): number[] {
  const free = order.length - fixed;
  const [a, b, c] = [chance(), chance(), chance()].map((share) => Math.floor(share * (free + 1))).sort((p, q) => p - q);
  const [first, second] = [order.slice(a, b), order.slice(b, c)];
  if (chance() < 0.5) first.reverse();
  return [...order.slice(0, a), ...second, ...first, ...order.slice(c)];
}
