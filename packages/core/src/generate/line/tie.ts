/** How a thread's end is locked. */
export const TIE_STYLES = ['to-and-fro', 'triangle', 'none'] as const;
export type TieStyle = (typeof TIE_STYLES)[number];

/** Length of a lock's stitches, mm. Common practice. */
const LOCK_STITCH = 0.7;

/**
 * Penetrations (xyxy) of a lock at a point, ending where it began: to and fro twice toward (`towardX`, `towardY`), or round a small triangle one
 * corner of which lies there. Where both points are one, it runs along x.
 */
export function generateLock(x: number, y: number, towardX: number, towardY: number, style: TieStyle = 'to-and-fro'): Float64Array {
  if (style === 'none') return new Float64Array(0);
  const length = Math.hypot(towardX - x, towardY - y);
  const dx = length > 0 ? (LOCK_STITCH * (towardX - x)) / length : LOCK_STITCH;
  const dy = length > 0 ? (LOCK_STITCH * (towardY - y)) / length : 0;
  const [ax, ay] = [x + dx, y + dy];
  if (style === 'to-and-fro') return Float64Array.of(ax, ay, x, y, ax, ay, x, y);
  // The third corner lies 60° aside, so that all three sides are one stitch long.
  const [bx, by] = [x + dx / 2 - (Math.sqrt(3) / 2) * dy, y + dy / 2 + (Math.sqrt(3) / 2) * dx];
  return Float64Array.of(ax, ay, bx, by, x, y, ax, ay, x, y);
}
