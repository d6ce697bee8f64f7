import type { Program } from '../../model/program.ts';
import { median } from '../../geometry/statistics.ts';

export interface RunGeometry {
  readonly stitchLength: number;
  readonly passes: number;
  /** Gone over once, xyxy. */
  readonly path: Float64Array;
  /** mm, all passes. */
  readonly length: number;
  /** Each stitch is gone over before the next, and not the way as a whole. */
  readonly isBean?: true;
}

/** How far (mm) a pass may lie from the one before to go over it: what rounding and a shift of the penetrations make. */
const SAME_WAY = 0.3;
/** More passes than this are looked for no further: a bean line has three, a heavy one five. */
const MOST_PASSES = 5;

/** A run's way, and how often it goes over it: to and fro along the whole. O(penetrations). */
export function measureRun({ x, y }: Program, first: number, last: number): RunGeometry {
  const points = last - first + 1;
  const way = new Float64Array(points * 2);
  const walked = new Float64Array(points);
  const steps: number[] = [];
  for (let k = 0; k < points; k++) {
    way[k * 2] = x[first + k]!;
    way[k * 2 + 1] = y[first + k]!;
    if (k === 0) continue;
    steps.push(Math.hypot(way[k * 2]! - way[k * 2 - 2]!, way[k * 2 + 1]! - way[k * 2 - 1]!));
    walked[k] = walked[k - 1]! + steps[k - 1]!;
  }
  const length = walked[points - 1]!;
  const passes = countPasses(way, walked);
  return { stitchLength: steps.length === 0 ? 0 : median(steps), passes, path: cutAt(way, walked, length / passes), length };
}

function countPasses(way: Float64Array, walked: Float64Array): number {
  const length = walked[walked.length - 1]!;
  for (let passes = MOST_PASSES; passes >= 2; passes--) {
    const part = length / passes;
    if (part < 2) continue;
    let off = 0;
    let asked = 0;
    for (let k = 1; k < walked.length; k++) {
      if (walked[k]! <= part) continue;
      const pass = Math.floor(walked[k]! / part);
      const rest = walked[k]! - pass * part;
      const [px, py] = pointAt(way, walked, pass % 2 === 1 ? part - rest : rest);
      off += Math.hypot(px - way[k * 2]!, py - way[k * 2 + 1]!);
      asked++;
    }
    if (asked > 0 && off / asked < SAME_WAY) return passes;
  }
  return 1;
}

/** The last penetration at or before a distance along the way. */
function indexAt(walked: Float64Array, at: number): number {
  let low = 0;
  let high = walked.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (walked[middle]! <= at + 1e-9) low = middle;
    else high = middle - 1;
  }
  return low;
}

function pointAt(way: Float64Array, walked: Float64Array, at: number): [number, number] {
  const k = Math.min(indexAt(walked, at), Math.max(0, walked.length - 2));
  const step = walked.length > 1 ? walked[k + 1]! - walked[k]! : 0;
  const t = step > 0 ? Math.min(1, (at - walked[k]!) / step) : 0;
  const n = Math.min(k + 1, walked.length - 1);
  return [way[k * 2]! + t * (way[n * 2]! - way[k * 2]!), way[k * 2 + 1]! + t * (way[n * 2 + 1]! - way[k * 2 + 1]!)];
}

function cutAt(way: Float64Array, walked: Float64Array, at: number): Float64Array {
  const k = indexAt(walked, at);
  const out = way.slice(0, k * 2 + 2);
  if (at - walked[k]! < 1e-6) return out;
  return Float64Array.from([...out, ...pointAt(way, walked, at)]);
}
