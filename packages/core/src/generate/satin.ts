import { resamplePath } from '../geometry/path.ts';
import { splitStitch } from './splitStitch.ts';

export interface SatinSpec {
  /** Same-direction pitch, mm: between successive penetrations on one edge, on the outer of the two. */
  readonly spacing: number;
  /** Added on each side, square to the column, mm. */
  readonly pull: number;
  /** A stitch longer than this is split, mm. */
  readonly splitLength: number;
}

/** How finely the rails are sampled: stations along the column. */
const STATIONS = 400;
/** Where one edge is shorter than this share of the other, every second penetration on it is drawn in, by this share of the width. */
const CROWDED = 0.6;
const DRAWN_IN = 0.25;

/**
 * Penetrations (xyxy) of a satin column between two rails (xyxy, running the same way), zigzag from the first point of `left`. Rails may
 * meet in a point at either end.
 */
export function generateSatin(left: Float64Array, right: Float64Array, spec: SatinSpec): Float64Array {
  const a = resamplePath(left, STATIONS + 1);
  const b = resamplePath(right, STATIONS + 1);
  // Way along the longer edge up to each station, and that of either edge by itself.
  const way = new Float64Array(STATIONS + 1);
  const stepA = new Float64Array(STATIONS + 1);
  const stepB = new Float64Array(STATIONS + 1);
  for (let k = 1; k <= STATIONS; k++) {
    stepA[k] = Math.hypot(a[k * 2]! - a[k * 2 - 2]!, a[k * 2 + 1]! - a[k * 2 - 1]!);
    stepB[k] = Math.hypot(b[k * 2]! - b[k * 2 - 2]!, b[k * 2 + 1]! - b[k * 2 - 1]!);
    way[k] = way[k - 1]! + Math.max(stepA[k]!, stepB[k]!);
  }
  const count = Math.max(2, Math.round((2 * way[STATIONS]!) / spec.spacing));
  const out: number[] = [];
  let station = 0;
  for (let n = 0; n <= count; n++) {
    const wanted = (way[STATIONS]! * n) / count;
    while (station < STATIONS - 1 && way[station + 1]! < wanted) station++;
    const step = way[station + 1]! - way[station]!;
    const t = step > 0 ? Math.min(1, (wanted - way[station]!) / step) : 0;
    const ax = mix(a, station, 0, t);
    const ay = mix(a, station, 1, t);
    const bx = mix(b, station, 0, t);
    const by = mix(b, station, 1, t);
    const isLeft = n % 2 === 0;
    const own = isLeft ? stepA[station + 1]! : stepB[station + 1]!;
    const other = isLeft ? stepB[station + 1]! : stepA[station + 1]!;
    const width = Math.hypot(bx - ax, by - ay);
    const isShort = own < CROWDED * other && Math.floor(n / 2) % 2 === 1 && width > 1;
    const reach = isShort ? -DRAWN_IN * width : spec.pull;
    const share = width > 0 ? reach / width : 0;
    const px = isLeft ? ax - share * (bx - ax) : bx + share * (bx - ax);
    const py = isLeft ? ay - share * (by - ay) : by + share * (by - ay);
    if (out.length >= 2) splitOver(out, px, py, spec.splitLength, n);
    out.push(px, py);
  }
  return Float64Array.from(out);
}

function mix(rail: Float64Array, station: number, axis: number, t: number): number {
  const from = rail[station * 2 + axis]!;
  return from + t * (rail[station * 2 + 2 + axis]! - from);
}

function splitOver(out: number[], px: number, py: number, splitLength: number, n: number): void {
  const x0 = out[out.length - 2]!;
  const y0 = out[out.length - 1]!;
  for (const t of splitStitch(Math.hypot(px - x0, py - y0), splitLength, Math.floor(n / 2)))
    out.push(x0 + t * (px - x0), y0 + t * (py - y0));
}
