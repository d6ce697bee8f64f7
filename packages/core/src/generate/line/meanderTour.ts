import { besideIn, type MeanderGrid, openBeside, SIDES } from './meanderGrid.ts';
import { xorshift } from '../fill/xorshift.ts';

/** Closed tours over places: each place and the one after it lie side by side, the last one and the first too. */
export interface MeanderTours {
  readonly tours: readonly (readonly number[])[];
  /** How many places are passed once, and how many there and back. */
  readonly once: number;
  readonly twice: number;
}

/**
 * Tours over the places of a grid, one for each part of the shape that hangs together and is two places broad somewhere. Four places make a
 * block; a tree over the blocks inside the shape, grown by chance, is gone round on its outside, which visits each place once (the way round
 * a spanning tree is a Hamiltonian cycle on the grid of half its step). Places that are left are taken in by twos, tours side by side joined,
 * and the rest, where the shape is one place broad, is gone to and come back from, to other tours as well. O(places).
 */
export function tourPlaces(grid: MeanderGrid, seed: number): MeanderTours {
  const next = walkRound(grid, growTree(grid, seed));
  takeInPairs(grid, next);
  joinTours(grid, next);
  takeInPairs(grid, next);
  return collectTours(grid, next);
}

/** How often the tree bends where it could go straight on: a line that wanders has no rows. */
const BENDS = 0.7;

/** For each block the side (bits: 1 right, 2 up, 4 left, 8 down) where the tree goes on; −1 for blocks that are not inside. */
function growTree(grid: MeanderGrid, seed: number): Int8Array {
  const { columns, rows } = grid;
  const [wide, high] = [columns / 2, rows / 2];
  const sides = new Int8Array(wide * high).fill(-1);
  const isBlock = (b: number): boolean => {
    const at = firstOf(b, columns);
    return grid.right[at] === 1 && grid.right[at + columns] === 1 && grid.up[at] === 1 && grid.up[at + 1] === 1;
  };
  // Two ways lead from a block to the one on a side of it, from these of its places.
  const doors = [[1, columns + 1], [columns, columns + 1], [0, columns], [0, 1]] as const; // prettier-ignore
  const leads = (b: number, side: (typeof SIDES)[number]): boolean =>
    doors[side].every((place) => openBeside(grid, firstOf(b, columns) + place, side) >= 0);
  const chance = xorshift(seed);
  for (let root = 0; root < wide * high; root++) {
    if (sides[root]! >= 0 || !isBlock(root)) continue;
    sides[root] = 0;
    const open = [root];
    while (open.length > 0) {
      // Mostly on from the newest block, sometimes from any: long ways with side ways.
      const pick = chance() < 0.7 ? open.length - 1 : Math.floor(chance() * open.length);
      const b = open[pick]!;
      const choices = SIDES.filter((side) => {
        const n = besideIn(wide, high, b, side);
        return n >= 0 && sides[n]! < 0 && isBlock(n) && leads(b, side);
      });
      if (choices.length === 0) {
        open.splice(pick, 1);
        continue;
      }
      const bends = choices.filter((choice) => (sides[b]! & (1 << ((choice + 2) % 4))) === 0);
      const among = bends.length > 0 && chance() < BENDS ? bends : choices;
      const side = among[Math.floor(chance() * among.length)]!;
      const n = besideIn(wide, high, b, side);
      sides[b]! |= 1 << side;
      sides[n] = 1 << ((side + 2) % 4);
      open.push(n);
    }
  }
  return sides;
}

/** The lower left place of a block. */
function firstOf(block: number, columns: number): number {
  const wide = columns / 2;
  return Math.floor(block / wide) * 2 * columns + (block % wide) * 2;
}

/** For each place the next one on the way round the tree, −1 where the line does not come. Counter-clockwise with y up. */
function walkRound({ columns, rows }: MeanderGrid, sides: Int8Array): Int32Array {
  const next = new Int32Array(columns * rows).fill(-1);
  for (let b = 0; b < sides.length; b++) {
    const open = sides[b]!;
    if (open < 0) continue;
    const at = firstOf(b, columns);
    const [ll, lr, ul, ur] = [at, at + 1, at + columns, at + columns + 1];
    // Along each side the way goes on inside the block, unless the tree leads out there: then it goes over to the next block.
    next[ll] = open & 8 ? ll - columns : lr;
    next[lr] = open & 1 ? lr + 1 : ur;
    next[ur] = open & 2 ? ur + columns : ul;
    next[ul] = open & 4 ? ul - 1 : ll;
  }
  return next;
}

/** Takes pairs of places beside a tour into it until none is left that could be: a step gives way to three around the pair. */
function takeInPairs(grid: MeanderGrid, next: Int32Array): void {
  forSteps(grid, next, (at, to, along, go) => {
    for (const side of [(along + 1) % 4, (along + 3) % 4]) {
      const [a, b] = [openBeside(grid, at, side), openBeside(grid, to, side)];
      if (a < 0 || b < 0 || next[a]! >= 0 || next[b]! >= 0 || openBeside(grid, a, along) !== b) continue;
      next[at] = a;
      next[a] = b;
      next[b] = to;
      go(at, a, b);
      return;
    }
  });
}

/** Visits the straight steps of all tours, those that a visit puts in their places too. */
function forSteps(
  { columns, rows }: MeanderGrid,
  next: Int32Array,
  visit: (at: number, to: number, along: number, go: (...places: number[]) => void) => void,
): void {
  const queue: number[] = [];
  for (let at = 0; at < next.length; at++) if (next[at]! >= 0) queue.push(at);
  for (let head = 0; head < queue.length; head++) {
    const at = queue[head]!;
    const along = SIDES.find((side) => besideIn(columns, rows, at, side) === next[at]);
    if (along !== undefined) visit(at, next[at]!, along, (...places) => queue.push(...places));
  }
}

/** Joins tours that run beside one another: two steps that face each other give way to two from one tour to the other. */
function joinTours(grid: MeanderGrid, next: Int32Array): void {
  const tourOf = new Int32Array(next.length).fill(-1);
  const same: number[] = [];
  const find = (t: number): number => {
    while (same[t] !== t) t = same[t] = same[same[t]!]!;
    return t;
  };
  for (let start = 0; start < next.length; start++) {
    if (next[start]! < 0 || tourOf[start]! >= 0) continue;
    for (let at = start; tourOf[at]! < 0; at = next[at]!) tourOf[at] = same.length;
    same.push(same.length);
  }
  if (same.length < 2) return;
  forSteps(grid, next, (at, to, along, go) => {
    for (const side of [(along + 3) % 4, (along + 1) % 4]) {
      const [a, b] = [openBeside(grid, at, side), openBeside(grid, to, side)];
      if (a < 0 || b < 0 || next[b] !== a || find(tourOf[a]!) === find(tourOf[at]!)) continue;
      same[find(tourOf[a]!)] = find(tourOf[at]!);
      next[at] = a;
      next[b] = to;
      go(at, b);
      return;
    }
  });
}

/** All tours in turn, from the longest of a part, with what hangs on it: places that no tour passes, and other tours that they lead to. */
function collectTours(grid: MeanderGrid, next: Int32Array): MeanderTours {
  const isReached = new Uint8Array(next.length);
  const rings: number[][] = [];
  const ringOf = new Int32Array(next.length).fill(-1);
  for (let start = 0; start < next.length; start++) {
    if (next[start]! < 0 || ringOf[start]! >= 0) continue;
    const ring: number[] = [];
    for (let at = start; ringOf[at]! < 0; at = next[at]!) {
      ringOf[at] = rings.length;
      ring.push(at);
    }
    rings.push(ring);
  }
  const hung = new Map<number, number[]>();
  const tours: number[][] = [];
  let [once, twice] = [0, 0];
  for (const root of [...rings].sort((p, q) => q.length - p.length)) {
    if (isReached[root[0]!]) continue;
    const queue: number[] = [];
    const reach = (places: readonly number[]): void => {
      for (const at of places) {
        isReached[at] = 1;
        queue.push(at);
      }
    };
    reach(root);
    once += root.length;
    for (let head = 0; head < queue.length; head++) {
      for (const side of SIDES) {
        const to = openBeside(grid, queue[head]!, side);
        if (to < 0 || isReached[to]) continue;
        const ring = rings[ringOf[to]!];
        hung.set(queue[head]!, [...(hung.get(queue[head]!) ?? []), to]);
        reach(ring ?? [to]);
        if (ring === undefined) twice++;
        else once += ring.length;
      }
    }
    tours.push(goRound(next, hung, root[0]!));
  }
  return { tours, once, twice };
}

/** The places passed from one on: round its tour, if it is on one, with all that hangs on them. */
function goRound(next: Int32Array, hung: ReadonlyMap<number, readonly number[]>, start: number): number[] {
  const out: number[] = [];
  // Each entry is a place to pass, and the one at which the ring that it is on was entered.
  const left: { readonly at: number; readonly from: number; readonly isBack: boolean }[] = [{ at: start, from: start, isBack: false }];
  while (left.length > 0) {
    const { at, from, isBack } = left.pop()!;
    out.push(at);
    if (isBack) continue;
    const to = next[at]!;
    if (to >= 0 && to !== from) left.push({ at: to, from, isBack: false });
    else if (to >= 0 && from !== start) left.push({ at: from, from, isBack: true });
    for (const side of hung.get(at) ?? []) left.push({ at, from, isBack: true }, { at: side, from: side, isBack: false });
  }
  return out;
}
