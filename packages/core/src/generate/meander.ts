import { offsetRings } from '../geometry/offset.ts';
import { repairShape } from './repairShape.ts';
import { generateRun } from './run.ts';
import { xorshift } from './xorshift.ts';

export interface MeanderSpec {
  /** Distance between neighbouring ways of the line, mm. */
  readonly spacing: number;
  readonly stitchLength: number;
  /** Another number gives another line. */
  readonly seed?: number;
}

/** The line keeps this share of a spacing away from the edge. */
const FROM_EDGE = 0.35;
/** A shape with more places for the line than this asks for a wider spacing. */
const MOST_PLACES = 400_000;

/**
 * Penetrations (xyxy) of one unbroken line that wanders through the shape at an even distance from itself, closed, one for each part of the
 * shape that is broad enough. Gives none where nothing is.
 *
 * Places for the line lie on a grid of one spacing. Four of them make a block; a tree over the blocks inside the shape, grown by chance, is
 * gone round on its outside, which visits each place once (the way round a spanning tree is a Hamiltonian cycle on the grid of half its
 * step). Places that are left at the edge are then taken in two at a time: a step from one place to the next gives way to three around a pair.
 *
 * @throws when the spacing or the stitch is not positive, or the shape has too many places for the line.
 */
export function generateMeander(rings: readonly Float64Array[], spec: MeanderSpec, from?: { x: number; y: number }): Float64Array[] {
  const { spacing, stitchLength, seed = 1 } = spec;
  if (!(spacing >= 0.4)) throw new RangeError(`a meander fill needs a spacing of 0.4 mm or more, got ${spacing}`);
  if (!(stitchLength >= 0.5)) throw new RangeError(`a meander fill needs stitches of 0.5 mm or more, got ${stitchLength}`);
  const shape = repairShape(rings);
  if (!shape.ok) return [];
  const inner = offsetRings(shape.value.rings, -FROM_EDGE * spacing);
  let best: { grid: Grid; next: Int32Array; taken: number } | undefined;
  // The grid may lie any way over the shape: the one that takes in most places is best.
  for (const dx of PHASES) {
    for (const dy of PHASES) {
      const grid = findPlaces(inner, spacing, dx, dy);
      if (grid === undefined) return [];
      const next = walkRound(grid, growTree(grid, seed));
      takeInRest(grid, next);
      const taken = next.reduce((sum, to) => sum + (to >= 0 ? 1 : 0), 0);
      if (best === undefined || taken > best.taken) best = { grid, next, taken };
    }
  }
  return collectLines(best!.grid, best!.next, from).map((line) => generateRun(rounded(line), { stitchLength }));
}

/** By how many steps the grid is moved about. */
const PHASES = [0, 0.5, 1, 1.5];

/** Places by column and row, an even number of each; `inside` is 1 for those in the shape. */
interface Grid {
  readonly minX: number;
  readonly minY: number;
  readonly step: number;
  readonly columns: number;
  readonly rows: number;
  readonly inside: Uint8Array;
}

function findPlaces(rings: readonly Float64Array[], step: number, dx: number, dy: number): Grid | undefined {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings) {
    for (let k = 0; k < ring.length; k += 2) {
      [minX, maxX] = [Math.min(minX, ring[k]!), Math.max(maxX, ring[k]!)];
      [minY, maxY] = [Math.min(minY, ring[k + 1]!), Math.max(maxY, ring[k + 1]!)];
    }
  }
  if (minX >= maxX) return undefined;
  const even = (n: number): number => n + (n % 2);
  const columns = even(Math.max(2, Math.floor((maxX - minX) / step + dx) + 1));
  const rows = even(Math.max(2, Math.floor((maxY - minY) / step + dy) + 1));
  if (columns * rows > MOST_PLACES) throw new RangeError(`the shape is too large for a meander at ${step} mm; take a wider spacing`);
  const [left, low] = [minX - dx * step, minY - dy * step];
  const inside = new Uint8Array(columns * rows);
  for (let r = 0; r < rows; r++) {
    const xs = crossings(rings, low + r * step);
    for (let k = 0; k + 1 < xs.length; k += 2) {
      const to = Math.min(columns - 1, Math.floor((xs[k + 1]! - left) / step));
      for (let c = Math.max(0, Math.ceil((xs[k]! - left) / step)); c <= to; c++) inside[r * columns + c] = 1;
    }
  }
  return { minX: left, minY: low, step, columns, rows, inside };
}

/** Where a level line crosses rings, ascending. */
function crossings(rings: readonly Float64Array[], y: number): number[] {
  const xs: number[] = [];
  for (const ring of rings) {
    const n = ring.length / 2;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      const yi = ring[i * 2 + 1]!;
      const yj = ring[j * 2 + 1]!;
      if (yi > y !== yj > y) xs.push(((ring[j * 2]! - ring[i * 2]!) * (y - yi)) / (yj - yi) + ring[i * 2]!);
    }
  }
  return xs.sort((p, q) => p - q);
}

/** For each block the side (bits: 1 right, 2 up, 4 left, 8 down) where the tree goes on; −1 for blocks that are not inside. */
function growTree({ columns, rows, inside }: Grid, seed: number): Int8Array {
  const [wide, high] = [columns / 2, rows / 2];
  const sides = new Int8Array(wide * high).fill(-1);
  const isBlock = (b: number): boolean => {
    const at = Math.floor(b / wide) * 2 * columns + (b % wide) * 2;
    return inside[at] === 1 && inside[at + 1] === 1 && inside[at + columns] === 1 && inside[at + columns + 1] === 1;
  };
  const chance = xorshift(seed);
  for (let root = 0; root < wide * high; root++) {
    if (sides[root]! >= 0 || !isBlock(root)) continue;
    sides[root] = 0;
    const open = [root];
    while (open.length > 0) {
      // Mostly on from the newest block, sometimes from any: long ways with side ways.
      const pick = chance() < 0.7 ? open.length - 1 : Math.floor(chance() * open.length);
      const b = open[pick]!;
      const choices = [0, 1, 2, 3].filter((side) => {
        const n = neighbour(b, side, wide, high);
        return n >= 0 && sides[n]! < 0 && isBlock(n);
      });
      if (choices.length === 0) {
        open.splice(pick, 1);
        continue;
      }
      const side = choices[Math.floor(chance() * choices.length)]!;
      const n = neighbour(b, side, wide, high);
      sides[b]! |= 1 << side;
      sides[n] = 1 << ((side + 2) % 4);
      open.push(n);
    }
  }
  return sides;
}

/** The block or place to the right, above, to the left or below; −1 beyond the grid. */
function neighbour(at: number, side: number, columns: number, rows: number): number {
  const [c, r] = [at % columns, Math.floor(at / columns)];
  if (side === 0) return c + 1 < columns ? at + 1 : -1;
  if (side === 1) return r + 1 < rows ? at + columns : -1;
  if (side === 2) return c > 0 ? at - 1 : -1;
  return r > 0 ? at - columns : -1;
}

/** For each place the next one on the way round the tree, −1 where the line does not come. Counter-clockwise with y up. */
function walkRound({ columns, rows }: Grid, sides: Int8Array): Int32Array {
  const next = new Int32Array(columns * rows).fill(-1);
  const wide = columns / 2;
  for (let b = 0; b < sides.length; b++) {
    const open = sides[b]!;
    if (open < 0) continue;
    const at = Math.floor(b / wide) * 2 * columns + (b % wide) * 2;
    const [ll, lr, ul, ur] = [at, at + 1, at + columns, at + columns + 1];
    // Along each side the way goes on inside the block, unless the tree leads out there: then it goes over to the next block.
    next[ll] = open & 8 ? ll - columns : lr;
    next[lr] = open & 1 ? lr + 1 : ur;
    next[ur] = open & 2 ? ur + columns : ul;
    next[ul] = open & 4 ? ul - 1 : ll;
  }
  return next;
}

/** Takes pairs of places beside the line into it until none is left that could be. */
function takeInRest({ columns, rows, inside }: Grid, next: Int32Array): void {
  const queue: number[] = [];
  for (let at = 0; at < next.length; at++) if (next[at]! >= 0) queue.push(at);
  for (let head = 0; head < queue.length; head++) {
    const at = queue[head]!;
    const to = next[at]!;
    const along = [0, 1, 2, 3].find((side) => neighbour(at, side, columns, rows) === to);
    if (along === undefined) continue;
    for (const side of [(along + 1) % 4, (along + 3) % 4]) {
      const [a, b] = [neighbour(at, side, columns, rows), neighbour(to, side, columns, rows)];
      if (a < 0 || b < 0 || !inside[a] || !inside[b] || next[a]! >= 0 || next[b]! >= 0) continue;
      next[at] = a;
      next[a] = b;
      next[b] = to;
      queue.push(at, a, b);
      break;
    }
  }
}

function collectLines({ columns, minX, minY, step }: Grid, next: Int32Array, from?: { x: number; y: number }): Float64Array[] {
  const seen = new Uint8Array(next.length);
  const lines: Float64Array[] = [];
  for (let start = 0; start < next.length; start++) {
    if (next[start]! < 0 || seen[start]) continue;
    const points: number[] = [];
    for (let at = start; !seen[at]; at = next[at]!) {
      seen[at] = 1;
      points.push(minX + (at % columns) * step, minY + Math.floor(at / columns) * step);
    }
    lines.push(startNear(points, from));
  }
  return lines;
}

/** The closed line from its point nearest to a place, back to it. */
function startNear(points: readonly number[], from?: { x: number; y: number }): Float64Array {
  let start = 0;
  let least = Infinity;
  for (let k = 0; from !== undefined && k < points.length; k += 2) {
    const d = (points[k]! - from.x) ** 2 + (points[k + 1]! - from.y) ** 2;
    if (d < least) [least, start] = [d, k];
  }
  const line = [...points.slice(start), ...points.slice(0, start)];
  return Float64Array.from([...line, line[0]!, line[1]!]);
}

/** The line with its corners cut twice by a quarter of each side (G. M. Chaikin, An algorithm for high-speed curve generation, 1974). */
function rounded(line: Float64Array): Float64Array {
  let at = line;
  for (let pass = 0; pass < 2; pass++) {
    const out: number[] = [at[0]!, at[1]!];
    for (let k = 0; k + 3 < at.length; k += 2) {
      const [ax, ay, bx, by] = [at[k]!, at[k + 1]!, at[k + 2]!, at[k + 3]!];
      out.push(ax + (bx - ax) / 4, ay + (by - ay) / 4, ax + ((bx - ax) * 3) / 4, ay + ((by - ay) * 3) / 4);
    }
    out.push(at[at.length - 2]!, at[at.length - 1]!);
    at = Float64Array.from(out);
  }
  return at;
}
