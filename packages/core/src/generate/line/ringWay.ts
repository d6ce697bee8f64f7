import { thinPath } from '../../geometry/smoothPath.ts';

/** How far a way along a ring may cut its bends, mm. */
const CUT_OF_BEND = 0.08;
/** Ways between places nearer to an edge than this (mm) keep to it. */
const NEAR_EDGE = 3;

interface Edge {
  readonly ring: Float64Array;
  /** How far round the ring each of its points lies, mm; and all of it. */
  readonly upTo: Float64Array;
}

interface OnEdge {
  readonly index: number;
  readonly distance: number;
}

/** Ways along the edges of a shape, each a ring (xyxy) with places close to each other, between places that both lie near one of them. */
export class EdgeWays {
  private readonly edges: readonly Edge[];

  constructor(rings: readonly Float64Array[]) {
    this.edges = rings.map((ring) => ({ ring, upTo: lengthsUpTo(ring) }));
  }

  get isNone(): boolean {
    return this.edges.length === 0;
  }

  /** The way (xyxy) between two places; none where no edge has both near it. O(points of the edges). */
  along(x0: number, y0: number, x1: number, y1: number): Float64Array | undefined {
    for (const edge of this.edges) {
      const from = nearestCorner(edge.ring, x0, y0);
      if (from.distance > NEAR_EDGE) continue;
      const to = nearestCorner(edge.ring, x1, y1);
      if (to.distance <= NEAR_EDGE) return alongRing(edge, from.index, to.index, x0, y0, x1, y1);
    }
    return undefined;
  }

  /** How long the ways between any two of some places (xyxy) are, mm, by their numbers. O(1) each, once the edges were gone over for a place. */
  lengths(places: Float64Array): (from: number, to: number) => number | undefined {
    const { edges } = this;
    const known: (readonly OnEdge[] | undefined)[] = [];
    const onEdges = (k: number): readonly OnEdge[] =>
      (known[k] ??= edges.map(({ ring }) => nearestCorner(ring, places[2 * k]!, places[2 * k + 1]!)));
    return (from, to) => {
      const [a, b] = [onEdges(from), onEdges(to)];
      let n = 0;
      while (n < edges.length && (a[n]!.distance > NEAR_EDGE || b[n]!.distance > NEAR_EDGE)) n++;
      if (n === edges.length) return undefined;
      const { upTo } = edges[n]!;
      const arc = Math.abs(upTo[a[n]!.index]! - upTo[b[n]!.index]!);
      return a[n]!.distance + Math.min(arc, aroundOf(edges[n]!) - arc) + b[n]!.distance;
    };
  }
}

function aroundOf({ upTo }: Edge): number {
  return upTo[upTo.length - 1]!;
}

/** The way round a ring from one of its points forth to another, mm. */
function lengthForth(edge: Edge, from: number, to: number): number {
  const way = edge.upTo[to]! - edge.upTo[from]!;
  return way < 0 ? way + aroundOf(edge) : way;
}

/** The point of a ring (xyxy) that is nearest to a place, and how far it is, mm. */
function nearestCorner(ring: Float64Array, x: number, y: number): OnEdge {
  let at = 0;
  let least = Infinity;
  for (let i = 0; i < ring.length; i += 2) {
    const dx = ring[i]! - x;
    const dy = ring[i + 1]! - y;
    const square = dx * dx + dy * dy;
    if (square >= least) continue;
    least = square;
    at = i;
  }
  return { index: at / 2, distance: Math.sqrt(least) };
}

/** The shorter way round a ring from one of its points to another, between two places. */
function alongRing(edge: Edge, from: number, to: number, x0: number, y0: number, x1: number, y1: number): Float64Array {
  const { ring } = edge;
  const n = ring.length / 2;
  const forth = lengthForth(edge, from, to);
  const step = forth <= aroundOf(edge) - forth ? 1 : -1;
  const points = [x0, y0];
  for (let k = from; ; k = (k + step + n) % n) {
    points.push(ring[k * 2]!, ring[k * 2 + 1]!);
    if (k === to) break;
  }
  points.push(x1, y1);
  return thinPath(Float64Array.from(points), CUT_OF_BEND);
}

function lengthsUpTo(ring: Float64Array): Float64Array {
  const n = ring.length / 2;
  const upTo = new Float64Array(n + 1);
  for (let k = 1; k <= n; k++) {
    const [i, j] = [(k - 1) * 2, (k % n) * 2];
    upTo[k] = upTo[k - 1]! + Math.hypot(ring[j]! - ring[i]!, ring[j + 1]! - ring[i + 1]!);
  }
  return upTo;
}
