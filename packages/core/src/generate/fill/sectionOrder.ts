import { orderVisits, OUTSIDE } from './orderVisits.ts';
import type { Job } from './planSections.ts';
import type { EdgeWays } from '../line/ringWay.ts';

/** One way to sew a section: from which of its rows, from which end of that row; where it begins and ends, and which part of the shape it lies in. */
export interface Entry {
  readonly job: Job;
  readonly isTop: boolean;
  readonly isRight: boolean;
  /** The span of the ways that its first row lies on. */
  readonly way: number;
  readonly start: Place;
  readonly end: Place;
  readonly part: number;
}

export interface Place {
  readonly x: number;
  readonly y: number;
}

/** Ways across a shape, where none goes along an edge, are so many times as long as the straight line, about. */
const DETOUR = 1.5;
/** So much longer a way (mm) is worth going for each mm that one goes across open rows, on which it shows. */
const FOR_SHOWN = 24;
/** Another part of the shape costs so much more to go to (mm): the thread is cut there. */
const CUT = 1000;
/** What is nearer than this (mm) needs no walk. */
const AT_PLACE = 0.4;

/**
 * The order of sections with the shortest ways between them, each entered where that is best. Ways go along an edge where they can; `entries` are all
 * ways to sew each of the jobs, the last job stays last; `across` says how far two places lie apart across the rows, mm. From `from` on and on to `to`, where these are asked for.
 */
export function orderSections(
  entries: readonly Entry[],
  edges: EdgeWays,
  across: (a: Place, b: Place) => number,
  { last, from, to }: { readonly last?: Job; readonly from?: Place; readonly to?: Place },
): Entry[] {
  const jobs = [...new Set(entries.map(({ job }) => job))];
  const groups = jobs.map((job) => entries.flatMap((entry, k) => (entry.job === job ? [k] : [])));
  const n = entries.length;
  // Places by number: where entries begin, where they end, the way in, the way out.
  const far = { x: NaN, y: NaN };
  const places = [...entries.map(({ start }) => start), ...entries.map(({ end }) => end), from ?? far, to ?? far];
  const lengthOf = edges.lengths(Float64Array.from(places.flatMap(({ x, y }) => [x, y])));
  const partOf = (place: number): number | undefined => (place < 2 * n ? entries[place % n]!.part : undefined);
  const between = (a: number, b: number): number => {
    const straight = Math.hypot(places[a]!.x - places[b]!.x, places[a]!.y - places[b]!.y);
    if (straight < AT_PLACE) return 0;
    const [p, q] = [partOf(a), partOf(b)];
    if (p !== undefined && q !== undefined && p !== q) return CUT + straight;
    return lengthOf(a, b) ?? DETOUR * straight + FOR_SHOWN * across(places[a]!, places[b]!);
  };
  const width = n + 1;
  const known = new Float64Array(width * width).fill(NaN);
  const measure = (a: number, b: number): number => {
    if ((a === OUTSIDE && from === undefined) || (b === OUTSIDE && to === undefined)) return 0;
    return between(a === OUTSIDE ? 2 * n : n + a, b === OUTSIDE ? 2 * n + 1 : b);
  };
  const cost = (a: number, b: number): number => {
    const at = (a + 1) * width + b + 1;
    const way = known[at]!;
    return Number.isNaN(way) ? (known[at] = measure(a, b)) : way;
  };
  return orderVisits(groups, cost, last === undefined ? undefined : jobs.indexOf(last)).map((k) => entries[k]!);
}
