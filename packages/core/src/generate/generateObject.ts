import { lengthOfPath, resamplePath } from '../geometry/path.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import type { ObjectShape, ObjectSpec, UnderlaySpec } from '../model/objectSpec.ts';
import type { UnderlayKind } from '../recognize/stitchObject.ts';
import { type Column, turned } from './columns.ts';
import { generateContour } from './contour.ts';
import { columnAlongLine, columnOfArea, lineOfColumn, ringOfColumn } from './convertShape.ts';
import { generateEdgeStitch } from './edgeStitch.ts';
import { type FillEnds, generateFill } from './fill.ts';
import { generateMeander } from './meander.ts';
import { repairShape } from './repairShape.ts';
import { generateRun } from './run.ts';
import { generateSatin } from './satin.ts';
import {
  closeRing,
  generateColumnEdgeRun,
  generateEdgeRun,
  generateOneWayRun,
  generateTatamiUnderlay,
  generateZigzag,
  INSET,
  TATAMI_SPACING,
  ZIGZAG_SPACING,
} from './underlay.ts';
import { createWalk, type Walk } from './walker.ts';

/** Penetrations of one kind that follow those of the part before; where `isApart` the needle has to get to the first one without sewing. */
export interface ObjectPart {
  readonly role: 'underlay' | 'travel' | 'cover';
  readonly layer?: UnderlayKind;
  /** xyxy. */
  readonly points: Float64Array;
  readonly isApart: boolean;
}

/** An object's stitches in sewing order, and what had to be put right or could not be done as asked, in words. */
export interface GeneratedObject {
  readonly parts: readonly ObjectPart[];
  readonly notes: readonly string[];
}

/** A penetration nearer to the last one than this (mm) is left out, wherever parts meet. */
const LEAST_STEP = 0.36;
/** Throws wider than this (mm) are stitches of a fill rather than of a satin. */
const LONGEST_STITCH = 12;

/**
 * Sews a shape as its spec says: underlay layer by layer, then the cover, joined by walks inside the shape, from `from` to `to` where these lie
 * on it. Refused with the reason where the shape cannot be sewn so, and nothing is generated then.
 */
export function generateObject(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds = {}): Result<GeneratedObject, string> {
  try {
    return sewShape(shape, spec, ends);
  } catch (error) {
    // Generators refuse specs without sense by throwing; to who asked for the spec that is a reason like any other.
    if (error instanceof RangeError) return fail(error.message);
    throw error;
  }
}

function sewShape(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds): Result<GeneratedObject, string> {
  switch (spec.kind) {
    case 'run':
      return sewRun(shape, spec, ends);
    case 'satin': {
      const column = columnFor(shape, spec);
      return column.ok ? sewSatin(column.value, spec, ends) : column;
    }
    case 'fill':
    case 'contour':
    case 'meander':
      return sewArea(shape, spec, ends);
    case 'edge-stitch':
      return sewEdgeStitch(shape, spec, ends);
  }
}

/** Collects parts and keeps where the needle is. */
class Collector {
  readonly parts: ObjectPart[] = [];
  x: number | undefined;
  y: number | undefined;

  /** `walk` gives the way to a part's first point; without one, or where it finds none, the part stands apart. */
  add(role: ObjectPart['role'], path: Float64Array, walk: Walk | undefined, layer?: UnderlayKind): void {
    if (path.length < 2) return;
    const isFirst = this.x === undefined;
    const way = isFirst ? undefined : walk?.(this.x!, this.y!, path[0]!, path[1]!);
    if (way !== undefined && way.length > 0) this.push({ role: 'travel', points: this.spread(way), isApart: false });
    const isApart = isFirst || way === undefined;
    const points = isApart
      ? Float64Array.from([path[0]!, path[1]!, ...this.spread(path.subarray(2), path[0], path[1])])
      : this.spread(path);
    this.push({ role, ...(layer === undefined ? {} : { layer }), points, isApart });
  }

  private push(part: ObjectPart): void {
    if (part.points.length === 0) return;
    this.parts.push(part);
    [this.x, this.y] = [part.points[part.points.length - 2], part.points[part.points.length - 1]];
  }

  /** The points without those too near to the one before; the last one stays. */
  private spread(points: Float64Array, x = this.x, y = this.y): Float64Array {
    const out: number[] = [];
    for (let k = 0; k < points.length; k += 2) {
      const isNear = x !== undefined && y !== undefined && Math.hypot(points[k]! - x, points[k + 1]! - y) < LEAST_STEP;
      if (isNear && k < points.length - 2) continue;
      if (isNear && out.length >= 2) out.length -= 2;
      [x, y] = [points[k], points[k + 1]];
      out.push(x!, y!);
    }
    return Float64Array.from(out);
  }
}

function sewRun(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds): Result<GeneratedObject, string> {
  const lines = linesOf(shape);
  if (lines.length === 0 || lines.every((line) => lengthOfPath(line) < LEAST_STEP)) return fail('the line has no length to sew');
  const out = new Collector();
  for (const line of lines) {
    const { from } = ends;
    const isBack = from !== undefined && distanceTo(line, -1, from) < distanceTo(line, 0, from) - 1e-9;
    const there = generateRun(isBack ? turned(line) : line, { stitchLength: spec.stitchLength });
    const all = [...there];
    for (let pass = 1; pass < spec.passes; pass++) all.push(...(pass % 2 === 1 ? turned(there) : there).subarray(2));
    out.add('cover', Float64Array.from(all), undefined);
  }
  return succeed({ parts: out.parts, notes: spec.underlay.length > 0 ? ['a run takes no underlay'] : [] });
}

function linesOf(shape: ObjectShape): Float64Array[] {
  switch (shape.kind) {
    case 'line':
      return [Float64Array.from(shape.path)];
    case 'column':
      return [lineOfColumn(columnOf(shape))];
    case 'area':
      return shape.rings.map((ring) => closeRing(Float64Array.from(ring)));
  }
}

function columnOf({ left, right }: Extract<ObjectShape, { kind: 'column' }>): Column {
  return { left: Float64Array.from(left), right: Float64Array.from(right) };
}

function distanceTo(line: Float64Array, at: 0 | -1, { x, y }: { x: number; y: number }): number {
  const k = at === 0 ? 0 : line.length - 2;
  return Math.hypot(line[k]! - x, line[k + 1]! - y);
}

/** The column that a shape is sewn as by a satin's spec, or why it is none. */
export function columnFor(shape: ObjectShape, spec: ObjectSpec): Result<Column, string> {
  switch (shape.kind) {
    case 'column':
      return soundColumn(columnOf(shape));
    case 'line':
      return soundColumn(columnAlongLine(Float64Array.from(shape.path), spec.width));
    case 'area':
      return columnOfArea(shape.rings.map((ring) => Float64Array.from(ring)));
  }
}

/** Edges that run the same way. Refused where they are no lines. */
function soundColumn({ left, right }: Column): Result<Column, string> {
  for (const rail of [left, right]) {
    if (rail.length < 4) return fail('an edge of the column has no length');
    if (!rail.every((v) => Number.isFinite(v) && Math.abs(v) <= 1000))
      return fail('a corner of the column is not a number, or beyond any hoop');
  }
  if (Math.max(lengthOfPath(left), lengthOfPath(right)) < LEAST_STEP) return fail('the column has no length');
  return succeed(apartAlong(left, right) <= apartAlong(left, turned(right)) ? { left, right } : { left, right: turned(right) });
}

/** How far apart two edges are in the mean, mm, by places at the same share of each. */
function apartAlong(left: Float64Array, right: Float64Array): number {
  const [a, b] = [resamplePath(left, PLACES), resamplePath(right, PLACES)];
  let sum = 0;
  for (let k = 0; k < a.length; k += 2) sum += Math.hypot(a[k]! - b[k]!, a[k + 1]! - b[k + 1]!);
  return sum / PLACES;
}

const PLACES = 25;

/**
 * A column is sewn from one of its ends to the other. Each layer of underlay leaves the needle at the same end or the other one; where that is the
 * wrong one for the satin to end at the way out, a run goes back down the middle first.
 */
function sewSatin(column: Column, spec: ObjectSpec, { from, to }: FillEnds): Result<GeneratedObject, string> {
  const notes: string[] = [];
  const out = new Collector();
  const ring = ringOfColumn(column);
  const walk = createWalk([ring]);
  // Ends by number: 0 where the rails start.
  const nearer = (p: { x: number; y: number } | undefined): 0 | 1 | undefined =>
    p === undefined ? undefined : distanceToEnd(column, 1, p) < distanceToEnd(column, 0, p) ? 1 : 0;
  const wanted = nearer(to);
  let at: 0 | 1 = nearer(from) ?? 0;
  if (from !== undefined && distanceToEnd(column, at, from) < MEETS + widthAt(column, at))
    out.add('travel', Float64Array.of(from.x, from.y), walk);
  const facing = (): Column => (at === 0 ? column : { left: turned(column.right), right: turned(column.left) });
  const step = (path: Float64Array, layer: UnderlayKind, turnsBack: boolean): void => {
    out.add('underlay', path, walk, layer);
    if (!turnsBack) at = at === 0 ? 1 : 0;
  };
  for (const { kind, spacing, inset } of spec.underlay) {
    const { left, right } = facing();
    if (kind === 'center-run') step(generateOneWayRun(left, right), kind, false);
    else if (kind === 'edge-run') step(generateColumnEdgeRun(left, right, inset ?? INSET), kind, true);
    else if (kind === 'zigzag') step(generateZigzag(left, right, spacing ?? ZIGZAG_SPACING, inset), kind, false);
    else
      for (const path of generateTatamiUnderlay([ring], spec.angle, spacing ?? TATAMI_SPACING, inset ?? INSET))
        out.add('underlay', path, walk, kind);
  }
  if (wanted !== undefined && at === wanted) {
    const { left, right } = facing();
    out.add(
      spec.underlay.length > 0 ? 'travel' : 'underlay',
      generateOneWayRun(left, right),
      walk,
      spec.underlay.length > 0 ? undefined : 'center-run',
    );
    at = at === 0 ? 1 : 0;
    if (spec.underlay.length === 0) notes.push('a center run leads to the far end, so that the satin ends at its way out');
  }
  const { left, right } = facing();
  out.add('cover', generateSatin(left, right, { spacing: spec.spacing, pull: spec.pull, splitLength: spec.splitLength }), walk);
  return succeed({ parts: out.parts, notes });
}

/** A way in this near to a column's end (mm) is where the needle starts. */
const MEETS = 2;

function distanceToEnd({ left, right }: Column, end: 0 | 1, { x, y }: { x: number; y: number }): number {
  const [l, r] = end === 0 ? [0, 0] : [left.length - 2, right.length - 2];
  return Math.hypot((left[l]! + right[r]!) / 2 - x, (left[l + 1]! + right[r + 1]!) / 2 - y);
}

function widthAt({ left, right }: Column, end: 0 | 1): number {
  const [l, r] = end === 0 ? [0, 0] : [left.length - 2, right.length - 2];
  return Math.hypot(left[l]! - right[r]!, left[l + 1]! - right[r + 1]!);
}

function sewArea(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds): Result<GeneratedObject, string> {
  if (shape.kind === 'line') return fail('a line encloses nothing that a fill could cover; make it a satin or a run');
  const rings = shape.kind === 'area' ? shape.rings.map((ring) => Float64Array.from(ring)) : [ringOfColumn(columnOf(shape))];
  const sound = repairShape(rings);
  if (!sound.ok) return sound;
  const area = sound.value.rings;
  const out = new Collector();
  const walk = createWalk(area);
  if (ends.from !== undefined) out.add('travel', Float64Array.of(ends.from.x, ends.from.y), walk);
  for (const layer of spec.underlay) for (const path of layerOfArea(area, layer, spec)) out.add('underlay', path, walk, layer.kind);
  const from = out.x === undefined ? ends.from : { x: out.x, y: out.y! };
  const cover = coverOfArea(area, spec, { ...(from === undefined ? {} : { from }), ...(ends.to === undefined ? {} : { to: ends.to }) });
  if (cover.length === 0) return fail(`the shape is too thin for a ${spec.kind} at ${spec.spacing} mm; take a closer spacing or a satin`);
  for (const path of cover) out.add('cover', path, walk);
  return succeed({ parts: out.parts, notes: sound.value.notes });
}

function coverOfArea(rings: readonly Float64Array[], spec: ObjectSpec, ends: FillEnds): Float64Array[] {
  const { kind, spacing, stitchLength, angle, angleLines, offset, rowEnds, pull } = spec;
  if (kind === 'contour') return generateContour(rings, { spacing, stitchLength, pull }, ends.from);
  if (kind === 'meander') return generateMeander(rings, { spacing, stitchLength }, ends.from);
  return generateFill(
    rings,
    { spacing, angle, angleLines, stitchLength: Math.min(stitchLength, LONGEST_STITCH), offset, rowEnds, pull },
    ends,
  );
}

function layerOfArea(
  rings: readonly Float64Array[],
  { kind, spacing, inset = INSET, angle }: UnderlaySpec,
  spec: ObjectSpec,
): Float64Array[] {
  switch (kind) {
    case 'tatami':
      return generateTatamiUnderlay(rings, spec.angle, spacing ?? TATAMI_SPACING, inset, angle);
    case 'edge-run':
      return generateEdgeRun(rings, inset);
    case 'zigzag':
      return generateTatamiUnderlay(rings, spec.angle, spacing ?? ZIGZAG_SPACING, inset, angle);
    case 'center-run': {
      const column = columnOfArea(rings);
      return column.ok ? [generateOneWayRun(column.value.left, column.value.right)] : generateEdgeRun(rings, 2 * inset);
    }
  }
}

function sewEdgeStitch(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds): Result<GeneratedObject, string> {
  const out = new Collector();
  const sound = shape.kind === 'area' ? repairShape(shape.rings.map((ring) => Float64Array.from(ring))) : undefined;
  if (sound?.ok === false) return sound;
  // Of a sound area outlines run counter-clockwise and holes clockwise, so that prongs to the left reach inward.
  for (const line of sound === undefined ? linesOf(shape) : sound.value.rings.map(closeRing)) {
    if (lengthOfPath(line) < spec.spacing) continue;
    const start = shape.kind === 'area' && ends.from !== undefined ? startNear(line, ends.from) : line;
    const points = generateEdgeStitch(start, { spacing: spec.spacing, prong: spec.width });
    out.parts.push({ role: 'cover', points, isApart: true });
  }
  if (out.parts.length === 0) return fail(`the edge is shorter than ${spec.spacing} mm, the way from prong to prong`);
  return succeed({ parts: out.parts, notes: spec.underlay.length > 0 ? ['an edge stitch takes no underlay'] : [] });
}

/** A closed line from its point nearest to a place. */
function startNear(line: Float64Array, { x, y }: { x: number; y: number }): Float64Array {
  let start = 0;
  let least = Infinity;
  for (let k = 0; k < line.length - 2; k += 2) {
    const d = (line[k]! - x) ** 2 + (line[k + 1]! - y) ** 2;
    if (d < least) [least, start] = [d, k];
  }
  return Float64Array.from([...line.subarray(start, line.length - 2), ...line.subarray(0, start + 2)]);
}
