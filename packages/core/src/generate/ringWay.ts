import { lengthOfPath } from '../geometry/path.ts';
import { thinPath } from '../geometry/smoothPath.ts';

/** How far a way along a ring may cut its bends, mm. */
const CUT_OF_BEND = 0.08;
/** Ways between places nearer to an edge than this (mm) keep to it. */
const NEAR_EDGE = 3;

/** The point of a ring (xyxy) that is nearest to a place, and how far it is, mm. */
function nearestCorner(ring: Float64Array, x: number, y: number): { index: number; distance: number } {
  let index = 0;
  let distance = Infinity;
  for (let i = 0; i < ring.length; i += 2) {
    const d = Math.hypot(ring[i]! - x, ring[i + 1]! - y);
    if (d < distance) [index, distance] = [i / 2, d];
  }
  return { index, distance };
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
