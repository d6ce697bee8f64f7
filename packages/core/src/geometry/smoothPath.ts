/**
 * The path (xyxy, open) without the points that lie within `tolerance` mm of the straight between those that stay; its ends stay (D. H. Douglas
 * and T. K. Peucker, Algorithms for the reduction of the number of points, 1973). The library's own leaves paths of fewer than five points as
 * they are. O(n log n) mostly, O(n²) at worst.
 */
export function thinPath(path: Float64Array, tolerance: number): Float64Array {
  const n = path.length / 2;
  if (n < 3) return path;
  const stays = new Uint8Array(n);
  stays[0] = stays[n - 1] = 1;
  const open: [number, number][] = [[0, n - 1]];
  for (let part = open.pop(); part !== undefined; part = open.pop()) {
    const [from, to] = part;
    let worst = -1;
    let most = tolerance;
    for (let k = from + 1; k < to; k++) {
      const d = distanceFromStraight(path, k, from, to);
      if (d > most) [most, worst] = [d, k];
    }
    if (worst < 0) continue;
    stays[worst] = 1;
    open.push([from, worst], [worst, to]);
  }
  return Float64Array.from(path.filter((_, k) => stays[k >> 1] === 1));
}

/** Distance of point k from the straight between two others of a path, mm; from either where these are one. */
function distanceFromStraight(path: Float64Array, k: number, from: number, to: number): number {
  const [ax, ay] = [path[from * 2]!, path[from * 2 + 1]!];
  const [dx, dy] = [path[to * 2]! - ax, path[to * 2 + 1]! - ay];
  const [px, py] = [path[k * 2]! - ax, path[k * 2 + 1]! - ay];
  const length = dx * dx + dy * dy;
  const t = length > 0 ? Math.max(0, Math.min(1, (px * dx + py * dy) / length)) : 0;
  return Math.hypot(px - t * dx, py - t * dy);
}

/** The same of a closed ring (xyxy, its first point is not said again); one that would be left with too few points stays as it is. */
export function thinRing(ring: Float64Array, tolerance: number): Float64Array {
  const closed = thinPath(Float64Array.from([...ring, ring[0]!, ring[1]!]), tolerance);
  return closed.length >= 8 ? closed.slice(0, -2) : ring;
}

/** Points between two of a smooth path, and the turn (as the cosine of 35°) above which a point is a corner. */
const BETWEEN = 4;
const CORNER = Math.cos((35 * Math.PI) / 180);

/**
 * A smooth curve (xyxy) through the points of an open path, bent only at its corners: what a run's penetrations were set along. A cubic through
 * each four points (E. Catmull and R. Rom, A class of local interpolating splines, 1974). Fewer than three points stay as they are.
 */
export function smoothPath(path: Float64Array): Float64Array {
  const n = path.length / 2;
  if (n < 3) return path;
  const isCorner = (k: number): boolean => {
    if (k <= 0 || k >= n - 1) return true;
    const [ax, ay] = [path[k * 2]! - path[k * 2 - 2]!, path[k * 2 + 1]! - path[k * 2 - 1]!];
    const [bx, by] = [path[k * 2 + 2]! - path[k * 2]!, path[k * 2 + 3]! - path[k * 2 + 1]!];
    return ax * bx + ay * by < CORNER * Math.hypot(ax, ay) * Math.hypot(bx, by);
  };
  const out: number[] = [path[0]!, path[1]!];
  for (let k = 0; k + 1 < n; k++) {
    // Beyond a corner the curve knows nothing: the point there stands for the one after it.
    const before = isCorner(k) ? k : k - 1;
    const after = isCorner(k + 1) ? k + 1 : k + 2;
    for (let s = 1; s <= BETWEEN; s++) {
      const t = s / BETWEEN;
      for (let axis = 0; axis < 2; axis++) {
        const [p, a, b, q] = [path[before * 2 + axis]!, path[k * 2 + axis]!, path[k * 2 + 2 + axis]!, path[after * 2 + axis]!];
        out.push(0.5 * (2 * a + (b - p) * t + (2 * p - 5 * a + 4 * b - q) * t * t + (3 * a - p - 3 * b + q) * t * t * t));
      }
    }
  }
  return Float64Array.from(out);
}
