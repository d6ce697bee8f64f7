import { turned } from '../../generate/column/columns.ts';
import { lengthOfPath } from '../../geometry/path.ts';
import type { Program } from '../../model/program.ts';
import { median } from '../../geometry/statistics.ts';
import type { RowSpan } from '../../model/stitchObject.ts';

/** An edge stitch as it would be asked for. */
export interface ReadEdge {
  /** The edge, xyxy, mm; prongs reach to its left. */
  readonly path: Float64Array;
  /** From prong to prong along the edge, and how far prongs reach, mm; undefined where there are none. */
  readonly spacing: number;
  readonly prong: number | undefined;
  /** Penetrations on the edge as they were sewn: x, y, and what the prong there adds to them, mm. */
  readonly feet: readonly (readonly [x: number, y: number, px: number, py: number])[];
}

/** A prong goes out and back through holes no farther apart than this, mm. */
const SAME_HOLE = 0.15;
/** An edge whose ends are no farther apart than this, mm, is closed. */
const CLOSED = 0.1;
/** The edge runs square to a prong for this share of the way to the next foot. */
const AT_FOOT = 0.05;
/** A prong farther from square to the way (as the cosine between the edge that it tells and the way) stands in a bend so tight that the ways tell the edge. */
const SQUARE = 0.88;

/** A penetration on the edge, and what a prong there adds to it, mm. */
interface Foot {
  readonly x: number;
  readonly y: number;
  readonly prong?: readonly [x: number, y: number];
}

/** The edge of an edge stitch, which its prongs stand square to, and how they stand on it. O(penetrations). */
export function readEdgeStitch({ x, y }: Program, spans: readonly RowSpan[]): ReadEdge {
  const feet: Foot[] = [];
  for (const { first, last } of spans) {
    for (let i = Math.max(0, first - 1); i <= last; i++) {
      const isTip = i > 0 && i < last && Math.hypot(x[i + 1]! - x[i - 1]!, y[i + 1]! - y[i - 1]!) < SAME_HOLE;
      if (!isTip || feet.length === 0) feet.push({ x: x[i]!, y: y[i]! });
      else {
        feet[feet.length - 1] = { ...feet[feet.length - 1]!, prong: [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!] };
        i++;
      }
    }
  }
  const prongs = feet.flatMap(({ prong }) => (prong === undefined ? [] : [Math.hypot(...prong)]));
  const side = feet.reduce((sum, { x: ax, y: ay, prong }, k) => {
    const next = feet[k + 1];
    return prong === undefined || next === undefined ? sum : sum + Math.sign((next.x - ax) * prong[1] - (next.y - ay) * prong[0]);
  }, 0);
  const isLeft = side >= 0;
  // Prongs beside inner corners are shorter than they were asked to be, those of outer corners longer.
  const prong = prongs.length === 0 ? undefined : median(prongs);
  const edge = edgeThrough(feet, isLeft);
  const isClosed = Math.hypot(feet[0]!.x - feet.at(-1)!.x, feet[0]!.y - feet.at(-1)!.y) < CLOSED;
  return {
    path: isLeft ? edge : turned(edge),
    // Along an open edge there is one way from prong to prong less than there are prongs.
    spacing: lengthOfPath(edge) / Math.max(1, isClosed ? prongs.length : prongs.length - 1),
    prong,
    feet: feet.map(({ x, y, prong: [px, py] = [0, 0] }) => [x, y, px, py]),
  };
}

/** The edge through the feet (xyxy): straight from each to the next, but square to the prongs where these stand. */
function edgeThrough(feet: readonly Foot[], isLeft: boolean): Float64Array {
  const out: number[] = [feet[0]!.x, feet[0]!.y];
  for (let k = 0; k + 1 < feet.length; k++) {
    const [a, b] = [feet[k]!, feet[k + 1]!];
    const way = [b.x - a.x, b.y - a.y] as const;
    const [from, to] = [edgeAt(a, way, isLeft), edgeAt(b, way, isLeft)];
    out.push(a.x + AT_FOOT * from[0], a.y + AT_FOOT * from[1], b.x - AT_FOOT * to[0], b.y - AT_FOOT * to[1], b.x, b.y);
  }
  return Float64Array.from(out);
}

/** The direction of the edge at a foot, as long as the way to or from there: square to its prong, else that of the way. */
function edgeAt({ prong }: Foot, way: readonly [number, number], isLeft: boolean): readonly [number, number] {
  const length = Math.hypot(...way);
  if (prong === undefined) return way;
  const scale = (isLeft ? 1 : -1) * (length / Math.max(1e-9, Math.hypot(...prong)));
  const along = [prong[1] * scale, -prong[0] * scale] as const;
  return along[0] * way[0] + along[1] * way[1] > SQUARE * length * length ? along : way;
}
