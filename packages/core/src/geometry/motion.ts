/**
 * A motion of the plane that keeps lengths: (x, y) goes to (a·x + c·y + e, b·x + d·y + f), with b = ∓c and a = ±d. Turns, mirrors and moves; mm, y up.
 */
export type Motion = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** Whether a motion turns the plane over, so that left becomes right. */
export const isMirror = ([a, b, c, d]: Motion): boolean => a * d - b * c < 0;

/** How far from keeping lengths a motion may be, as a share. */
const SLIP = 1e-6;

/** Whether six numbers keep lengths, rounding aside. */
export function keepsLengths([a, b, c, d]: Motion): boolean {
  return Math.abs(Math.hypot(a, b) - 1) < SLIP && Math.abs(Math.hypot(c, d) - 1) < SLIP && Math.abs(a * c + b * d) < SLIP;
}

/** Mirrors across the y axis (`x`: left and right change places) or the x axis (`y`), then turns by degrees counter-clockwise, about a middle, then moves. */
export function motionOf(
  middle: readonly [x: number, y: number],
  { turn = 0, mirror, dx = 0, dy = 0 }: { turn?: number; mirror?: 'x' | 'y' | undefined; dx?: number; dy?: number },
): Motion {
  // Quarter turns are exact: what lies on a grid stays on it.
  const quarter = ((turn % 360) + 360) % 360;
  const [cos, sin] =
    quarter % 90 === 0
      ? ([
          [1, 0],
          [0, 1],
          [-1, 0],
          [0, -1],
        ][quarter / 90] as [number, number])
      : [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const [sx, sy] = [mirror === 'x' ? -1 : 1, mirror === 'y' ? -1 : 1];
  const [a, b, c, d] = [cos * sx, sin * sx, -sin * sy, cos * sy];
  const [x, y] = middle;
  return [a, b, c, d, x - a * x - c * y + dx, y - b * x - d * y + dy];
}

/** Points (xyxy) after a motion, in whole thousandths. */
export function moved(motion: Motion, points: Iterable<number>): number[] {
  const out = Array.from(points);
  for (let k = 0; k + 1 < out.length; k += 2) [out[k], out[k + 1]] = movedPoint(motion, out[k]!, out[k + 1]!);
  return out;
}

export function movedPoint([a, b, c, d, e, f]: Motion, x: number, y: number): [number, number] {
  return [thousandth(a * x + c * y + e), thousandth(b * x + d * y + f)];
}

// Adding 0 makes −0 a plain 0.
const thousandth = (v: number): number => Math.round(v * 1000) / 1000 + 0;

/** An angle (degrees, of a line without direction) after a motion, in [0, 180). */
export function movedAngle([a, b, c, d]: Motion, angle: number): number {
  const [x, y] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const degrees = (Math.atan2(b * x + d * y, a * x + c * y) * 180) / Math.PI;
  return (((Math.round(degrees * 1e4) / 1e4) % 180) + 180) % 180;
}
