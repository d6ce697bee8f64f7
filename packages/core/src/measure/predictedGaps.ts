import { containsPoint } from '../geometry/ring.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import type { Target } from '../model/target.ts';
import { pullShareOf, PUSH, shareOfChord } from './sewnPrediction.ts';

/** Two objects between which the cloth will show, and where it shows most. */
export interface PredictedGap {
  /** Indices of the objects; the first one's edge is where `at` lies. */
  readonly objects: readonly [number, number];
  /** mm. */
  readonly width: number;
  readonly at: { readonly x: number; readonly y: number };
  /** The place of the other edge that faces it. */
  readonly to: { readonly x: number; readonly y: number };
  /** By how much it widens for each mm of the cloth's pull. */
  readonly perPull: number;
}

/** Edges farther apart in plan than this (mm) were not meant to meet; what lies deeper in the other is no edge between them. */
const MEETING = 0.5;
const DEEPEST = 2.5;
/** Gaps narrower than this (mm) are closed by the thread's own thickness. */
const LEAST_GAP = 0.1;

/** A place on an edge, its outward normal, and by how much the cloth will move it outward there, mm (mostly inward: below 0). */
interface EdgePlace {
  readonly x: number;
  readonly y: number;
  readonly nx: number;
  readonly ny: number;
  readonly out: number;
  /** The same that is due to each mm of the cloth's pull. */
  readonly perPull: number;
}

/**
 * Pairs of covers that meet or overlap in plan and between which cloth will show, widest first: the plan's gap and what either edge draws back.
 * `wanted` restricts the answer to pairs with one of these objects, `meeting` to edges that lie no farther apart in plan, mm. An estimate. O(pairs near each other × their edges).
 */
export function predictGaps(
  objects: readonly StitchObject[],
  target: Target,
  wanted?: ReadonlySet<number>,
  meeting = MEETING,
): PredictedGap[] {
  const covers = objects.flatMap((o, k) =>
    o.role === 'cover' && o.kind !== 'run' && o.kind !== 'other' && o.outline.length >= 6 ? [k] : [],
  );
  const places = new Map<number, EdgePlace[]>();
  const placesOf = (k: number): EdgePlace[] => {
    const known = places.get(k) ?? edgeOf(objects[k]!, target);
    places.set(k, known);
    return known;
  };
  const boxes = new Map(covers.map((k) => [k, boxAround(objects[k]!.outline)]));
  const gaps: PredictedGap[] = [];
  for (const a of covers) {
    for (const b of covers) {
      if (a === b || (wanted !== undefined && !wanted.has(a) && !wanted.has(b)) || areApart(boxes.get(a)!, boxes.get(b)!)) continue;
      const gap = gapBetween(placesOf(a), placesOf(b), objects[b]!, meeting);
      if (gap !== undefined) gaps.push({ objects: [a, b], ...gap });
    }
  }
  // Each pair is looked at from both edges: the wider of the two stays.
  const best = new Map<string, PredictedGap>();
  for (const gap of gaps) {
    const key = [...gap.objects].sort((p, q) => p - q).join(' ');
    if ((best.get(key)?.width ?? 0) < gap.width) best.set(key, gap);
  }
  return [...best.values()].sort((p, q) => q.width - p.width);
}

function boxAround(ring: Float64Array): readonly [number, number, number, number] {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < ring.length; k += 2) {
    [minX, maxX] = [Math.min(minX, ring[k]!), Math.max(maxX, ring[k]!)];
    [minY, maxY] = [Math.min(minY, ring[k + 1]!), Math.max(maxY, ring[k + 1]!)];
  }
  return [minX, minY, maxX, maxY];
}

function areApart(a: readonly [number, number, number, number], b: readonly [number, number, number, number]): boolean {
  return a[0] > b[2] + MEETING || b[0] > a[2] + MEETING || a[1] > b[3] + MEETING || b[1] > a[3] + MEETING;
}

/** Edges are looked at every so many millimetres. */
const EDGE_STEP = 0.8;

interface KnownEdge {
  readonly object: StitchObject;
  readonly target: Target;
  readonly places: EdgePlace[];
}

type WidestGap = Omit<PredictedGap, 'objects'>;

/** What was found between two edges, for as long as both are as they were: most pairs of a design stay when one object changes. */
const knownGaps = new WeakMap<
  readonly EdgePlace[],
  WeakMap<readonly EdgePlace[], { holes: unknown; meeting: number; gap: WidestGap | undefined }>
>();

function gapBetween(
  edge: readonly EdgePlace[],
  other: readonly EdgePlace[],
  { outline, holes }: StitchObject,
  meeting: number,
): WidestGap | undefined {
  let known = knownGaps.get(edge);
  if (known === undefined) knownGaps.set(edge, (known = new WeakMap()));
  const before = known.get(other);
  if (before?.holes === holes && before.meeting === meeting) return before.gap;
  const gap = widestGap(edge, other, [outline, ...holes], meeting);
  known.set(other, { holes, meeting, gap });
  return gap;
}

/** Edges by their outlines: designs that differ in one object are asked one after another. */
const knownEdges = new WeakMap<Float64Array, KnownEdge>();

function edgeOf(object: StitchObject, target: Target): EdgePlace[] {
  const known = knownEdges.get(object.outline);
  const isFor = known?.target.fabric.pull === target.fabric.pull && known.target.thread === target.thread;
  if (isFor && MATTERS.every((name) => known.object[name] === object[name])) return known.places;
  const places = walkEdge(object, target);
  knownEdges.set(object.outline, { object, target, places });
  return places;
}

/** What of an object the places on its edge are made of, besides the outline. */
const MATTERS = ['kind', 'angle', 'spacing', 'rails', 'underlay', 'made'] as const satisfies readonly (keyof StitchObject)[];

function walkEdge(object: StitchObject, target: Target): EdgePlace[] {
  const { outline, rails, angle = 0 } = object;
  const share = pullShareOf(object, target);
  const added = object.made?.spec.pull ?? 0;
  const out: EdgePlace[] = [];
  const n = outline.length / 2;
  let walked = EDGE_STEP;
  for (let k = 0; k < n; k++) {
    const [x, y] = [outline[k * 2]!, outline[k * 2 + 1]!];
    const next = ((k + 1) % n) * 2;
    const [dx, dy] = [outline[next]! - x, outline[next + 1]! - y];
    const length = Math.hypot(dx, dy);
    walked += length;
    if (length === 0 || walked < EDGE_STEP) continue;
    walked = 0;
    // Outlines run counter-clockwise, so that the outside is to the right.
    const [nx, ny] = [dy / length, -dx / length];
    const [px, py] = [x + dx / 2, y + dy / 2];
    const [ux, uy] =
      object.kind === 'satin' && rails !== undefined
        ? acrossColumn(rails, px, py)
        : [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    const along = nx * ux + ny * uy;
    const across = nx * -uy + ny * ux;
    const perPull =
      share * shareOfChord(chordAt(outline, px - nx * 0.05, py - ny * 0.05, ux, uy)) * (PUSH * across * across - along * along);
    out.push({ ...{ x: px, y: py, nx, ny }, out: added * Math.abs(along) + target.fabric.pull * perPull, perPull });
  }
  return out;
}

/** The way throws run at a place on a column's edge: toward the nearest place of the other edge. */
function acrossColumn({ left, right }: NonNullable<StitchObject['rails']>, x: number, y: number): [number, number] {
  const [onLeft, onRight] = [nearestOn(left, x, y), nearestOn(right, x, y)];
  const [dx, dy] = onLeft.distance < onRight.distance ? [onRight.x - x, onRight.y - y] : [onLeft.x - x, onLeft.y - y];
  const length = Math.hypot(dx, dy);
  return length > 0 ? [dx / length, dy / length] : [1, 0];
}

function nearestOn(line: Float64Array, x: number, y: number): { x: number; y: number; distance: number } {
  let best = 0;
  let least = Infinity;
  for (let k = 0; k < line.length; k += 2) {
    const [dx, dy] = [line[k]! - x, line[k + 1]! - y];
    const square = dx * dx + dy * dy;
    if (square < least) [least, best] = [square, k];
  }
  return line.length === 0 ? { x, y, distance: Infinity } : { x: line[best]!, y: line[best + 1]!, distance: Math.sqrt(least) };
}

/** How long the stretch of a line through a point is inside a ring, mm. */
function chordAt(ring: Float64Array, x: number, y: number, ux: number, uy: number): number {
  let before = -Infinity;
  let after = Infinity;
  const n = ring.length / 2;
  for (let i = 0, j = n - 1; i < n; j = i++) {
    const p = (ring[j * 2 + 1]! - y) * ux - (ring[j * 2]! - x) * uy;
    const q = (ring[i * 2 + 1]! - y) * ux - (ring[i * 2]! - x) * uy;
    if (p > 0 === q > 0) continue;
    const t = p / (p - q);
    const u =
      (ring[j * 2]! + t * (ring[i * 2]! - ring[j * 2]!) - x) * ux + (ring[j * 2 + 1]! + t * (ring[i * 2 + 1]! - ring[j * 2 + 1]!) - y) * uy;
    if (u <= 0) before = Math.max(before, u);
    else after = Math.min(after, u);
  }
  return Number.isFinite(before) && Number.isFinite(after) ? after - before : 0;
}

/** Places of an edge by the squares of {@link DEEPEST} that they lie in, so that what is near is found without walking all of it. */
const squaresOf = new WeakMap<readonly EdgePlace[], ReadonlyMap<number, readonly EdgePlace[]>>();

function inSquares(edge: readonly EdgePlace[]): ReadonlyMap<number, readonly EdgePlace[]> {
  const known = squaresOf.get(edge);
  if (known !== undefined) return known;
  const squares = new Map<number, EdgePlace[]>();
  for (const place of edge) {
    const key = squareAt(place.x, place.y, 0, 0);
    const square = squares.get(key);
    if (square === undefined) squares.set(key, [place]);
    else square.push(place);
  }
  squaresOf.set(edge, squares);
  return squares;
}

const squareAt = (x: number, y: number, right: number, down: number): number =>
  (Math.floor(x / DEEPEST) + right) * 65_536 + Math.floor(y / DEEPEST) + down;

/** The nearest place of another edge that faces a place: their outsides look at one another. */
function facing({ x, y, nx, ny }: EdgePlace, other: ReadonlyMap<number, readonly EdgePlace[]>): EdgePlace | undefined {
  let near: EdgePlace | undefined;
  let least = DEEPEST * DEEPEST;
  for (let down = -1; down <= 1; down++)
    for (let right = -1; right <= 1; right++) {
      const square = other.get(squareAt(x, y, right, down));
      if (square === undefined) continue;
      for (let k = 0; k < square.length; k++) {
        const o = square[k]!;
        const [dx, dy] = [o.x - x, o.y - y];
        const apart = dx * dx + dy * dy;
        if (apart < least && o.nx * nx + o.ny * ny <= -0.5) [least, near] = [apart, o];
      }
    }
  return near;
}

function widestGap(
  edge: readonly EdgePlace[],
  other: readonly EdgePlace[],
  rings: readonly Float64Array[],
  meeting: number,
): WidestGap | undefined {
  const squares = inSquares(other);
  let widest: WidestGap | undefined;
  for (const place of edge) {
    const { x, y, nx, ny } = place;
    const near = facing(place, squares);
    if (near === undefined) continue;
    const apart = Math.abs((near.x - x) * nx + (near.y - y) * ny);
    const plan = containsPoint(rings, x, y) ? -apart : apart;
    if (plan > meeting) continue;
    const width = plan - place.out - near.out;
    if (width > LEAST_GAP && width > (widest?.width ?? 0))
      widest = { width, at: { x, y }, to: { x: near.x, y: near.y }, perPull: -place.perPull - near.perPull };
  }
  return widest;
}
