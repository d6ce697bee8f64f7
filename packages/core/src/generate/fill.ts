import { lengthOfPath } from '../geometry/path.ts';
import { containsPoint } from '../geometry/ring.ts';
import { generateRun } from './run.ts';

export interface FillSpec {
  /** Same-direction pitch, mm: the distance from a row to the one after the next. */
  readonly spacing: number;
  /** Degrees, counter-clockwise from +x. */
  readonly angle: number;
  /** mm. */
  readonly stitchLength: number;
  /** By how much of a stitch the penetrations of one row are shifted against those of the row before. */
  readonly offset: number;
  /**
   * How a row's end leads to the next row: by a penetration of its own at the start of it, or slanting into it. Left out, it slants where the
   * rows are so near that a stitch between them would be tiny.
   */
  readonly rowEnds?: 'square' | 'slanted';
}

/** A grid penetration nearer to a row's end than this is left out, mm. */
const NEAR_END = 0.9;
/** Rows whose ends are nearer than this (mm) turn without a penetration at the start of the next. */
const LEAST_TURN = 0.6;
/** Turns longer than this (mm) are looked at: do they leave the shape? */
const FAR_TURN = 1;
/** How finely a way is looked at, mm. */
const LOOK = 0.2;
/** Travel inside a shape steps so, mm. Common practice: in the open 2 to 2.5. */
const TRAVEL_STITCH = 2.5;

/** Rows of a shape that can be sewn to and fro without leaving it: y of each, and where it begins and ends, in turned coordinates. */
interface Section {
  readonly y: number[];
  readonly left: number[];
  readonly right: number[];
}

/**
 * Penetrations of a fill of rings (xyxy; even-odd, so holes may be among them) as paths (xyxy): one where the sections of the shape could be
 * joined by travel inside it, more where not. A shape that no row meets gives none. Starts at the section end nearest to `from`.
 */
export function generateFill(rings: readonly Float64Array[], spec: FillSpec, from?: { x: number; y: number }): Float64Array[] {
  const turn = (spec.angle * Math.PI) / 180;
  const turned = rings.map((ring) => densify(rotate(ring, -turn)));
  const sections = findSections(turned, spec.spacing / 2);
  const start = from === undefined ? undefined : rotate(Float64Array.of(from.x, from.y), -turn);
  const paths: number[][] = [];
  let x = start?.[0] ?? sections[0]?.left[0] ?? 0;
  let y = start?.[1] ?? sections[0]?.y[0] ?? 0;
  const left = new Set(sections);
  while (left.size > 0) {
    const next = nearestEnd(left, x, y);
    left.delete(next.section);
    const sewn = sewSection(turned, next.section, next.isTop, next.isRight, spec);
    const path = paths[paths.length - 1];
    const way = path === undefined ? undefined : travelInside(turned, x, y, sewn[0]!, sewn[1]!);
    if (path !== undefined && way !== undefined) for (const part of [way, sewn]) for (const value of part) path.push(value);
    else paths.push(sewn);
    x = sewn[sewn.length - 2]!;
    y = sewn[sewn.length - 1]!;
  }
  return paths.map((path) => rotate(Float64Array.from(path), turn));
}

/** Cuts the shape into rows and joins those that follow one another without a branch. */
function findSections(rings: readonly Float64Array[], step: number): Section[] {
  let low = Infinity;
  let high = -Infinity;
  for (const ring of rings) {
    for (let i = 1; i < ring.length; i += 2) {
      low = Math.min(low, ring[i]!);
      high = Math.max(high, ring[i]!);
    }
  }
  const sections: Section[] = [];
  let open: Section[] = [];
  // On a grid of its own, half a step from zero, so that rows seldom run exactly along an edge.
  for (let k = Math.ceil(low / step - 0.5); (k + 0.5) * step < high; k++) {
    const y = (k + 0.5) * step;
    const xs = crossings(rings, y);
    const spans: [number, number][] = [];
    for (let i = 0; i + 1 < xs.length; i += 2) if (xs[i + 1]! - xs[i]! > 0.2) spans.push([xs[i]!, xs[i + 1]!]);
    const next: Section[] = [];
    for (const [a, b] of spans) {
      const above = open.filter((s) => s.left[s.left.length - 1]! < b && s.right[s.right.length - 1]! > a);
      const only = above.length === 1 ? above[0]! : undefined;
      const isShared =
        only !== undefined &&
        spans.filter(([c, d]) => only.left[only.left.length - 1]! < d && only.right[only.right.length - 1]! > c).length > 1;
      let section = only;
      if (section === undefined || isShared) {
        section = { y: [], left: [], right: [] };
        sections.push(section);
      }
      next.push(section);
    }
    spans.forEach(([a, b], i) => {
      next[i]!.y.push(y);
      next[i]!.left.push(a);
      next[i]!.right.push(b);
    });
    open = next;
  }
  return sections;
}

function crossings(rings: readonly Float64Array[], y: number): number[] {
  const xs: number[] = [];
  for (const ring of rings) {
    const n = ring.length / 2;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      const yi = ring[i * 2 + 1]!;
      const yj = ring[j * 2 + 1]!;
      if (yi > y !== yj > y) xs.push(((ring[j * 2]! - ring[i * 2]!) * (y - yi)) / (yj - yi) + ring[i * 2]!);
    }
  }
  return xs.sort((a, b) => a - b);
}

function nearestEnd(sections: Iterable<Section>, x: number, y: number): { section: Section; isTop: boolean; isRight: boolean } {
  let best: { section: Section; isTop: boolean; isRight: boolean } | undefined;
  let least = Infinity;
  for (const section of sections) {
    for (const isTop of [false, true]) {
      const k = isTop ? section.y.length - 1 : 0;
      for (const isRight of [false, true]) {
        const distance = Math.hypot((isRight ? section.right[k]! : section.left[k]!) - x, section.y[k]! - y);
        if (distance < least) {
          least = distance;
          best = { section, isTop, isRight };
        }
      }
    }
  }
  return best!;
}

/** Rows to and fro; penetrations on a grid that shifts from row to row, so that they form bricks and no furrow. */
function sewSection(rings: readonly Float64Array[], section: Section, isTop: boolean, isRight: boolean, spec: FillSpec): number[] {
  const out: number[] = [];
  const rows = section.y.length;
  let toLeft = isRight;
  for (let n = 0; n < rows; n++) {
    const k = isTop ? rows - 1 - n : n;
    const y = section.y[k]!;
    const a = section.left[k]!;
    const b = section.right[k]!;
    const index = Math.round((y * 2) / spec.spacing - 0.5);
    const shift = (((index * spec.offset) % 1) + 1) % 1;
    const first = Math.ceil((a + NEAR_END) / spec.stitchLength - shift);
    const last = Math.floor((b - NEAR_END) / spec.stitchLength - shift);
    const start = toLeft ? b : a;
    // Next row's start is half a pitch away: a penetration of its own would be a tiny stitch, so the turn slants into the row.
    const turn = n === 0 ? Infinity : Math.hypot(start - out[out.length - 2]!, y - out[out.length - 1]!);
    // Where a shape widens at a stroke the next row's end is far, and the straight way to it may lead over open cloth.
    const [x0, y0] = [out[out.length - 2]!, out[out.length - 1]!];
    const around = n > 0 && turn > FAR_TURN && !isWayInside(rings, x0, y0, start, y) ? travelInside(rings, x0, y0, start, y) : undefined;
    if (around !== undefined) out.push(...around, start, y);
    else if (n > 0 && turn > spec.stitchLength) stepTo(out, start, y, spec.stitchLength);
    else if (n === 0 || isSquare(turn, spec)) out.push(start, y);
    for (let g = 0; g <= last - first; g++) out.push(((toLeft ? last - g : first + g) + shift) * spec.stitchLength, y);
    out.push(toLeft ? a : b, y);
    toLeft = !toLeft;
  }
  return out;
}

function isSquare(turn: number, { rowEnds, stitchLength }: FillSpec): boolean {
  if (rowEnds === undefined) return turn > LEAST_TURN;
  return rowEnds === 'square' || turn > stitchLength;
}

/** Appends even steps of `longest` mm at most to a point, from the last one in `out`: where a shape widens at a stroke, a row's end is far. */
function stepTo(out: number[], x: number, y: number, longest: number): void {
  const x0 = out[out.length - 2]!;
  const y0 = out[out.length - 1]!;
  const count = Math.ceil(Math.hypot(x - x0, y - y0) / longest);
  for (let k = 1; k <= count; k++) out.push(x0 + ((x - x0) * k) / count, y0 + ((y - y0) * k) / count);
}

/** Penetrations between two row ends without the last one: straight where that stays inside, else along the outline; none where it cannot. */
function travelInside(rings: readonly Float64Array[], x0: number, y0: number, x1: number, y1: number): number[] | undefined {
  let path: Float64Array = Float64Array.of(x0, y0, x1, y1);
  if (!isWayInside(rings, x0, y0, x1, y1)) {
    const ring = rings.find((r) => nearestVertex(r, x0, y0).distance < 1 && nearestVertex(r, x1, y1).distance < 1);
    if (ring === undefined) return undefined;
    path = alongRing(ring, nearestVertex(ring, x0, y0).index, nearestVertex(ring, x1, y1).index, x0, y0, x1, y1);
  }
  const run = generateRun(path, { stitchLength: TRAVEL_STITCH });
  return [...run.subarray(2, run.length - 2)];
}

/** Whether the straight way between two points stays in the rings. The ends, which may lie on an edge, are not asked about. */
function isWayInside(rings: readonly Float64Array[], x0: number, y0: number, x1: number, y1: number): boolean {
  const distance = Math.hypot(x1 - x0, y1 - y0);
  for (let d = LOOK; d < distance - LOOK / 2; d += LOOK) {
    if (!containsPoint(rings, x0 + ((x1 - x0) * d) / distance, y0 + ((y1 - y0) * d) / distance)) return false;
  }
  return true;
}

function nearestVertex(ring: Float64Array, x: number, y: number): { index: number; distance: number } {
  let index = 0;
  let distance = Infinity;
  for (let i = 0; i < ring.length; i += 2) {
    const d = Math.hypot(ring[i]! - x, ring[i + 1]! - y);
    if (d < distance) {
      distance = d;
      index = i / 2;
    }
  }
  return { index, distance };
}

/** The shorter way round a ring from vertex `from` to vertex `to`, between two points. */
function alongRing(ring: Float64Array, from: number, to: number, x0: number, y0: number, x1: number, y1: number): Float64Array {
  const n = ring.length / 2;
  const ways = [1, -1].map((step) => {
    const points = [x0, y0];
    for (let k = from; ; k = (k + step + n) % n) {
      points.push(ring[k * 2]!, ring[k * 2 + 1]!);
      if (k === to) break;
    }
    points.push(x1, y1);
    return Float64Array.from(points);
  });
  return lengthOfPath(ways[0]!) <= lengthOfPath(ways[1]!) ? ways[0]! : ways[1]!;
}

/** The ring with points added so that none is farther than a millimetre from the next, for finding places along it. */
function densify(ring: Float64Array): Float64Array {
  const out: number[] = [];
  const n = ring.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const dx = ring[j * 2]! - ring[i * 2]!;
    const dy = ring[j * 2 + 1]! - ring[i * 2 + 1]!;
    const parts = Math.max(1, Math.ceil(Math.hypot(dx, dy)));
    for (let k = 0; k < parts; k++) out.push(ring[i * 2]! + (dx * k) / parts, ring[i * 2 + 1]! + (dy * k) / parts);
  }
  return Float64Array.from(out);
}

function rotate(points: Float64Array, turn: number): Float64Array {
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 2) {
    out[i] = points[i]! * c - points[i + 1]! * s;
    out[i + 1] = points[i]! * s + points[i + 1]! * c;
  }
  return out;
}
