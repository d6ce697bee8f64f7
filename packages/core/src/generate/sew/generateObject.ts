import { lengthOfPath } from '../../geometry/path.ts';
import { smoothPath } from '../../geometry/smoothPath.ts';
import { END_STITCH, type ObjectShape, type ObjectSpec, SHORTEST, type UnderlaySpec } from '../../model/objectSpec.ts';
import { remember } from '../../model/remember.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { Collector, type GeneratedObject } from './collector.ts';
import { turned } from '../column/columns.ts';
import { generateContour } from '../line/contour.ts';
import { columnOfArea, edgeOfColumn, lineOfColumn, ringOfColumn } from './convertShape.ts';
import { generateEdgeStitch, sewOwnProngs } from '../line/edgeStitch.ts';
import { generateFill } from '../fill/fill.ts';
import type { FillEnds } from '../fill/fillSpec.ts';
import { generateMeander } from '../line/meander.ts';
import { type ProngRoom, roomInside, roomToward } from '../line/prongRoom.ts';
import { repairShape } from './repairShape.ts';
import { generateRun } from '../line/run.ts';
import { columnFor, columnOf, sewSatin } from './sewSatin.ts';
import {
  closeRing,
  generateEdgeRun,
  generateOneWayRun,
  generateTatamiUnderlay,
  INSET,
  TATAMI_SPACING,
  ZIGZAG_SPACING,
} from '../underlay.ts';
import { createWalk } from '../fill/walker.ts';

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

function sewRun(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds): Result<GeneratedObject, string> {
  const lines = linesOf(shape);
  if (lines.length === 0 || lines.every((line) => lengthOfPath(line) < SHORTEST)) return fail('the line has no length to sew');
  const out = new Collector(spec.shortest);
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

function distanceTo(line: Float64Array, at: 0 | -1, { x, y }: Place): number {
  const k = at === 0 ? 0 : line.length - 2;
  return Math.hypot(line[k]! - x, line[k + 1]! - y);
}

function sewArea(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds): Result<GeneratedObject, string> {
  const inside = shape.kind === 'line' ? areaInside(shape) : shape;
  if (inside === undefined) return fail('a line that is open encloses nothing that a fill could cover; make it a satin or a run');
  const sound = soundArea(inside);
  if (!sound.ok) return sound;
  const area = sound.value.rings;
  const out = new Collector(spec.shortest);
  const walk = walkIn(area);
  if (ends.from !== undefined) out.add('travel', Float64Array.of(ends.from.x, ends.from.y), walk);
  for (const layer of spec.underlay) {
    const from = out.x === undefined ? undefined : { x: out.x, y: out.y! };
    for (const path of fromNearest(knownLayer(area, layer, spec, from), from)) out.add('underlay', path, walk, layer.kind);
  }
  const from = out.x === undefined ? ends.from : { x: out.x, y: out.y! };
  const cover =
    ownCover(shape, spec, from) ??
    coverOfArea(area, spec, { ...(from === undefined ? {} : { from }), ...(ends.to === undefined ? {} : { to: ends.to }) });
  if (cover.length === 0) return fail(`the shape is too thin for a ${spec.kind} at ${spec.spacing} mm; take a closer spacing or a satin`);
  for (const path of cover) out.add('cover', path, walk);
  return succeed({ parts: out.parts, notes: sound.value.notes });
}

/** A line whose ends lie no farther apart than this (mm) is closed. */
const CLOSED = 1;

/** What a closed line goes round; nothing where it is open. */
const areaInside = remember(({ path }: ObjectShape & { kind: 'line' }): (ObjectShape & { kind: 'area' }) | undefined => {
  const isOpen = path.length < 8 || Math.hypot(path[0]! - path.at(-2)!, path[1]! - path.at(-1)!) > CLOSED;
  return isOpen ? undefined : { kind: 'area', rings: [path] };
});

/** The rings of a shape that is no line, made sound. */
const soundArea = remember((shape: Exclude<ObjectShape, { kind: 'line' }>) =>
  repairShape(shape.kind === 'area' ? shape.rings.map((ring) => Float64Array.from(ring)) : [ringOfColumn(columnOf(shape))]),
);
const walkIn = remember(createWalk);
const roomIn = remember(roomInside);
const layersIn = remember((_: readonly Float64Array[]) => new Map<string, readonly Float64Array[]>());
const LAYERS_KEPT = 12;

/** A layer of underlay, kept with its shape: while the cover is tried in many ways it stays the same. */
function knownLayer(
  rings: readonly Float64Array[],
  layer: UnderlaySpec,
  spec: ObjectSpec,
  from: Place | undefined,
): readonly Float64Array[] {
  const layers = layersIn(rings);
  const key = JSON.stringify([layer, layer.angle === undefined ? spec.angle : 0, from]);
  const paths = layers.get(key) ?? layerOfArea(rings, layer, spec, from);
  layers.set(key, paths);
  if (layers.size > LAYERS_KEPT) layers.delete(layers.keys().next().value!);
  return paths;
}

/** Along the line that a contour or meander fill was found on, while what shapes the line is unchanged. */
function ownCover(
  shape: ObjectShape,
  { kind, spacing, stitchLength, pull }: ObjectSpec,
  from: Place | undefined,
): Float64Array[] | undefined {
  const line = shape.kind === 'area' ? shape.line : undefined;
  if (line?.kind !== kind || line.paths.length === 0 || line.spacing !== spacing || (kind === 'contour' && pull !== 0)) return undefined;
  const there = line.paths.map((path) => Float64Array.from(path));
  const isBack = from !== undefined && distanceTo(there.at(-1)!, -1, from) < distanceTo(there[0]!, 0, from) - 1e-9;
  const paths = isBack ? there.map(turned).reverse() : there;
  return stitchLength === line.stitchLength ? paths : paths.map((path) => generateRun(smoothPath(path), { stitchLength }));
}

function coverOfArea(rings: readonly Float64Array[], spec: ObjectSpec, ends: FillEnds): Float64Array[] {
  const { kind, spacing, stitchLength, pull, endStitch = END_STITCH } = spec;
  if (kind === 'contour') return generateContour(rings, { spacing, stitchLength, pull }, ends.from);
  if (kind === 'meander') return generateMeander(rings, { spacing, stitchLength }, ends.from);
  return generateFill(rings, { ...spec, stitchLength: Math.min(stitchLength, LONGEST_STITCH), endStitch }, ends);
}

function layerOfArea(
  rings: readonly Float64Array[],
  { kind, spacing, inset = INSET, angle, stitchLength }: UnderlaySpec,
  spec: ObjectSpec,
  from: Place | undefined,
): Float64Array[] {
  const ends = from === undefined ? {} : { from };
  switch (kind) {
    case 'tatami':
      return generateTatamiUnderlay(rings, spec.angle, spacing ?? TATAMI_SPACING, inset, angle, stitchLength, ends);
    case 'edge-run':
      return generateEdgeRun(rings, inset, stitchLength);
    case 'zigzag':
      return generateTatamiUnderlay(rings, spec.angle, spacing ?? ZIGZAG_SPACING, inset, angle, stitchLength, ends);
    case 'center-run': {
      const column = columnOfArea(rings);
      return column.ok
        ? [generateOneWayRun(column.value.left, column.value.right, stitchLength)]
        : generateEdgeRun(rings, 2 * inset, stitchLength);
    }
  }
}

function sewEdgeStitch(shape: ObjectShape, spec: ObjectSpec, ends: FillEnds): Result<GeneratedObject, string> {
  const notes = spec.underlay.length > 0 ? ['an edge stitch takes no underlay'] : [];
  if (shape.kind === 'line' && shape.prongs?.spacing === spec.spacing)
    return succeed({ parts: [{ role: 'cover', points: sewOwnProngs(shape.prongs, spec.width), isApart: true }], notes });
  const out = new Collector(spec.shortest);
  const sound = shape.kind === 'area' ? soundArea(shape) : undefined;
  if (sound?.ok === false) return sound;
  const { edges, room } = edgesOf(shape, sound?.value.rings);
  for (const line of edges) {
    if (lengthOfPath(line) < spec.spacing) continue;
    const start = shape.kind === 'area' && ends.from !== undefined ? startNear(line, ends.from) : line;
    const points = generateEdgeStitch(start, { spacing: spec.spacing, prong: spec.width, ...(room === undefined ? {} : { room }) });
    out.parts.push({ role: 'cover', points, isApart: true });
  }
  if (out.parts.length === 0) return fail(`the edge is shorter than ${spec.spacing} mm, the way from prong to prong`);
  return succeed({ parts: out.parts, notes });
}

/** The lines that prongs stand on, reaching to the left: into an area, or across a column. */
function edgesOf(shape: ObjectShape, sound: readonly Float64Array[] | undefined): { edges: Float64Array[]; room?: ProngRoom } {
  if (shape.kind === 'column') {
    const [edge, other] = edgeOfColumn(columnOf(shape));
    return { edges: [edge], room: roomToward(other) };
  }
  // Of a sound area outlines run counter-clockwise and holes clockwise.
  return sound === undefined ? { edges: linesOf(shape) } : { edges: sound.map(closeRing), room: roomIn(sound) };
}

/** Paths so that the way to the next one is short: closed ones from their nearest penetration on, the nearest one first. */
function fromNearest(paths: readonly Float64Array[], from: Place | undefined): Float64Array[] {
  const left = paths.filter((path) => path.length >= 2);
  const out: Float64Array[] = [];
  for (let at = from; left.length > 0;) {
    const place = at ?? { x: left[0]![0]!, y: left[0]![1]! };
    const starts = left.map((path) => (isClosed(path) ? startNear(path, place) : path));
    const nearest = starts.reduce((best, path, k) => (distanceTo(path, 0, place) < distanceTo(starts[best]!, 0, place) ? k : best), 0);
    const path = starts[nearest]!;
    left.splice(nearest, 1);
    out.push(path);
    at = { x: path[path.length - 2]!, y: path[path.length - 1]! };
  }
  return out;
}

function isClosed(path: Float64Array): boolean {
  return path.length >= 8 && path[0] === path[path.length - 2] && path[1] === path[path.length - 1];
}

interface Place {
  readonly x: number;
  readonly y: number;
}

/** A closed line from its point nearest to a place. */
function startNear(line: Float64Array, { x, y }: Place): Float64Array {
  let start = 0;
  let least = Infinity;
  for (let k = 0; k < line.length - 2; k += 2) {
    const d = (line[k]! - x) ** 2 + (line[k + 1]! - y) ** 2;
    if (d < least) [least, start] = [d, k];
  }
  return Float64Array.from([...line.subarray(start, line.length - 2), ...line.subarray(0, start + 2)]);
}
