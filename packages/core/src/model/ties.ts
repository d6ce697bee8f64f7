import type { Program } from './program.ts';

/** A stitch of a lock is no longer than this (mm); above it a return to the same hole is a double run. Common practice. */
const LONGEST_LOCK_STITCH = 1.5;
/** Two penetrations are one hole when closer than this (mm): above what rounding to 0.1 mm can move, under the pitch of a tight satin. */
const SAME_HOLE = 0.15;
/** A lock that does not leave its hole by this (mm) holds nothing. */
const SHORTEST_LOCK_STITCH = 0.3;
/** How many penetrations from the end of a thread are looked at. */
const REACH = 8;

/**
 * The row where a lock that begins at `from` has come back to one of its own holes and the sewing proper starts, or −1 where there is none.
 * Looks from `from` toward `to`, which may lie before it, so the same question is asked of tie-in (first row, last row) and tie-off (last
 * row, first row). A lock is a short to and fro or a small triangle: within {@link REACH} penetrations, short stitches that return to a hole
 * two to four penetrations back.
 */
export function findLock(program: Program, from: number, to: number): number {
  const step = to >= from ? 1 : -1;
  const reach = Math.min(Math.abs(to - from), REACH);
  let lock = -1;
  for (let n = 1; n <= reach; n++) {
    const row = from + n * step;
    if (distance(program, row, row - step) > LONGEST_LOCK_STITCH) break;
    for (let back = 2; back <= Math.min(4, n); back++) {
      if (distance(program, row, row - back * step) > SAME_HOLE) continue;
      if (distance(program, row - step, row) >= SHORTEST_LOCK_STITCH) lock = row;
    }
  }
  return lock;
}

function distance(program: Program, a: number, b: number): number {
  return Math.hypot(program.x[a]! - program.x[b]!, program.y[a]! - program.y[b]!);
}
