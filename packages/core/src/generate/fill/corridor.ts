import FlatQueue from 'flatqueue';
import type { Spans } from './spans.ts';

/** Ways through what was sewn count so many times as long: thread on a finished cover shows. */
const SHOWN = 4;
/** A way keeps this far from the edge (mm) where the shape is broad enough, but leaves so much of a narrow place open. */
const FROM_EDGE = 0.5;
const OPEN_SHARE = 0.3;

/** The spans on the way from one to others, cheapest first: `before[i]` leads back to the start. */
export interface Exploration {
  readonly target: number;
  readonly before: ReadonlyMap<number, number>;
}

/**
 * Looks for the nearest span that `isWanted` takes, from a place on a span, going from line to line inside the shape (Dijkstra's algorithm; the
 * way through spans that `isSewn` says are finished counts more). Gives none where no way leads to one: the shape is in parts.
 */
export function explore(
  spans: Spans,
  from: number,
  u: number,
  isWanted: (span: number, u: number) => boolean,
  isSewn: (span: number) => boolean,
): Exploration | undefined {
  const cost = new Map<number, number>([[from, 0]]);
  const place = new Map<number, number>([[from, u]]);
  const before = new Map<number, number>();
  const closed = new Set<number>();
  const queue = new FlatQueue<number>();
  queue.push(from, 0);
  const { lines, row, a, b, up, down } = spans;
  while (queue.length > 0) {
    const at = queue.pop()!;
    if (closed.has(at)) continue;
    closed.add(at);
    const here = place.get(at)!;
    if (isWanted(at, here)) return { target: at, before };
    for (const next of [...up[at]!, ...down[at]!]) {
      if (closed.has(next)) continue;
      const there = Math.max(Math.max(a[at]!, a[next]!), Math.min(Math.min(b[at]!, b[next]!), here));
      const [k, n] = [row[at]!, row[next]!];
      const way = Math.hypot(
        lines.x[k]! + here * lines.dx[k]! - lines.x[n]! - there * lines.dx[n]!,
        lines.y[k]! + here * lines.dy[k]! - lines.y[n]! - there * lines.dy[n]!,
      );
      const total = cost.get(at)! + way * (isSewn(next) ? SHOWN : 1);
      if (total >= (cost.get(next) ?? Infinity)) continue;
      cost.set(next, total);
      place.set(next, there);
      before.set(next, at);
      queue.push(next, total);
    }
  }
  return undefined;
}

/**
 * The shortest way (xyxy) between two points on spans, inside the spans that an exploration went through: a string pulled tight between the
 * openings from span to span ("funnel algorithm": D. T. Lee and F. P. Preparata, Euclidean shortest paths in the presence of rectilinear
 * barriers, 1984). O(spans on the way) in all but odd shapes.
 */
export function pullTight(
  spans: Spans,
  { target, before }: Exploration,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  fromEdge = FROM_EDGE,
): Float64Array {
  const chain = [target];
  for (let at = before.get(target); at !== undefined; at = before.get(at)) chain.push(at);
  chain.reverse();
  const left: number[] = [x0, y0];
  const right: number[] = [x0, y0];
  for (let n = 1; n < chain.length; n++) {
    const [i, j] = [chain[n - 1]!, chain[n]!];
    const [low, high] = openingOf(spans, i, j);
    const margin = Math.min(fromEdge, ((1 - OPEN_SHARE) / 2) * (high - low));
    const [ax, ay] = between(spans, i, j, low + margin);
    const [bx, by] = between(spans, i, j, high - margin);
    // Going to a higher line the lower u is on the left.
    if (spans.row[j]! > spans.row[i]!) {
      left.push(ax, ay);
      right.push(bx, by);
    } else {
      left.push(bx, by);
      right.push(ax, ay);
    }
  }
  left.push(x1, y1);
  right.push(x1, y1);
  return funnel(left, right);
}

/** From where to where two neighbouring spans open to each other, halfway between their lines: there an edge that goes on lies between its places. */
function openingOf({ row, a, b, up, down }: Spans, i: number, j: number): [number, number] {
  const [lower, upper] = row[j]! > row[i]! ? [i, j] : [j, i];
  const goesOn = up[lower]!.length === 1 && down[upper]!.length === 1;
  const end = (p: number, q: number, inner: number): number => (goesOn && Math.abs(p - q) < SAME_EDGE ? (p + q) / 2 : inner);
  return [end(a[i]!, a[j]!, Math.max(a[i]!, a[j]!)), end(b[i]!, b[j]!, Math.min(b[i]!, b[j]!))];
}

/** Ends of spans on neighbouring lines farther apart than this (mm) are a step in the edge. */
const SAME_EDGE = 4;

/** The point at u on the line halfway between two neighbouring ones. */
function between({ lines, row }: Spans, i: number, j: number, u: number): [number, number] {
  const [k, n] = [row[i]!, row[j]!];
  return [
    (lines.x[k]! + u * lines.dx[k]! + lines.x[n]! + u * lines.dx[n]!) / 2,
    (lines.y[k]! + u * lines.dy[k]! + lines.y[n]! + u * lines.dy[n]!) / 2,
  ];
}

/**
 * State: the apex that the string is held at, and the two sides of what can be seen from it through the openings so far. Where an opening closes
 * one side over the other, the string bends there, which becomes the apex, and the walk goes on from its opening. Each restart is at a later
 * opening than the apex before, so it ends.
 */
function funnel(left: readonly number[], right: readonly number[]): Float64Array {
  const count = left.length / 2;
  const out: number[] = [left[0]!, left[1]!];
  let [ax, ay] = [left[0]!, left[1]!];
  let [lx, ly, rx, ry] = [ax, ay, ax, ay];
  let leftAt = 0;
  let rightAt = 0;
  for (let n = 1; n < count; n++) {
    const [nlx, nly, nrx, nry] = [left[n * 2]!, left[n * 2 + 1]!, right[n * 2]!, right[n * 2 + 1]!];
    if (cross(ax, ay, rx, ry, nrx, nry) >= 0) {
      if ((ax === rx && ay === ry) || cross(ax, ay, lx, ly, nrx, nry) < 0) {
        [rx, ry] = [nrx, nry];
        rightAt = n;
      } else {
        out.push(lx, ly);
        [ax, ay, rx, ry] = [lx, ly, lx, ly];
        n = rightAt = leftAt;
        continue;
      }
    }
    if (cross(ax, ay, lx, ly, nlx, nly) <= 0) {
      if ((ax === lx && ay === ly) || cross(ax, ay, rx, ry, nlx, nly) > 0) {
        [lx, ly] = [nlx, nly];
        leftAt = n;
      } else {
        out.push(rx, ry);
        [ax, ay, lx, ly] = [rx, ry, rx, ry];
        n = leftAt = rightAt;
        continue;
      }
    }
  }
  out.push(left[left.length - 2]!, left[left.length - 1]!);
  return Float64Array.from(out);
}

/** Twice the area of a triangle, positive where c lies to the left of the way from a to b. */
function cross(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
  return (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
}
