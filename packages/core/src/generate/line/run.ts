import { lengthOfPath, resamplePath } from '../../geometry/path.ts';

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
export function generateRun(line: Float64Array, spec: RunSpec): Float64Array {
  const path = withoutDoubles(line);
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

/** The path without points that lie on the one before as good as: what they turn by is chance. Its ends stay. */
function withoutDoubles(path: Float64Array): Float64Array {
  const out: number[] = [path[0]!, path[1]!];
  for (let i = 2; i < path.length; i += 2) {
    const isDouble = Math.hypot(path[i]! - out[out.length - 2]!, path[i + 1]! - out[out.length - 1]!) < DOUBLE;
    if (isDouble && i < path.length - 2) continue;
    if (isDouble && out.length > 2) out.length -= 2;
    out.push(path[i]!, path[i + 1]!);
  }
  return Float64Array.from(out);
}

/** mm. */
const DOUBLE = 0.04;

/**
 * Steps along a part without a corner: as long as asked on straights, shorter where it bends, changing gradually. The way is measured in
 * stitches, each place counting by how long a stitch may be there, and parted evenly. O(points + way).
 */
function stepPart(part: Float64Array, stitchLength: number): Float64Array {
  const length = lengthOfPath(part);
  const pieces = Math.max(1, Math.ceil(length / LOOK));
  const places = resamplePath(part, pieces + 1);
  const allowed = allowedSteps(places, length / pieces, stitchLength);
  // How many stitches it takes up to each place.
  const taken = new Float64Array(pieces + 1);
  for (let k = 1; k <= pieces; k++) taken[k] = taken[k - 1]! + (2 * length) / pieces / (allowed[k - 1]! + allowed[k]!);
  const count = Math.max(1, Math.ceil(taken[pieces]! - 1e-6));
  const out = new Float64Array((count + 1) * 2);
  let k = 0;
  for (let n = 0; n <= count; n++) {
    const wanted = (taken[pieces]! * n) / count;
    while (k < pieces - 1 && taken[k + 1]! < wanted) k++;
    const t = n === count ? 1 : (wanted - taken[k]!) / (taken[k + 1]! - taken[k]!);
    out[n * 2] = places[k * 2]! + t * (places[k * 2 + 2]! - places[k * 2]!);
    out[n * 2 + 1] = places[k * 2 + 1]! + t * (places[k * 2 + 3]! - places[k * 2 + 1]!);
  }
  out.set(part.subarray(part.length - 2), count * 2);
  return out;
}

/** How finely a way is looked at, and over what length to either side its bend is measured, mm. */
const LOOK = 0.25;
const BEND_REACH = 0.75;

/** How long a stitch may be at each of evenly spaced places: one over a bend of radius r is off by length² / 8 r in its middle. */
function allowedSteps(places: Float64Array, step: number, stitchLength: number): Float64Array {
  const count = places.length / 2;
  // Turns up to each place, so that those between any two are a difference.
  const turned = new Float64Array(count);
  for (let k = 1; k < count; k++) turned[k] = turned[k - 1]! + (k < count - 1 ? turnAt(places, k * 2) : 0);
  const reach = Math.max(1, Math.round(BEND_REACH / Math.max(step, 1e-9)));
  return Float64Array.from({ length: count }, (_, k) => {
    const [from, to] = [Math.max(0, k - reach), Math.min(count - 1, k + reach)];
    const bend = (turned[to]! - turned[from]!) / Math.max(1e-9, (to - from) * step);
    const longest = bend > 0 ? Math.sqrt((8 * CHORD_ERROR) / bend) : Infinity;
    return Math.max(Math.min(SHORTEST, stitchLength), Math.min(stitchLength, longest));
  });
}

/** By how much a way turns at a point, radians, to either side. */
function turnAt(path: Float64Array, i: number): number {
  const ax = path[i]! - path[i - 2]!;
  const ay = path[i + 1]! - path[i - 1]!;
  const bx = path[i + 2]! - path[i]!;
  const by = path[i + 3]! - path[i + 1]!;
  return Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by));
}

function isCorner(path: Float64Array, i: number): boolean {
  return (turnAt(path, i) * 180) / Math.PI > CORNER;
}

/** Places (xyxy) of even steps from one point to another, none longer than a stitch, mm; without the first point, and none where the two are one. */
export function evenSteps(x0: number, y0: number, x1: number, y1: number, stitchLength: number): number[] {
  const distance = Math.hypot(x1 - x0, y1 - y0);
  if (distance < 1e-9) return [];
  const count = Math.ceil(distance / stitchLength);
  return Array.from({ length: count }, (_, k) => [x0 + ((x1 - x0) * (k + 1)) / count, y0 + ((y1 - y0) * (k + 1)) / count]).flat();
}
