import { lengthOfPath, resamplePath } from '../../geometry/path.ts';
import { splitStitch } from './splitStitch.ts';

export interface SatinSpec {
  /** Same-direction pitch, mm: between successive penetrations on one edge, on the outer of the two. */
  readonly spacing: number;
  /** Added on each side, square to the column, mm. */
  readonly pull: number;
  /** A stitch longer than this is split, mm. */
  readonly splitLength: number;
  /**
   * Places that belong together on both edges besides their ends, as shares 0…1 of the length of either, ascending: throws lean as they say in
   * between.
   */
  readonly rungs?: readonly (readonly [left: number, right: number])[];
}

/** How finely the rails are sampled, mm, and with how many stations along the column at least and at most. */
const STATION = 0.3;
const LEAST_STATIONS = 48;
const MOST_STATIONS = 20_000;
/** Where one edge is shorter than this share of the other, every second penetration on it is drawn in, by this share of the width. */
const CROWDED = 0.6;
const DRAWN_IN = 0.25;
/** Throws are no shorter than this (mm), so that tips hold. Common practice: a stitch under 0.4 to 0.5 mm is none. */
const LEAST_THROW = 0.5;
/** A column that closes on itself goes on over its start by so many throws. */
const OVERLAP_THROWS = 6;
/** Ends nearer than this (mm) are one. */
const CLOSED = 0.05;

/**
 * Penetrations (xyxy) of a satin column between two rails (xyxy, running the same way), zigzag from the first point of `left`. Rails may
 * meet in a point at either end; where they close on themselves the column does, and overlaps its start.
 *
 * @throws when the pitch or the longest stitch is not positive, or a rail has no point.
 */
export function generateSatin(left: Float64Array, right: Float64Array, spec: SatinSpec): Float64Array {
  if (!(spec.spacing >= LEAST_PITCH)) throw new RangeError(`a satin needs a spacing of ${LEAST_PITCH} mm or more, got ${spec.spacing}`);
  if (!(spec.splitLength >= 1)) throw new RangeError(`a satin is split from 1 mm up, got ${spec.splitLength}`);
  const longest = Math.max(lengthOfPath(left), lengthOfPath(right));
  const stations = Math.max(LEAST_STATIONS, Math.min(MOST_STATIONS, Math.ceil(longest / STATION)));
  const [a, b] = pairStations(left, right, stations, spec.rungs ?? []);
  // Way along the longer edge up to each station, square to the throws; and that of either edge by itself as it runs.
  const way = new Float64Array(stations + 1);
  const stepA = new Float64Array(stations + 1);
  const stepB = new Float64Array(stations + 1);
  for (let k = 1; k <= stations; k++) {
    stepA[k] = Math.hypot(a[k * 2]! - a[k * 2 - 2]!, a[k * 2 + 1]! - a[k * 2 - 1]!);
    stepB[k] = Math.hypot(b[k * 2]! - b[k * 2 - 2]!, b[k * 2 + 1]! - b[k * 2 - 1]!);
    way[k] = way[k - 1]! + Math.max(stepA[k]! * squareShare(a, a, b, k), stepB[k]! * squareShare(b, a, b, k));
  }
  const isClosed = isRing(a) && isRing(b) && way[stations]! > OVERLAP_THROWS * spec.spacing;
  const count = Math.max(2, Math.round((2 * way[stations]!) / spec.spacing));
  const out: number[] = [];
  let station = 0;
  for (let n = 0; n <= count + (isClosed ? OVERLAP_THROWS : 0); n++) {
    const wanted = (way[stations]! * (n <= count ? n : n - count)) / count;
    if (n === count + 1) station = 0;
    while (station < stations - 1 && way[station + 1]! < wanted) station++;
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
    const reach = isShort ? -DRAWN_IN * width : Math.max(spec.pull, (LEAST_THROW - width) / 2);
    // Where rails meet in a point, the throw lies square to the way on.
    const [ux, uy] = width > 1e-6 ? [(bx - ax) / width, (by - ay) / width] : acrossWay(a, b, station);
    const px = isLeft ? ax - reach * ux : bx + reach * ux;
    const py = isLeft ? ay - reach * uy : by + reach * uy;
    if (out.length >= 2) splitOver(out, px, py, spec.splitLength, n);
    out.push(px, py);
  }
  return Float64Array.from(out);
}

/** How wide (mm) a column is sewn with such a spec, at so many places evenly along it. */
export function widthsAlong(
  left: Float64Array,
  right: Float64Array,
  { pull, rungs }: Pick<SatinSpec, 'pull' | 'rungs'>,
  places: number,
): number[] {
  const [a, b] = pairStations(left, right, places - 1, rungs ?? []);
  return Array.from({ length: places }, (_, k) => Math.hypot(b[2 * k]! - a[2 * k]!, b[2 * k + 1]! - a[2 * k + 1]!) + 2 * pull);
}

/** Rails nearer to each other than this (mm) meet: no throw between them leans. */
const MEETING = 0.3;

/** What share of a rail's step to station `k` is square to the throws there. */
function squareShare(rail: Float64Array, a: Float64Array, b: Float64Array, k: number): number {
  const [i, j] = [k * 2 - 2, k * 2];
  const [tx, ty] = [b[i]! + b[j]! - a[i]! - a[j]!, b[i + 1]! + b[j + 1]! - a[i + 1]! - a[j + 1]!];
  const [ex, ey] = [rail[j]! - rail[i]!, rail[j + 1]! - rail[i + 1]!];
  const [across, along] = [Math.hypot(tx, ty), Math.hypot(ex, ey)];
  return across > 2 * MEETING && along > 0 ? Math.abs(ex * ty - ey * tx) / (across * along) : 1;
}

/** Closer than this (mm) no machine sews. */
const LEAST_PITCH = 0.1;

/** Both rails at stations that belong together: evenly along each, or along each part between rungs. */
function pairStations(
  left: Float64Array,
  right: Float64Array,
  stations: number,
  rungs: readonly (readonly [number, number])[],
): [Float64Array, Float64Array] {
  if (rungs.length === 0) return [resamplePath(left, stations + 1), resamplePath(right, stations + 1)];
  const shares: (readonly [number, number])[] = [[0, 0], ...rungs.filter(([l, r]) => l > 0 && l < 1 && r > 0 && r < 1), [1, 1]];
  const fine: [Float64Array, Float64Array] = [resamplePath(left, stations + 1), resamplePath(right, stations + 1)];
  return [0, 1].map((side) => {
    const rail = fine[side]!;
    const out = new Float64Array((stations + 1) * 2);
    for (let k = 0; k <= stations; k++) {
      // Where along the column this station is, by the mean of both edges, and what share of this edge that makes.
      const at = k / stations;
      let g = 1;
      while (g < shares.length - 1 && (shares[g]![0] + shares[g]![1]) / 2 < at) g++;
      const [from, to] = [shares[g - 1]!, shares[g]!];
      const [low, high] = [(from[0] + from[1]) / 2, (to[0] + to[1]) / 2];
      const share = from[side]! + (high > low ? (at - low) / (high - low) : 0) * (to[side]! - from[side]!);
      const place = Math.max(0, Math.min(stations, share * stations));
      const whole = Math.min(stations - 1, Math.floor(place));
      out[k * 2] = mix(rail, whole, 0, place - whole);
      out[k * 2 + 1] = mix(rail, whole, 1, place - whole);
    }
    return out;
  }) as [Float64Array, Float64Array];
}

function isRing(rail: Float64Array): boolean {
  return rail.length > 6 && Math.hypot(rail[0]! - rail[rail.length - 2]!, rail[1]! - rail[rail.length - 1]!) < CLOSED;
}

/** The unit vector from left to right across a column where its rails meet. */
function acrossWay(a: Float64Array, b: Float64Array, station: number): [number, number] {
  const [from, to] = [Math.max(0, station - 1) * 2, Math.min(a.length / 2 - 1, station + 2) * 2];
  const dx = a[to]! + b[to]! - a[from]! - b[from]!;
  const dy = a[to + 1]! + b[to + 1]! - a[from + 1]! - b[from + 1]!;
  const length = Math.hypot(dx, dy);
  return length > 0 ? [dy / length, -dx / length] : [1, 0];
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
