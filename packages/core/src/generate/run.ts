import { lengthOfPath, resamplePath } from '../geometry/path.ts';

export interface RunSpec {
  /** mm. */
  readonly stitchLength: number;
}

/** How far a stitch may cut a bend, mm, and the length to which stitches are shortened for it at most. Common practice. */
const CHORD_ERROR = 0.1;
const SHORTEST = 1;
/** A turn sharper than this (degrees) is a corner, and gets a penetration of its own. */
const CORNER = 35;

/** Penetrations (xyxy) of a run along an open path: even steps between corners, shorter on bends. Includes both ends. */
export function generateRun(path: Float64Array, spec: RunSpec): Float64Array {
  const out: number[] = [path[0]!, path[1]!];
  let start = 0;
  for (let i = 2; i < path.length; i += 2) {
    if (i < path.length - 2 && !isCorner(path, i)) continue;
    const part = path.subarray(start, i + 2);
    const steps = stepPart(part, spec.stitchLength);
    for (let k = 2; k < steps.length; k++) out.push(steps[k]!);
    start = i;
  }
  return Float64Array.from(out);
}

function stepPart(part: Float64Array, stitchLength: number): Float64Array {
  const length = lengthOfPath(part);
  let count = Math.max(1, Math.ceil(length / stitchLength - 1e-6));
  for (;;) {
    const steps = resamplePath(part, count + 1);
    if (length / (count + 1) < SHORTEST || chordError(part, steps) <= CHORD_ERROR) return steps;
    count++;
  }
}

/** The largest distance of the path's vertices from the nearest chord among its steps. O(vertices): both advance together. */
function chordError(part: Float64Array, steps: Float64Array): number {
  const total = lengthOfPath(part);
  const chords = steps.length / 2 - 1;
  let walked = 0;
  let worst = 0;
  for (let i = 2; i < part.length - 2; i += 2) {
    walked += Math.hypot(part[i]! - part[i - 2]!, part[i + 1]! - part[i - 1]!);
    const k = Math.min(chords - 1, Math.floor((walked / total) * chords)) * 2;
    const dx = steps[k + 2]! - steps[k]!;
    const dy = steps[k + 3]! - steps[k + 1]!;
    const length = Math.hypot(dx, dy);
    if (length > 0) worst = Math.max(worst, Math.abs((part[i]! - steps[k]!) * dy - (part[i + 1]! - steps[k + 1]!) * dx) / length);
  }
  return worst;
}

function isCorner(path: Float64Array, i: number): boolean {
  const ax = path[i]! - path[i - 2]!;
  const ay = path[i + 1]! - path[i - 1]!;
  const bx = path[i + 2]! - path[i]!;
  const by = path[i + 3]! - path[i + 1]!;
  const turn = Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by));
  return (turn * 180) / Math.PI > CORNER;
}
