import { generateRun } from '../../generate/line/run.ts';
import { SHORTEST } from '../../model/objectSpec.ts';

/** Stitch lengths so far from the usual one are tried, as a share, in so many steps to either side. */
const REACH = 0.12;
const STEPS = 12;
/** What comes nearest lies so far from lengths that do not, as a share, where there is room. */
const MARGIN = 0.02;

/**
 * The stitch length (mm) with which a path (xyxy) is sewn in about so many stitches: the one nearest to `usual` of those that come nearest. Stitches are evened
 * out between corners, so that the lengths that a file has tell the one that was asked for only about. O(points of the path).
 */
export function fitRunLength(path: Float64Array, stitches: number, usual: number): number {
  if (!(usual > 0)) return usual;
  const lengths = Array.from({ length: 2 * STEPS + 1 }, (_, k) => usual * (1 + (REACH * (k - STEPS)) / STEPS));
  const off = lengths.map((stitchLength) => Math.abs(countSteps(generateRun(path, { stitchLength })) - stitches));
  const least = Math.min(...off);
  // Stretches of lengths that come as near as any; on the edge of one a hair more or less makes another stitch.
  let best = usual;
  let nearest = Infinity;
  for (let k = 0; k < lengths.length; k++) {
    if (off[k]! > least) continue;
    let end = k;
    while (end + 1 < lengths.length && off[end + 1] === least) end++;
    const margin = Math.min(MARGIN * usual, (lengths[end]! - lengths[k]!) / 2);
    const inside = Math.max(lengths[k]! + margin, Math.min(lengths[end]! - margin, usual));
    if (Math.abs(inside - usual) < nearest) [best, nearest] = [inside, Math.abs(inside - usual)];
    k = end;
  }
  return best;
}

/** Steps of a run that are stitches: shorter ones, as where a path was folded, are left out of what is sewn. */
function countSteps(run: Float64Array): number {
  let count = 0;
  for (let k = 2; k < run.length; k += 2) if (Math.hypot(run[k]! - run[k - 2]!, run[k + 1]! - run[k - 1]!) >= SHORTEST) count++;
  return count;
}
