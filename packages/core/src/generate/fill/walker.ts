import { offsetRings } from '../../geometry/offset.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { explore, pullTight } from './corridor.ts';
import { repairShape } from '../sew/repairShape.ts';
import { parallelLines } from './rowLines.ts';
import { generateRun } from '../line/run.ts';
import { cutSpans, nearestSpan } from './spans.ts';

/** Lines between which ways are looked for lie so far apart, mm. */
const FINE_STEP = 0.4;
/** Walking under what comes later takes long stitches, mm. Common practice. */
const TRAVEL_STITCH = 4;
/** Steps shorter than this (mm) need no penetration of their own. */
const LEAST_WALK = 0.4;

/** The penetrations (xyxy) between two points, both left out: inside a shape; none where its parts do not hang together. */
export type Walk = (x0: number, y0: number, x1: number, y1: number) => Float64Array | undefined;

/** A straight way no longer than this (mm) is taken where it keeps inside the edge, or this near to it, as looked at every so many mm. */
const STRAIGHT = 12;
const AT_EDGE = 0.2;
const LOOK = 0.25;

/** Ways inside rings (xyxy, even-odd). What is worked out about the shape is kept for all walks. */
export function createWalk(rings: readonly Float64Array[]): Walk {
  const shape = repairShape(rings);
  const around = shape.ok ? offsetRings(shape.value.rings, AT_EDGE) : [];
  const isStraight = (x0: number, y0: number, x1: number, y1: number): boolean => {
    const length = Math.hypot(x1 - x0, y1 - y0);
    if (length > STRAIGHT) return false;
    const looks = Math.ceil(length / LOOK);
    for (let k = 0; k <= looks; k++) if (!containsPoint(around, x0 + ((x1 - x0) * k) / looks, y0 + ((y1 - y0) * k) / looks)) return false;
    return true;
  };
  const spans = shape.ok ? cutSpans(shape.value.rings, parallelLines(shape.value.rings, 0, FINE_STEP)) : undefined;
  return (x0, y0, x1, y1) => {
    if (Math.hypot(x1 - x0, y1 - y0) < LEAST_WALK) return new Float64Array(0);
    if (spans === undefined || spans.count === 0) return undefined;
    if (isStraight(x0, y0, x1, y1)) return generateRun(Float64Array.of(x0, y0, x1, y1), { stitchLength: TRAVEL_STITCH }).slice(2, -2);
    const from = nearestSpan(spans, x0, y0).span;
    const to = nearestSpan(spans, x1, y1).span;
    const found = explore(
      spans,
      from,
      x0,
      (span) => span === to,
      () => false,
    );
    if (found === undefined) return undefined;
    const run = generateRun(pullTight(spans, found, x0, y0, x1, y1), { stitchLength: TRAVEL_STITCH });
    return run.slice(2, -2);
  };
}
