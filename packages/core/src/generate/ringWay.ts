import { lengthOfPath } from '../geometry/path.ts';
import { thinPath } from '../geometry/smoothPath.ts';

/** How far a way along a ring may cut its bends, mm. */
const CUT_OF_BEND = 0.08;
/** Ways between places nearer to an edge than this (mm) keep to it. */
const NEAR_EDGE = 3;

/** The point of a ring (xyxy) that is nearest to a place, and how far it is, mm. */
function nearestCorner(ring: Float64Array, x: number, y: number): { index: number; distance: number } {
  let at = 0;
  let least = Infinity;
  for (let i = 0; i < ring.length; i += 2) {
    const [dx, dy] = [ring[i]! - x, ring[i + 1]! - y];
    const square = dx * dx + dy * dy;
    if (square >= least) continue;
    least = square;
    at = i;
  }
  return { index: at / 2, distance: Math.sqrt(least) };
}

/** The shorter way round a ring from one of its points to another, between two places. */
function alongRing(ring: Float64Array, from: number, to: number, x0: number, y0: number, x1: number, y1: number): Float64Array {
  const n = ring.length / 2;
  const ways = [1, -1].map((step) => {
    const points = [x0, y0];
    for (let k = from; ; k = (k + step + n) % n) {
      points.push(ring[k * 2]!, ring[k * 2 + 1]!);
      if (k === to) break;
    }
    points.push(x1, y1);
    return Float64Array.from(points);
  });
  return thinPath(lengthOfPath(ways[0]!) <= lengthOfPath(ways[1]!) ? ways[0]! : ways[1]!, CUT_OF_BEND);
}

/** The way along one of the edges of a shape between two places that both lie near it; none where they do not. */
export function alongEdges(edges: readonly Float64Array[], x0: number, y0: number, x1: number, y1: number): Float64Array | undefined {
  for (const ring of edges) {
    const [from, to] = [nearestCorner(ring, x0, y0), nearestCorner(ring, x1, y1)];
    if (from.distance <= NEAR_EDGE && to.distance <= NEAR_EDGE) return alongRing(ring, from.index, to.index, x0, y0, x1, y1);
  }
  return undefined;
}

/** The length of {@link alongEdges} between any two of some places (xyxy), mm, by their numbers; none where they do not lie near one edge. O(1) each, once the edges were gone over for a place. */
export function edgeLengths(edges: readonly Float64Array[], places: Float64Array): (from: number, to: number) => number | undefined {
  const lengths = edges.map(lengthsUpTo);
  const known: (readonly { index: number; distance: number }[] | undefined)[] = [];
  const onRings = (k: number): readonly { index: number; distance: number }[] =>
    (known[k] ??= edges.map((ring) => nearestCorner(ring, places[2 * k]!, places[2 * k + 1]!)));
  return (from, to) => {
    const [a, b] = [onRings(from), onRings(to)];
    let n = 0;
    while (n < edges.length && (a[n]!.distance > NEAR_EDGE || b[n]!.distance > NEAR_EDGE)) n++;
    if (n === edges.length) return undefined;
    const upTo = lengths[n]!;
    const arc = Math.abs(upTo[a[n]!.index]! - upTo[b[n]!.index]!);
    return a[n]!.distance + Math.min(arc, upTo[upTo.length - 1]! - arc) + b[n]!.distance;
  };
}

/** How far round a ring each of its points lies, mm; and all of it. */
function lengthsUpTo(ring: Float64Array): Float64Array {
  const n = ring.length / 2;
  const upTo = new Float64Array(n + 1);
  for (let k = 1; k <= n; k++) {
    const [i, j] = [(k - 1) * 2, (k % n) * 2];
    upTo[k] = upTo[k - 1]! + Math.hypot(ring[j]! - ring[i]!, ring[j + 1]! - ring[i + 1]!);
  }
  return upTo;
}
