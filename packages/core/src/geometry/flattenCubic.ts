/** How far a flattened curve may leave the true one: a tenth of the finest step a needle can be told apart by on cloth. */
export const CURVE_TOLERANCE = 0.01;

/**
 * Appends to `out` (x, y, x, y…) the points of a cubic Bézier curve after its first, close enough that no chord leaves the curve by more than
 * `tolerance`. The step count comes from the second differences (a bound of the chord error), so degenerate curves give one chord.
 */
export function flattenCubic(
  out: number[],
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  x3: number,
  y3: number,
  tolerance = CURVE_TOLERANCE,
): void {
  const bend = Math.max(Math.hypot(x0 - 2 * x1 + x2, y0 - 2 * y1 + y2), Math.hypot(x1 - 2 * x2 + x3, y1 - 2 * y2 + y3));
  const steps = Math.min(2000, Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / tolerance))));
  for (let k = 1; k <= steps; k++) {
    const t = k / steps;
    const s = 1 - t;
    const a = s * s * s;
    const b = 3 * s * s * t;
    const c = 3 * s * t * t;
    const d = t * t * t;
    out.push(a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3);
  }
}
