/** Length of a lock's stitches, mm. Common practice. */
const LOCK_STITCH = 0.7;

/**
 * Penetrations (xyxy) of a lock at a point: to and fro twice toward (`towardX`, `towardY`), ending where it began. Where both points are one,
 * it runs along x.
 */
export function generateLock(x: number, y: number, towardX: number, towardY: number): Float64Array {
  const length = Math.hypot(towardX - x, towardY - y);
  const ax = x + (length > 0 ? (LOCK_STITCH * (towardX - x)) / length : LOCK_STITCH);
  const ay = y + (length > 0 ? (LOCK_STITCH * (towardY - y)) / length : 0);
  return Float64Array.of(ax, ay, x, y, ax, ay, x, y);
}
