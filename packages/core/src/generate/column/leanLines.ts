import { lengthOfPath } from '../../geometry/path.ts';
import type { Column } from './columns.ts';
import type { AngleLine } from '../fill/rowLines.ts';

/** Places on both edges of a column that belong together, as shares 0…1 of the length of either. */
export type Rung = readonly [left: number, right: number];

/** Rungs nearer to one another than this share of an edge, or in another order on it, leave no room for throws between them. */
const LEAST_PART = 0.002;

/**
 * Where the angle lines of a satin meet its edges: throws lean as they say there, and turn evenly in between. A line that misses an edge is
 * taken to its nearest point; one that crosses another, or lies on it, is left out and counted.
 */
export function rungsOf(
  { left, right }: Column,
  lines: readonly AngleLine[],
): { readonly rungs: readonly Rung[]; readonly leftOut: number } {
  const found = lines.map((line): Rung => [shareAt(left, line), shareAt(right, line)]).sort((a, b) => a[0] + a[1] - b[0] - b[1]);
  const rungs: Rung[] = [];
  for (const rung of found) {
    const [l, r] = rungs[rungs.length - 1] ?? [0, 0];
    const isRoom = rung[0] - l > LEAST_PART && rung[1] - r > LEAST_PART && rung[0] < 1 - LEAST_PART && rung[1] < 1 - LEAST_PART;
    if (isRoom) rungs.push(rung);
  }
  return { rungs, leftOut: found.length - rungs.length };
}

/** The angle line of a column at a share of its way, from edge to edge as throws lie there without any line, mm to the thousandth. */
export function lineAcross({ left, right }: Column, share: number): AngleLine {
  return thousandths([...pointAt(left, share), ...pointAt(right, share)]);
}

/**
 * The fewest angle lines that make the throws of a column lean as `throws` do (each from one edge to the other, x0 y0 x1 y1), to within
 * `tolerance` mm along its edges; none where they lie evenly along both.
 */
export function readLean(column: Column, throws: readonly AngleLine[], tolerance: number): AngleLine[] {
  const [lengthA, lengthB] = [lengthOfPath(column.left), lengthOfPath(column.right)];
  if (throws.length < 3 || !(lengthA > 0) || !(lengthB > 0)) return [];
  const [nearA, nearB] = [nearestOn(column.left), nearestOn(column.right)];
  // Throws follow one another along the column: each is looked for a little on from the one before, so that a bend back is not mistaken for it.
  let [wayA, wayB] = [0, 0];
  const isFromEnd = nearA(throws[0]![0], throws[0]![1]).way > lengthA / 2;
  const ends = (isFromEnd ? [...throws].reverse() : throws)
    .map(([x0, y0, x1, y1]) => {
      const [a0, b0, a1, b1] = [nearA(x0, y0, wayA), nearB(x0, y0, wayB), nearA(x1, y1, wayA), nearB(x1, y1, wayB)];
      [wayA, wayB] = a0.off + b1.off <= a1.off + b0.off ? [a0.way, b1.way] : [a1.way, b0.way];
      return [wayA, wayB] as const;
    })
    .sort((p, q) => p[0] / lengthA + p[1] / lengthB - q[0] / lengthA - q[1] / lengthB);
  const places = [[0, 0] as const, ...ends, [lengthA, lengthB] as const];
  const stays: number[] = [];
  const open: [number, number][] = [[0, places.length - 1]];
  for (let part = open.pop(); part !== undefined; part = open.pop()) {
    const [from, to] = part;
    const [[a0, b0], [a1, b1]] = [places[from]!, places[to]!];
    let [worst, most] = [-1, tolerance];
    for (let k = from + 1; k < to; k++) {
      // Where this throw would end if throws turned evenly from one end of the part to the other.
      const share = (places[k]![0] + places[k]![1] - a0 - b0) / Math.max(1e-9, a1 + b1 - a0 - b0);
      const off = Math.abs(a0 + share * (a1 - a0) - places[k]![0]) + Math.abs(b0 + share * (b1 - b0) - places[k]![1]);
      if (off > most) [most, worst] = [off, k];
    }
    if (worst < 0) continue;
    stays.push(worst);
    open.push([from, worst], [worst, to]);
  }
  if (stays.length > MOST_READ) return [];
  const shares = stays.sort((p, q) => p - q).map((k) => [places[k]![0] / lengthA, places[k]![1] / lengthB] as const);
  const lines = shares.map(([a, b]) => thousandths([...pointAt(column.left, a), ...pointAt(column.right, b)]));
  // Where an edge comes back to a line, the line says something else than was read.
  const { rungs } = rungsOf(column, lines);
  const isSaid = rungs.length === shares.length && rungs.every(([a, b], n) => Math.hypot(a - shares[n]![0], b - shares[n]![1]) < SAID);
  return isSaid ? lines : [];
}

/** A line means the places on both edges that it was read from where it meets these to within this share of the edges. */
const SAID = 0.02;

/** Throws that would need more angle lines than this lean for reasons of their own: by chance, or cut by something else. */
const MOST_READ = 3;

function thousandths(line: readonly number[]): AngleLine {
  return line.map((v) => Math.round(v * 1000) / 1000) as unknown as AngleLine;
}

/** A throw ends no farther on along an edge than this from where the one before it did, mm. */
const ON = 5;

/** Gives for a place the way along a path up to its point nearest to there, not far from `around`, and how far off that is, mm. */
function nearestOn(path: Float64Array): (x: number, y: number, around?: number) => { readonly way: number; readonly off: number } {
  const walked = walkedOf(path);
  return (x, y, around) => {
    let [way, off] = [around ?? 0, Infinity];
    for (let k = 1; k < walked.length; k++) {
      const [ax, ay] = [path[k * 2 - 2]!, path[k * 2 - 1]!];
      const [dx, dy] = [path[k * 2]! - ax, path[k * 2 + 1]! - ay];
      const square = dx * dx + dy * dy;
      const t = square > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / square)) : 0;
      if (around !== undefined && (walked[k]! < around - ON || walked[k - 1]! > around + ON)) continue;
      const d = Math.hypot(ax + t * dx - x, ay + t * dy - y);
      if (d < off) [off, way] = [d, walked[k - 1]! + t * (walked[k]! - walked[k - 1]!)];
    }
    return { way, off };
  };
}

function walkedOf(path: Float64Array): Float64Array {
  const walked = new Float64Array(path.length / 2);
  for (let k = 1; k < walked.length; k++)
    walked[k] = walked[k - 1]! + Math.hypot(path[k * 2]! - path[k * 2 - 2]!, path[k * 2 + 1]! - path[k * 2 - 1]!);
  return walked;
}

/** So much of a line's length beyond its ends still counts as on it. */
const AT_END = 0.05;

/**
 * The share of an edge where a line crosses it, nearest to its middle where it does more than once; where only the line taken on beyond its ends
 * does, the share nearest to these; else that of the edge's point nearest to the line.
 */
function shareAt(path: Float64Array, [x0, y0, x1, y1]: AngleLine): number {
  const walked = walkedOf(path);
  const total = walked[walked.length - 1]!;
  if (!(total > 0)) return 0;
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const reach = (0.5 + AT_END) * Math.hypot(x1 - x0, y1 - y0);
  const sideOf = (k: number): number => (x1 - x0) * (path[k * 2 + 1]! - y0) - (y1 - y0) * (path[k * 2]! - x0);
  let [best, least] = [0, Infinity];
  let [nearest, nearestOff] = [0, Infinity];
  for (let k = 0; k < walked.length; k++) {
    const off = Math.min(Math.hypot(path[k * 2]! - x0, path[k * 2 + 1]! - y0), Math.hypot(path[k * 2]! - x1, path[k * 2 + 1]! - y1));
    if (off < nearestOff) [nearest, nearestOff] = [walked[k]!, off];
    if (k === 0) continue;
    const [before, here] = [sideOf(k - 1), sideOf(k)];
    if (before > 0 === here > 0 || before === here) continue;
    const t = before / (before - here);
    const [x, y] = [path[k * 2 - 2]! + t * (path[k * 2]! - path[k * 2 - 2]!), path[k * 2 - 1]! + t * (path[k * 2 + 1]! - path[k * 2 - 1]!)];
    const fromMiddle = Math.hypot(x - mx, y - my);
    // Whatever lies beyond the ends comes after all that does not.
    const d = fromMiddle + (fromMiddle > reach ? reach : 0);
    if (d < least) [least, best] = [d, walked[k - 1]! + t * (walked[k]! - walked[k - 1]!)];
  }
  return (least < Infinity ? best : nearest) / total;
}

function pointAt(path: Float64Array, share: number): [number, number] {
  const walked = walkedOf(path);
  const at = share * lengthOfPath(path);
  let k = 1;
  while (k < walked.length - 1 && walked[k]! < at) k++;
  const step = walked[k]! - walked[k - 1]!;
  const t = step > 0 ? Math.max(0, Math.min(1, (at - walked[k - 1]!) / step)) : 0;
  return [path[k * 2 - 2]! + t * (path[k * 2]! - path[k * 2 - 2]!), path[k * 2 - 1]! + t * (path[k * 2 + 1]! - path[k * 2 - 1]!)];
}
