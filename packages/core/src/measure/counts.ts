import { COLOR, JUMP, type Program, STITCH, STOP, TRIM } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';

/** Length in mm of the bins of {@link Counts.lengthHistogram}. */
export const HISTOGRAM_BIN = 0.5;
const HISTOGRAM_BINS = 30;

/** Bounds of the penetrations, mm. */
export interface Extents {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
  readonly width: number;
  readonly height: number;
}

export interface Counts {
  readonly stitches: number;
  readonly jumps: number;
  readonly trims: number;
  /** Color rows after the first: the first names the thread that is on the machine at the start. */
  readonly colorChanges: number;
  readonly stops: number;
  readonly extents: Extents;
  /** Longest and shortest stitch that lays thread, mm; 0 where there is none. */
  readonly longestStitch: number;
  readonly shortestStitch: number;
  /** Stitches that lay thread, by length in bins of 0.5 mm; the last bin takes all longer ones. */
  readonly lengthHistogram: readonly number[];
}

/** What a program consists of. `lengths` are its lay lengths, where the caller has them already. */
export function countProgram(program: Program, lengths: Float64Array = layLengths(program)): Counts {
  const byCommand = [0, 0, 0, 0, 0, 0];
  const histogram = new Array<number>(HISTOGRAM_BINS).fill(0);
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  let longest = 0;
  let shortest = Infinity;
  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i]!;
    byCommand[command]!++;
    if (command !== STITCH) continue;
    const x = program.x[i]!;
    const y = program.y[i]!;
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
    const length = lengths[i]!;
    if (length <= 0) continue;
    if (length > longest) longest = length;
    if (length < shortest) shortest = length;
    const bin = Math.min(HISTOGRAM_BINS - 1, Math.floor(length / HISTOGRAM_BIN));
    histogram[bin]!++;
  }
  const isEmpty = minX > maxX;
  return {
    stitches: byCommand[STITCH]!,
    jumps: byCommand[JUMP]!,
    trims: byCommand[TRIM]!,
    colorChanges: Math.max(0, byCommand[COLOR]! - 1),
    stops: byCommand[STOP]!,
    extents: isEmpty
      ? { minX: 0, minY: 0, maxX: 0, maxY: 0, width: 0, height: 0 }
      : { minX, minY, maxX, maxY, width: maxX - minX, height: maxY - minY },
    longestStitch: longest,
    shortestStitch: shortest === Infinity ? 0 : shortest,
    lengthHistogram: histogram,
  };
}
