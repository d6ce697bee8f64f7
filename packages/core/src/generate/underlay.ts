import { offsetRings } from '../geometry/offset.ts';
import { thinPath } from '../geometry/smoothPath.ts';
import { middleOf, turned } from './column/columns.ts';
import { generateFill } from './fill/fill.ts';
import type { FillEnds } from './fill/fillSpec.ts';
import { generateRun } from './line/run.ts';
import { generateSatin } from './column/satin.ts';

/** Stitch length of underlay runs, mm, and how far inside the cover's edge they lie. Common practice. */
const UNDERLAY_STITCH = 2.5;
const TATAMI_STITCH = 3.5;
export const INSET = 0.6;
/** Same-direction pitch of tatami and of zigzag underlay, mm. Common practice: 3 to 4 is enough, at 2 tatami adds bulk. */
export const TATAMI_SPACING = 3.5;
export const ZIGZAG_SPACING = 2;
/** Underlay need not follow an edge closer than this, mm: what it is measured from may be ragged by the ends of rows. */
const RAGGED = 0.15;
const RAGGED_RING = 0.3;
const CALM = 0.4;
/** Throws of a zigzag longer than this (mm) are parted, where nothing else is asked for. Common practice. */
const SPLIT = 7;
/** An edge run leaves at least the middle two fifths of a column free. */
const DEEPEST = 0.3;

/** A run down the middle of a column and back (xyxy), so that it ends where it began. */
export function generateCenterRun(left: Float64Array, right: Float64Array): Float64Array {
  const run = generateOneWayRun(left, right);
  return Float64Array.from([...run, ...turned(run)]);
}

/** A run down the middle of a column, once (xyxy). */
export function generateOneWayRun(left: Float64Array, right: Float64Array, stitchLength = UNDERLAY_STITCH): Float64Array {
  return runAlong(calmed(middleOf(left, right)), stitchLength);
}

/** Runs inside either edge of a column (xyxy): down the left one, back along the right one. */
export function generateColumnEdgeRun(
  left: Float64Array,
  right: Float64Array,
  inset = INSET,
  stitchLength = UNDERLAY_STITCH,
): Float64Array {
  const width = widthOf(left, right);
  const share = Math.min(DEEPEST, inset / Math.max(width, 1));
  const up = runAlong(calmed(middleOf(left, right, share)), stitchLength);
  const back = turned(runAlong(calmed(middleOf(left, right, 1 - share)), stitchLength));
  const across = Float64Array.of(...up.subarray(-2), ...back.subarray(0, 2));
  const isLong = Math.hypot(across[2]! - across[0]!, across[3]! - across[1]!) > SPLIT;
  return Float64Array.from([...up, ...(isLong ? generateRun(across, { stitchLength }).slice(2, -2) : []), ...back]);
}

/** An open zigzag inside the edges of a column (xyxy), down it; throws longer than `splitLength` (mm) are parted. */
export function generateZigzag(
  left: Float64Array,
  right: Float64Array,
  spacing: number,
  inset?: number,
  splitLength = SPLIT,
): Float64Array {
  const share = inset === undefined ? 0.15 : Math.min(DEEPEST, inset / Math.max(widthOf(left, right), 1));
  return generateSatin(middleOf(left, right, share), middleOf(left, right, 1 - share), { spacing, pull: 0, splitLength });
}

/** A run up the middle of a column (xyxy), from its end to its start: the way back from a zigzag. */
export function generateReturnRun(left: Float64Array, right: Float64Array): Float64Array {
  return turned(generateOneWayRun(left, right));
}

/** A run inside the edge of each ring of a fill (paths xyxy, closed). */
export function generateEdgeRun(rings: readonly Float64Array[], inset = INSET, stitchLength = UNDERLAY_STITCH): Float64Array[] {
  return calmRings(rings, inset).map((ring) => runAlong(thinPath(closeRing(ring), RAGGED_RING), stitchLength));
}

/** The rings that an edge run follows: spikes and notches of an edge that the ends of rows left ragged are gone once it was moved in too far and back. */
export function calmRings(rings: readonly Float64Array[], inset = INSET): Float64Array[] {
  return offsetRings(offsetRings(rings, -inset - CALM), CALM);
}

/** Open rows across a fill (paths xyxy), inside its edge, at `angle` degrees, or turned against the cover's angle. */
export function generateTatamiUnderlay(
  rings: readonly Float64Array[],
  coverAngle: number,
  spacing = TATAMI_SPACING,
  inset = INSET,
  angle = coverAngle + 90,
  stitchLength = TATAMI_STITCH,
  ends: FillEnds = {},
): Float64Array[] {
  return generateFill(offsetRings(rings, -inset), { spacing, angle, stitchLength, offset: 0.5 }, ends);
}

/** A line with its small bends averaged out, its ends kept: edges of a column, taken from throws, waver by a part of their pitch. */
function calmed(line: Float64Array): Float64Array {
  let at = line;
  for (let pass = 0; pass < CALMING; pass++)
    at = at.map((v, k) => (k < 2 || k >= at.length - 2 ? v : (at[k - 2]! + 2 * v + at[k + 2]!) / 4));
  return at;
}

const CALMING = 8;

function runAlong(path: Float64Array, stitchLength: number): Float64Array {
  return generateRun(thinPath(path, RAGGED), { stitchLength });
}

/** The ring as a path that comes back to its first point. */
export function closeRing(ring: Float64Array): Float64Array {
  const closed = new Float64Array(ring.length + 2);
  closed.set(ring);
  closed.set(ring.subarray(0, 2), ring.length);
  return closed;
}

function widthOf(left: Float64Array, right: Float64Array): number {
  const middle = (path: Float64Array): number => Math.floor(path.length / 4) * 2;
  const [l, r] = [middle(left), middle(right)];
  return Math.max(Math.hypot(left[0]! - right[0]!, left[1]! - right[1]!), Math.hypot(left[l]! - right[r]!, left[l + 1]! - right[r + 1]!));
}
