import { END_STITCH } from '../../model/objectSpec.ts';
import type { FillGeometry } from './fillGeometry.ts';
import { type Places, readShift } from '../read/readShift.ts';

/** A row: how far across it lies, how far along its penetrations do in sewing order, and the one before them where one stitch leads from it; mm. */
export interface RowPlace {
  readonly v: number;
  readonly us: readonly number[];
  readonly before: number | undefined;
}

/** A row that starts nearer than this to the end of the one before, mm, has a penetration at its start, by how its rows end. */
const AT_START = { square: 0.6, slanted: 0.3 };
/** The same where the row after tells, too, where it would start. */
const NEAR_START = 0.35;
/** The stitch is looked for from this much below the longest one that was sewn to this much above it, and so finely; mm. */
const BELOW = 2.2;
const ABOVE = 1;
const GRAIN = 0.03;
const SHORTEST_STITCH = 1.2;
/** Penetrations are those of the grid where they lie this near to it, mm. */
const ON_GRID = 0.12;
/** Fewer rows with penetrations in them tell nothing; of their penetrations no more than this share is missing or too many. */
const LEAST_ROWS = 5;
const MOST_WRONG = 0.2;

/** A row by its line, where it starts and ends along it, and the penetrations between, mm. */
export interface RowBetween {
  readonly line: number;
  readonly low: number;
  readonly high: number;
  readonly places: readonly number[];
  /** The end that has no penetration of its own and is only about there, if one is. */
  readonly unsure: number | undefined;
}

/** Rows as what lies between their ends; `lineOf` numbers them by how far across they lie. */
export function rowsBetweenEnds(rows: readonly RowPlace[], lineOf: (v: number) => number, rowEnds: FillGeometry['rowEnds']): RowBetween[] {
  const lines = rows.map(({ v }) => lineOf(v));
  return rows.map(({ us, before }, r) => {
    const [first, last] = [us[0]!, us[us.length - 1]!];
    // Where a row would start: half the way from the end of the row before to that of the row after, which lie on the same side.
    const onward = lines[r]! - (lines[r - 1] ?? NaN);
    const after = Math.abs(onward) === 1 && lines[r + 1] === lines[r]! + onward ? rows[r + 1]!.us[rows[r + 1]!.us.length - 1] : undefined;
    const expected = before === undefined || after === undefined ? before : (before + after) / 2;
    const isStart = expected === undefined || Math.abs(first - expected) < (after === undefined ? AT_START[rowEnds] : NEAR_START);
    const start = isStart ? first : expected;
    return {
      line: lines[r]!,
      low: Math.min(start, last),
      high: Math.max(start, last),
      places: us.slice(isStart ? 1 : 0, -1),
      unsure: isStart ? undefined : start,
    };
  });
}

/**
 * The grid of a shape so narrow that few of its rows have a whole stitch in them: that stitch and shift with which the same penetrations would be sewn
 * between the ends of rows as were. None where no grid sews nearly the same. O(rows), times some thousand grids.
 */
export function fitGrid(rows: readonly RowBetween[]): Places | undefined {
  const inner = rows.flatMap(({ line, places }) => places.map((u) => ({ u, line })));
  if (rows.filter(({ places }) => places.length > 0).length < LEAST_ROWS) return undefined;
  const longest = rows.reduce((most, row) => Math.max(most, longestIn(row)), 0);
  const tried: (Places & { readonly wrong: number })[] = [];
  for (let stitchLength = Math.max(SHORTEST_STITCH, longest - BELOW); stitchLength <= longest + ABOVE; stitchLength += GRAIN) {
    const places = readShift(inner, stitchLength);
    if (places === undefined) continue;
    const wrong = wrongOn(rows, places);
    for (const [k, endStitch] of ENDS.entries()) tried.push({ ...places, endStitch, wrong: wrong[k]! });
  }
  const least = tried.reduce((most, { wrong }) => Math.min(most, wrong), Infinity);
  if (least > MOST_WRONG * inner.length) return undefined;
  // Where many sew the same, the one in their middle is farthest from sewing another.
  const all = tried.filter(({ wrong }) => wrong === least);
  const usual = all.filter(({ endStitch }) => endStitch === END_STITCH);
  const best = usual.length > 0 ? usual : all;
  return best[best.length >> 1];
}

function longestIn({ low, high, places }: RowBetween): number {
  const us = [low, ...places, high].sort((p, q) => p - q);
  return us.slice(1).reduce((most, u, k) => Math.max(most, u - us[k]!), 0);
}

/** How near to the ends of rows penetrations may come, mm: as usual, and as in files that were made smaller or larger. */
const ENDS = [0.85, 0.925, 1, 1.075, 1.15].map((scale) => scale * END_STITCH);

/** How many penetrations a grid has in rows that were not sewn, and how many were sewn that it has not; for each of {@link ENDS}. */
function wrongOn(rows: readonly RowBetween[], { stitchLength, offset, along }: Places): Int32Array {
  const wrong = new Int32Array(ENDS.length);
  for (let r = 0; r < rows.length; r++) {
    const { line, low, high, places } = rows[r]!;
    const at = along + line * offset * stitchLength;
    for (let e = 0; e < ENDS.length; e++) {
      const first = Math.ceil((low + ENDS[e]! - at) / stitchLength);
      const last = Math.floor((high - ENDS[e]! - at) / stitchLength);
      wrong[e]! += places.length + Math.max(0, last - first + 1);
    }
    for (let p = 0; p < places.length; p++) {
      const off = places[p]! - at;
      const k = Math.round(off / stitchLength);
      if (Math.abs(off - k * stitchLength) >= ON_GRID) continue;
      const place = k * stitchLength + at;
      for (let e = 0; e < ENDS.length; e++) if (place >= low + ENDS[e]! && place <= high - ENDS[e]!) wrong[e]! -= 2;
    }
  }
  return wrong;
}
