import { type Program, STITCH } from '../model/program.ts';
import type { Target } from '../model/target.ts';
import { threadThickness } from '../model/thread.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { cutStrokes } from '../model/strokes.ts';

/** K of the cover that a cloth's pull is given for, and between what shares of it the pull grows with it. */
const USUAL_COVER = 0.94;
const COVER_SHARES = { low: 0.3, high: 1.8 };
/** Short rows pull less: this share, and so much more a millimetre, up to all. */
const SHORT = 0.4;
const PER_MILLIMETRE = 0.15;
/** What underlay leaves of the pull. */
const UNDERLAY = { none: 1.5, runOnly: 1.15, right: 1 };
/** Cloth is pushed out across the stitches by this share of what it is pulled in along them. */
export const PUSH = 0.4;
/** How far an edge of an object is drawn in along its stitches at most, mm: for long rows. An estimate, as all that is made of it. */
export function pullOf(object: StitchObject, target: Target): number {
  return target.fabric.pull * pullShareOf(object, target);
}

/** The same for each mm of the cloth's pull. */
export function pullShareOf(object: StitchObject, { thread }: Pick<Target, 'thread'>): number {
  if (object.spacing === undefined) return 0;
  const cover = (2 * threadThickness(thread)) / object.spacing;
  const kinds = object.underlay.map((l) => l.kind);
  const hasBase = kinds.includes('tatami') || kinds.includes('zigzag') || (object.kind === 'satin' && kinds.includes('edge-run'));
  const factor = kinds.length === 0 ? UNDERLAY.none : hasBase ? UNDERLAY.right : UNDERLAY.runOnly;
  return Math.max(COVER_SHARES.low, Math.min(COVER_SHARES.high, cover / USUAL_COVER)) * factor;
}

/** What part of its pull a row or throw of a length (mm) is drawn in by. */
export function shareOfChord(chord: number): number {
  return Math.min(1, SHORT + PER_MILLIMETRE * chord);
}

/**
 * Where penetrations will lie once the cloth has given way: the ends of rows and throws drawn in along them, outer rows pushed out across.
 * Columns `x`, `y` in mm beside the program's rows; rows of runs and of no object stay. An estimate. O(rows).
 */
export function predictSewn(program: Program, objects: readonly StitchObject[], target: Target): { x: Float64Array; y: Float64Array } {
  const x = program.x.slice();
  const y = program.y.slice();
  for (const object of objects) {
    const pull = object.role === 'cover' ? pullOf(object, target) : 0;
    if (pull === 0) continue;
    const center = middleOf(object);
    for (const { first, last } of object.spans) {
      const strokes = cutStrokes(program, Math.max(0, first - 1), last);
      for (let k = 0; k < strokes.count; k++) {
        const [a, b, length] = [strokes.first[k]!, strokes.last[k]!, strokes.length[k]!];
        if (length < 0.5) continue;
        const p = Math.min(pull * shareOfChord(length), 0.45 * length);
        const [ux, uy] = [strokes.dx[k]!, strokes.dy[k]!];
        for (let i = k === 0 ? a : a + 1; i <= b; i++) {
          if (program.command[i] !== STITCH) continue;
          const t = ((program.x[i]! - program.x[a]!) * ux + (program.y[i]! - program.y[a]!) * uy) / length;
          const across = (program.y[i]! - center.y) * ux - (program.x[i]! - center.x) * uy;
          const out = PUSH * p * Math.max(-1, Math.min(1, across / center.reach));
          x[i] = program.x[i]! + ux * p * (1 - 2 * t) - uy * out;
          y[i] = program.y[i]! + uy * p * (1 - 2 * t) + ux * out;
        }
      }
    }
  }
  return { x, y };
}

function middleOf({ outline }: StitchObject): { x: number; y: number; reach: number } {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < outline.length; k += 2) {
    [minX, maxX] = [Math.min(minX, outline[k]!), Math.max(maxX, outline[k]!)];
    [minY, maxY] = [Math.min(minY, outline[k + 1]!), Math.max(maxY, outline[k + 1]!)];
  }
  if (minX > maxX) return { x: 0, y: 0, reach: 1 };
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2, reach: Math.max(0.5, Math.max(maxX - minX, maxY - minY) / 2) };
}
