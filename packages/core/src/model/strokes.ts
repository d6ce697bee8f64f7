import type { Program } from './program.ts';

/** A turn sharper than this (as the cosine of 60°) ends a stroke. */
const SHARP = 0.5;
/** So does a turn of 25° between stitches long enough (mm) that rounding to 0.1 mm does not make it. */
const BENT = Math.cos((25 * Math.PI) / 180);
const SURE_LENGTH = 0.8;

/**
 * The way of the needle cut where it turns: what a row of a fill, a throw of a satin or a straight of a run is made of. Stroke k goes from
 * penetration `first[k]` to penetration `last[k]`, and the next starts where it ends.
 */
export interface Strokes {
  readonly count: number;
  readonly first: Int32Array;
  readonly last: Int32Array;
  /** Unit vector from the first to the last penetration; 0, 0 where these are one place. */
  readonly dx: Float64Array;
  readonly dy: Float64Array;
  /** Distance from the first to the last penetration, mm. */
  readonly length: Float64Array;
  /** Greatest distance of a penetration from the straight line between its ends, mm. */
  readonly bow: Float64Array;
}

/** Cuts the stitches between the penetrations `first` and `last` of a program into strokes. Stitches without length cut nothing. O(rows). */
export function cutStrokes({ x, y }: Program, first: number, last: number): Strokes {
  const ends: number[] = [];
  let ux = 0;
  let uy = 0;
  let before = 0;
  for (let i = first + 1; i <= last; i++) {
    const sx = x[i]! - x[i - 1]!;
    const sy = y[i]! - y[i - 1]!;
    const length = Math.sqrt(sx * sx + sy * sy);
    if (length === 0) continue;
    const vx = sx / length;
    const vy = sy / length;
    const cos = ux * vx + uy * vy;
    const isTurn = before > 0 && (cos < SHARP || (cos < BENT && length >= SURE_LENGTH && before >= SURE_LENGTH));
    if (isTurn) ends.push(i - 1);
    ux = vx;
    uy = vy;
    before = length;
  }
  if (last > first) ends.push(last);
  const count = ends.length;
  const strokes: Strokes = {
    count,
    first: new Int32Array(count),
    last: Int32Array.from(ends),
    dx: new Float64Array(count),
    dy: new Float64Array(count),
    length: new Float64Array(count),
    bow: new Float64Array(count),
  };
  for (let k = 0; k < count; k++) {
    const a = k === 0 ? first : ends[k - 1]!;
    const b = ends[k]!;
    strokes.first[k] = a;
    const cx = x[b]! - x[a]!;
    const cy = y[b]! - y[a]!;
    const length = Math.sqrt(cx * cx + cy * cy);
    strokes.length[k] = length;
    if (length > 0) {
      strokes.dx[k] = cx / length;
      strokes.dy[k] = cy / length;
    }
    let bow = 0;
    for (let i = a + 1; i < b; i++) {
      const px = x[i]! - x[a]!;
      const py = y[i]! - y[a]!;
      const off = length > 0 ? Math.abs(px * strokes.dy[k]! - py * strokes.dx[k]!) : Math.sqrt(px * px + py * py);
      if (off > bow) bow = off;
    }
    strokes.bow[k] = bow;
  }
  return strokes;
}
