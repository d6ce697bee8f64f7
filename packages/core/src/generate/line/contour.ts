import { containsPoint } from '../../geometry/ring.ts';
import { thinRing } from '../../geometry/smoothPath.ts';
import { offsetRings } from '../../geometry/offset.ts';
import { subtractRings } from '../../geometry/region.ts';
import { repairShape } from '../sew/repairShape.ts';
import { SURE_STEP, tourRings } from './ringTour.ts';
import { generateRun } from './run.ts';
import { createWalk, type Walk } from '../fill/walker.ts';

export interface ContourSpec {
  /** Distance between neighbouring lines, mm. */
  readonly spacing: number;
  readonly stitchLength: number;
  /** How far the outermost line lies beyond half a spacing inside the outline, mm. */
  readonly pull?: number;
}

/** More rings than this are not drawn: a shape that wide asks for another spacing. */
const MOST_RINGS = 2000;
/** Rings up to so many spacings apart are beside one another. */
const BESIDE = 2.3;

/** Where the next line finds no room, one goes along the middle of what is left, if that is wider than this many spacings on either side of it. */
const MIDDLE = 0.75;
/** The next line stands for the middle within so many spacings of it. */
const AROUND = 0.5;
/** Lines are kept to so many mm in as few points as they can be: every one is made from the one before it. */
const THIN = 0.004;
/** A middle shorter than so many spacings is not worth the way to it. */
const SHORT_MIDDLE = 3;

/**
 * Penetrations (xyxy) of lines parallel to the outline and to the edges of holes, from the edge inward, as one unbroken line for each part of
 * the shape that hangs together. Where lines would meet too far apart, another goes along the middle between them. Gives none where the shape
 * is thinner than its spacing.
 *
 * @throws when the spacing or the stitch is not positive.
 */
export function generateContour(rings: readonly Float64Array[], spec: ContourSpec, from?: { x: number; y: number }): Float64Array[] {
  const { spacing, stitchLength, pull = 0 } = spec;
  if (!(spacing >= 0.2)) throw new RangeError(`a contour fill needs a spacing of 0.2 mm or more, got ${spacing}`);
  if (!(stitchLength >= 0.5)) throw new RangeError(`a contour fill needs stitches of 0.5 mm or more, got ${stitchLength}`);
  const shape = repairShape(rings);
  if (!shape.ok) return [];
  const all: Float64Array[] = [];
  let level = thinned(offsetRings(shape.value.rings, pull - spacing / 2));
  for (let n = 0; n < MOST_RINGS && level.length > 0; n++) {
    const next = thinned(offsetRings(level, -spacing));
    const middle = subtractRings(offsetRings(level, -MIDDLE * spacing), offsetRings(next, AROUND * spacing));
    all.push(...level, ...middle.filter((ring) => reachOf(ring) > SHORT_MIDDLE * spacing));
    level = next;
  }
  const isOpen = (x: number, y: number): boolean => containsPoint(shape.value.rings, x, y);
  let walk: Walk | undefined;
  const goRound: Walk = (...ends) => (walk ??= createWalk(shape.value.rings))(...ends);
  return tourRings(all, BESIDE * spacing, spacing, isOpen, from?.x, from?.y).map((line) =>
    generateRun(keepInside(line, spacing, isOpen, goRound), { stitchLength }),
  );
}

/** A step over that would leave the shape, as across the end of a bay, goes round inside it where there is a way. */
function keepInside(line: Float64Array, spacing: number, isOpen: (x: number, y: number) => boolean, walk: Walk): Float64Array {
  const out: number[] = [line[0]!, line[1]!];
  for (let k = 2; k < line.length; k += 2) {
    const [x0, y0, x, y] = [line[k - 2]!, line[k - 1]!, line[k]!, line[k + 1]!];
    const isStep = Math.hypot(x - x0, y - y0) > SURE_STEP * spacing;
    if (isStep && !isOpen((x0 + x) / 2, (y0 + y) / 2)) out.push(...(walk(x0, y0, x, y) ?? []));
    out.push(x, y);
  }
  return Float64Array.from(out);
}

/** The longer side of the box around a ring, mm. */
function reachOf(ring: Float64Array): number {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < ring.length; k += 2) {
    [minX, maxX] = [Math.min(minX, ring[k]!), Math.max(maxX, ring[k]!)];
    [minY, maxY] = [Math.min(minY, ring[k + 1]!), Math.max(maxY, ring[k + 1]!)];
  }
  return Math.max(maxX - minX, maxY - minY);
}

function thinned(rings: readonly Float64Array[]): Float64Array[] {
  return rings.map((ring) => thinRing(ring, THIN));
}
