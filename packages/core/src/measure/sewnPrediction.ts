import { containsPoint } from '../geometry/ring.ts';
import { type Program, STITCH } from '../model/program.ts';
import type { Target } from '../model/target.ts';
import { threadThickness } from '../model/thread.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { cutStrokes } from '../model/strokes.ts';

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

/** K of the cover that a cloth's pull is given for, and between what shares of it the pull grows with it. */
const USUAL_COVER = 0.94;
const COVER_SHARES = { low: 0.3, high: 1.8 };
/** Short rows pull less: this share, and so much more a millimetre, up to all. */
const SHORT = 0.4;
const PER_MILLIMETRE = 0.15;
/** What underlay leaves of the pull. */
const UNDERLAY = { none: 1.5, runOnly: 1.15, right: 1 };
/** Cloth is pushed out across the stitches by this share of what it is pulled in along them. */
const PUSH = 0.4;
/** Edges farther apart in plan than this (mm) were not meant to meet; what lies deeper in the other is no edge between them. */
const MEETING = 0.5;
const DEEPEST = 2.5;
/** Gaps narrower than this (mm) are closed by the thread's own thickness. */
const LEAST_GAP = 0.1;

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
      const gap = widestGap(placesOf(a), placesOf(b), [objects[b]!.outline, ...objects[b]!.holes], meeting);
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

/** Edges by their outlines: designs that differ in one object are asked one after another. */
const knownEdges = new WeakMap<Float64Array, KnownEdge>();

function edgeOf(object: StitchObject, target: Target): EdgePlace[] {
  const known = knownEdges.get(object.outline);
  if (known?.target === target && MATTERS.every((name) => known.object[name] === object[name])) return known.places;
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

function widestGap(
  edge: readonly EdgePlace[],
  other: readonly EdgePlace[],
  rings: readonly Float64Array[],
  meeting: number,
): Omit<PredictedGap, 'objects'> | undefined {
  let widest: Omit<PredictedGap, 'objects'> | undefined;
  for (const place of edge) {
    let near: EdgePlace | undefined;
    let distance = DEEPEST;
    for (const o of other) {
      // Only edges that face each other: their outsides look at one another.
      if (o.nx * place.nx + o.ny * place.ny > -0.5) continue;
      const d = Math.hypot(o.x - place.x, o.y - place.y);
      if (d < distance) [distance, near] = [d, o];
    }
    if (near === undefined) continue;
    const apart = Math.abs((near.x - place.x) * place.nx + (near.y - place.y) * place.ny);
    const plan = containsPoint(rings, place.x, place.y) ? -apart : apart;
    if (plan > meeting) continue;
    const width = plan - place.out - near.out;
    if (width > LEAST_GAP && width > (widest?.width ?? 0))
      widest = { width, at: { x: place.x, y: place.y }, to: { x: near.x, y: near.y }, perPull: -place.perPull - near.perPull };
  }
  return widest;
}
