import { orient2d } from 'robust-predicates';

/**
 * A place where two open paths (xyxy) cross each other, or `undefined` where they do not; paths that only touch do not cross, unless `mayTouch`.
 * Sides are told by robust predicates. O(n·m), with boxes that keep most pairs apart.
 */
export function findCrossing(a: Float64Array, b: Float64Array, mayTouch = false): readonly [x: number, y: number] | undefined {
  const isApart = (p: number, q: number): boolean => (mayTouch ? p * q > 0 : p * q >= 0);
  for (let i = 0; i + 3 < a.length; i += 2) {
    const [x0, y0, x1, y1] = [a[i]!, a[i + 1]!, a[i + 2]!, a[i + 3]!];
    const [left, right, low, high] = [Math.min(x0, x1), Math.max(x0, x1), Math.min(y0, y1), Math.max(y0, y1)];
    for (let k = 0; k + 3 < b.length; k += 2) {
      const [x2, y2, x3, y3] = [b[k]!, b[k + 1]!, b[k + 2]!, b[k + 3]!];
      if (Math.max(x2, x3) < left || Math.min(x2, x3) > right || Math.max(y2, y3) < low || Math.min(y2, y3) > high) continue;
      const [from, to] = [orient2d(x0, y0, x1, y1, x2, y2), orient2d(x0, y0, x1, y1, x3, y3)];
      if (isApart(from, to) || isApart(orient2d(x2, y2, x3, y3, x0, y0), orient2d(x2, y2, x3, y3, x1, y1))) continue;
      const t = from === to ? 0 : from / (from - to);
      return [x2 + t * (x3 - x2), y2 + t * (y3 - y2)];
    }
  }
  return undefined;
}
