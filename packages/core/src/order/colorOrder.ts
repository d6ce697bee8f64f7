/** What is to be put in an order: objects by index, each with its color, what has to be sewn before it, and the stage that it belongs to. */
export interface ColorInstance {
  /** The color of each object; objects of a block that is not to be merged have one of their own. */
  readonly colors: readonly number[];
  /** For each object those that have to be sewn before it. */
  readonly before: readonly (readonly number[])[];
  /** All objects of a stage come before any of the next: what is sewn before and after the operator had to do something. */
  readonly stages: readonly number[];
}

export interface ColorOrder {
  /** Objects that are sewn with one thread on, block after block; those within a block are ascending. */
  readonly blocks: readonly { readonly color: number; readonly objects: readonly number[] }[];
  /** Whether no order with fewer blocks exists: the search was not cut short. */
  readonly isFewest: boolean;
}

/** Sets of sewn objects are gone on from until so many objects were looked at; after that the furthest of them only. */
const MOST_LOOKS = 1_000_000;
const LEAST_STATES = 400;

interface State {
  readonly done: Uint32Array;
  readonly count: number;
  readonly blocks: number;
  readonly color: number;
  readonly objects: readonly number[];
  readonly from: State | undefined;
}

/**
 * The fewest blocks of one color that keep each object after those that have to be before it, by search over sets of objects that are sewn:
 * with a thread on, sewing all that can be sewn with it never makes more blocks. Among orders with as few blocks the one that begins most like the
 * order of the indices. Undefined where something has to be sewn before itself.
 */
export function findColorOrder({ colors, before, stages }: ColorInstance): ColorOrder | undefined {
  const n = colors.length;
  const after = colors.map((): number[] => []);
  before.forEach((list, k) => list.forEach((b) => after[b]!.push(k)));
  const stageCounts: number[] = [];
  for (const stage of stages) stageCounts[stage] = (stageCounts[stage] ?? 0) + 1;
  const words = Math.max(1, Math.ceil(n / 32));
  const has = (set: Uint32Array, k: number): boolean => ((set[k >> 5]! >>> (k & 31)) & 1) === 1;

  /** All of a color that can be sewn after what is done, one making room for the next. */
  const sew = (from: State, color: number): State | undefined => {
    const done = from.done.slice();
    const objects: number[] = [];
    let stage = 0;
    const left = stageCounts.map((count) => count ?? 0);
    for (let k = 0; k < n; k++) if (has(done, k)) left[stages[k]!]!--;
    let isMore = true;
    while (isMore) {
      isMore = false;
      while (stage < left.length && left[stage] === 0) stage++;
      for (let k = 0; k < n; k++) {
        if (colors[k] !== color || has(done, k) || stages[k]! > stage || before[k]!.some((b) => !has(done, b))) continue;
        done[k >> 5]! |= 1 << (k & 31);
        left[stages[k]!]!--;
        objects.push(k);
        isMore = true;
      }
    }
    if (objects.length === 0) return undefined;
    objects.sort((a, b) => a - b);
    return { done, count: from.count + objects.length, blocks: from.blocks + 1, color, objects, from };
  };

  /** Colors that something can be sewn with, the one whose first such object comes first before the others. */
  const choices = (state: State): number[] => {
    const left = stageCounts.map((count) => count ?? 0);
    for (let k = 0; k < n; k++) if (has(state.done, k)) left[stages[k]!]!--;
    const stage = left.findIndex((count) => count > 0);
    const found = new Set<number>();
    for (let k = 0; k < n; k++)
      if (!has(state.done, k) && stages[k]! <= stage && before[k]!.every((b) => has(state.done, b))) found.add(colors[k]!);
    found.delete(state.color);
    return [...found];
  };

  const leftColors = (state: State): number => {
    const found = new Set<number>();
    for (let k = 0; k < n; k++) if (!has(state.done, k)) found.add(colors[k]!);
    return found.size;
  };

  // Best first by blocks so far and colors left, which is never more than blocks left; the newest first among equals, so that it goes straight on.
  const start: State = { done: new Uint32Array(words), count: 0, blocks: 0, color: -1, objects: [], from: undefined };
  const open: State[][] = [];
  (open[leftColors(start)] ??= []).push(start);
  const seen = new Set<string>();
  const mostStates = Math.max(LEAST_STATES, MOST_LOOKS / n);
  let [expanded, isFewest] = [0, true];
  let furthest = start;
  for (let f = 0; f < open.length; f++) {
    for (let state = open[f]?.pop(); state !== undefined; state = open[f]?.pop()) {
      if (state.count === n) return { blocks: blocksOf(state), isFewest };
      const key = `${state.done.join()} ${state.color}`;
      if (seen.has(key)) continue;
      seen.add(key);
      if (state.count > furthest.count) furthest = state;
      if (++expanded > mostStates && isFewest) {
        // Cut short: what is furthest is gone on with, and nothing else.
        isFewest = false;
        open.length = 0;
        f = 0;
        open[f] = [furthest];
        seen.clear();
        continue;
      }
      for (const color of choices(state).reverse()) {
        const sewn = sew(state, color);
        if (sewn !== undefined) (open[isFewest ? sewn.blocks + leftColors(sewn) : f] ??= []).push(sewn);
      }
    }
  }
  return undefined;
}

function blocksOf(last: State): ColorOrder['blocks'] {
  const blocks: { color: number; objects: readonly number[] }[] = [];
  for (let state: State | undefined = last; state?.from !== undefined; state = state.from)
    blocks.unshift({ color: state.color, objects: state.objects });
  return blocks;
}
