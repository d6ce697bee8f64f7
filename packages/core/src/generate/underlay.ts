import { offsetRings } from '../geometry/offset.ts';
import { resamplePath } from '../geometry/path.ts';
import { generateFill } from './fill.ts';
import { generateRun } from './run.ts';
import { generateSatin } from './satin.ts';

/** Stitch length of underlay runs, mm, and how far inside the cover's edge they lie. Common practice. */
const UNDERLAY_STITCH = 2.5;
const INSET = 0.6;

/** A run down the middle of a column and back (xyxy), so that it ends where it began. */
export function generateCenterRun(left: Float64Array, right: Float64Array): Float64Array {
  const run = generateRun(between(left, right, 0.5), { stitchLength: UNDERLAY_STITCH });
  return thereAndBack(run, run);
}

/** Runs inside either edge of a column (xyxy): down the left one, back along the right one. */
export function generateColumnEdgeRun(left: Float64Array, right: Float64Array): Float64Array {
  const width = Math.hypot(left[0]! - right[0]!, left[1]! - right[1]!);
  const share = Math.min(0.3, INSET / Math.max(width, 1));
  return thereAndBack(
    generateRun(between(left, right, share), { stitchLength: UNDERLAY_STITCH }),
    generateRun(between(left, right, 1 - share), { stitchLength: UNDERLAY_STITCH }),
  );
}

/** An open zigzag inside the edges of a column (xyxy), down it. */
export function generateZigzag(left: Float64Array, right: Float64Array, spacing: number): Float64Array {
  return generateSatin(between(left, right, 0.15), between(left, right, 0.85), { spacing, pull: 0, splitLength: 7 });
}

/** A run up the middle of a column (xyxy), from its end to its start: the way back from a zigzag. */
export function generateReturnRun(left: Float64Array, right: Float64Array): Float64Array {
  return thereAndBack(new Float64Array(0), generateRun(between(left, right, 0.5), { stitchLength: UNDERLAY_STITCH }));
}

/** A run inside the edge of each ring of a fill (paths xyxy, closed). */
export function generateEdgeRun(rings: readonly Float64Array[]): Float64Array[] {
  return offsetRings(rings, -INSET).map((ring) => generateRun(closeRing(ring), { stitchLength: UNDERLAY_STITCH }));
}

/** Open rows across a fill (paths xyxy), inside its edge, turned against the cover's angle. */
export function generateTatamiUnderlay(rings: readonly Float64Array[], coverAngle: number, spacing = 3.5): Float64Array[] {
  return generateFill(offsetRings(rings, -INSET), { spacing, angle: coverAngle + 90, stitchLength: 3.5, offset: 0.5 });
}

function closeRing(ring: Float64Array): Float64Array {
  const closed = new Float64Array(ring.length + 2);
  closed.set(ring);
  closed.set(ring.subarray(0, 2), ring.length);
  return closed;
}

function between(left: Float64Array, right: Float64Array, share: number): Float64Array {
  const count = 200;
  const a = resamplePath(left, count);
  const b = resamplePath(right, count);
  return a.map((v, k) => v + share * (b[k]! - v));
}

function thereAndBack(there: Float64Array, back: Float64Array): Float64Array {
  const out = [...there];
  for (let i = back.length - 2; i >= 0; i -= 2) out.push(back[i]!, back[i + 1]!);
  return Float64Array.from(out);
}
