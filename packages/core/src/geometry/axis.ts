/** Degrees in [0, 180) of a direction, which stitches have without a sense. */
export function axisAngle(dx: number, dy: number): number {
  const degrees = (Math.atan2(dy, dx) * 180) / Math.PI;
  return ((degrees % 180) + 180) % 180;
}

/** The least difference of two axes, degrees from 0 to 90. */
export function axisDifference(a: number, b: number): number {
  const d = Math.abs((((a - b) % 180) + 180) % 180);
  return Math.min(d, 180 - d);
}

/**
 * The mean axis of vectors, each weighing as much as it is long: angles are doubled before they are averaged, so that a direction and its
 * opposite are one (K. V. Mardia and P. E. Jupp, Directional Statistics, 2000, section 1.1). No vectors give 0 and an evenness of 0.
 */
export function meanAxis(x: readonly number[], y: readonly number[]): { angle: number; evenness: number } {
  let c = 0;
  let s = 0;
  let total = 0;
  for (let k = 0; k < x.length; k++) {
    const length = Math.hypot(x[k]!, y[k]!);
    if (length === 0) continue;
    // cos 2θ and sin 2θ, times the length.
    c += (x[k]! * x[k]! - y[k]! * y[k]!) / length;
    s += (2 * x[k]! * y[k]!) / length;
    total += length;
  }
  if (total === 0) return { angle: 0, evenness: 0 };
  const half = Math.atan2(s, c) / 2;
  return { angle: axisAngle(Math.cos(half), Math.sin(half)), evenness: Math.hypot(c, s) / total };
}
