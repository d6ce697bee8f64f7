import { smoothPath, thinRing } from '../../geometry/smoothPath.ts';
import { FAR_ROWS, STRAIGHT_TURN } from '../../generate/fill/fillSewing.ts';
import { readLean, rungsOf } from '../../generate/column/leanLines.ts';
import type { Program } from '../../model/program.ts';
import { remember } from '../../model/remember.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import {
  END_STITCH,
  type ObjectShape,
  type ObjectSpec,
  type OwnProngs,
  SHORTEST,
  type UnderlaySpec,
  USUAL_SPEC,
} from '../../model/objectSpec.ts';
import { fitRunLength } from '../line/fitRun.ts';
import { fitSplitLength, railsOf, readSplitLength, straightsOf, throwsOf } from './readColumn.ts';
import { type ReadEdge, readEdgeStitch } from './readEdgeStitch.ts';
import { type FillGrid, readGrid } from './readGrid.ts';
import { layersUnder } from './readUnderlay.ts';
import { stitchLengths } from '../rows/rows.ts';
import type { StitchObject } from '../../model/stitchObject.ts';

/**
 * How an object is sewn: as it was made, or as recognized. What its outline shows is what was sewn, compensation included, so that of a
 * recognized object none is known and stands at 0. Refused for what has no spec: underlay, travel, what could not be told.
 */
export function specOf(program: Program, object: StitchObject): Result<ObjectSpec, string> {
  return specsIn(program)(object);
}

const specsIn = remember((program: Program) => remember((object: StitchObject) => readSpec(program, object)));

function readSpec(program: Program, object: StitchObject): Result<ObjectSpec, string> {
  if (object.made !== undefined) return succeed(object.made.spec);
  if (object.role !== 'cover' && object.role !== 'placement' && object.role !== 'tackdown')
    return fail(`${object.name} is no cover; change the object that it belongs to`);
  const underlay = layersUnder(program, object).map(({ kind, spacing, angle, first, last }): UnderlaySpec => ({
    kind,
    ...(kind === 'zigzag'
      ? {}
      : { stitchLength: held(round(quantile(stitchLengths(program, [{ first: first + 1, last }]), USUAL_STEPS), 100), 1, 7) }),
    ...(spacing === undefined ? {} : { spacing: held(round(spacing, 100), 0.5, 20) }),
    ...(angle === undefined ? {} : { angle: round(angle, 10) }),
  }));
  const seen: { -readonly [K in keyof ObjectSpec]: ObjectSpec[K] } = {
    ...USUAL_SPEC,
    spacing: held(round(object.spacing ?? USUAL_SPEC.spacing, 1000), 0.1, 20),
    stitchLength: held(round(object.stitchLength, 100), 0.5, 12),
    angle: round(object.angle ?? 0, 100),
    offset: object.offset === undefined ? USUAL_SPEC.offset : round(object.offset, 100),
    rowEnds: object.rowEnds ?? USUAL_SPEC.rowEnds,
    passes: Math.max(1, Math.min(5, object.passes ?? 1)),
    width: held(round(object.width?.mean ?? USUAL_SPEC.width, 100), 0.3, 30),
    underlay,
  };
  const grid = object.kind === 'fill' && object.pattern === undefined ? gridOf(program, object) : undefined;
  if (grid !== undefined) {
    seen.spacing = held(round(grid.spacing, 1e5), 0.1, 20);
    seen.stitchLength = held(round(grid.stitchLength, 1000), 0.5, 12);
    if (isSlantedOpen(seen.spacing, object)) seen.rowEnds = 'slanted';
    if (grid.offset !== undefined) seen.offset = round(grid.offset, 1e4);
    seen.origin = [round(grid.origin[0], 1000), round(grid.origin[1], 1000)];
  }
  const steps = stitchLengths(program, object.spans);
  const told = isSlantedOpen(seen.spacing, object) ? undefined : object.shortest;
  const least = told ?? quantile(steps, SHORTEST_STEPS) - ROUNDING;
  if (least < SHORTEST || told !== undefined) seen.shortest = held(round(least, 100), 0.05, 1.5);
  const endStitch = grid?.endStitch ?? object.endStitch;
  if (endStitch !== undefined && Math.abs(endStitch - END_STITCH) > USUAL_END) seen.endStitch = held(round(endStitch, 100), 0, 3);
  const line = lineOf(program, object);
  if (line !== undefined) {
    const fitted = fitRunLength(line, steps.length / seen.passes, quantile(steps, USUAL_STEPS));
    seen.stitchLength = held(round(fitted, 100), 0.5, 12);
  }
  const throws = object.kind === 'satin' ? throwsOf(program, object) : [];
  if (throws.length > 0) seen.splitLength = readSplitLength(throws);
  if (object.kind === 'satin' && object.rails !== undefined && object.pattern === undefined) {
    const rails = railsOf(object.rails);
    const lines = readLean(rails, straightsOf(throws, object), Math.max(LEAN, LEAN_OF_WIDTH * seen.width));
    seen.angleLines = lines.map((line) => [...line]);
    const { rungs } = rungsOf(rails, lines);
    if (throws.length > 0)
      seen.splitLength = fitSplitLength(seen.splitLength, throws, rails, { spacing: seen.spacing, pull: 0, splitLength: 0, rungs });
  }
  switch (object.pattern) {
    case 'contour':
    case 'meander':
      return succeed({ ...seen, kind: object.pattern });
    case 'edge-stitch': {
      const { spacing, width } = edgeSpec(readEdgeStitch(program, object.spans));
      return succeed({ ...seen, kind: 'edge-stitch', spacing, width, stitchLength: spacing });
    }
    case 'registration-mark':
    case undefined:
      break;
  }
  if (object.kind === 'other') return fail(`what ${object.name} is could not be told; tell what it is first`);
  return succeed({ ...seen, kind: object.kind });
}

/** Spacing and prongs of an edge stitch as a spec says them. */
function edgeSpec({ spacing, prong = USUAL_SPEC.width }: ReadEdge): Pick<ObjectSpec, 'spacing' | 'width'> {
  return { spacing: held(round(spacing, 100), 0.5, 20), width: held(round(prong, 100), 0.3, 30) };
}

/** What a run or a line that fills an area is sewn along, xyxy; none of what is neither. */
function lineOf(program: Program, object: StitchObject): Float64Array | undefined {
  const isLine = object.pattern === 'contour' || object.pattern === 'meander';
  if (!isLine && (object.kind !== 'run' || object.pattern !== undefined)) return undefined;
  const path = isLine ? undefined : object.path;
  return smoothPath(path ?? Float64Array.from(stretchesOf(program, object).flat()));
}

/** The line of a contour or meander fill, and what it was sewn with. */
function ownLine(program: Program, object: StitchObject): (ObjectShape & { kind: 'area' })['line'] {
  const spec = object.pattern === 'contour' || object.pattern === 'meander' ? specOf(program, object) : undefined;
  if (spec?.ok !== true || (spec.value.kind !== 'contour' && spec.value.kind !== 'meander')) return undefined;
  const { kind, spacing, stitchLength } = spec.value;
  return { kind, spacing, stitchLength, paths: stretchesOf(program, object) };
}

/** The penetrations of each span of an object and the one before it, xyxy, in thousandths of a millimeter. */
function stretchesOf({ x, y }: Program, { spans }: StitchObject): number[][] {
  return spans.map(({ first, last }) => {
    const from = Math.max(0, first - 1);
    return Array.from({ length: 2 * (last - from + 1) }, (_, k) => round((k % 2 === 0 ? x : y)[from + (k >> 1)]!, 1000));
  });
}

function gridOf(program: Program, { spans, angle, spacing, stitchLength, offset, rowEnds }: StitchObject): FillGrid | undefined {
  return angle === undefined || spacing === undefined
    ? undefined
    : readGrid(program, spans, { angle, spacing, stitchLength, offset, ...(rowEnds === undefined ? {} : { rowEnds }) });
}

/** Where an object is sewn. Refused for what has no shape of its own. */
export function shapeOf(program: Program, object: StitchObject): Result<ObjectShape, string> {
  return shapesIn(program)(object);
}

const shapesIn = remember((program: Program) => remember((object: StitchObject) => readShape(program, object)));

type Foot = OwnProngs['feet'][number];

function readShape(program: Program, object: StitchObject): Result<ObjectShape, string> {
  if (object.made !== undefined) return succeed(object.made.shape);
  if (object.pattern === 'edge-stitch') {
    const edge = readEdgeStitch(program, object.spans);
    const feet = edge.feet.map(([x, y, px, py]) => [round(x, 1000), round(y, 1000), round(px, 1000), round(py, 1000)] as Foot);
    return succeed({ kind: 'line', path: thousandths(edge.path), prongs: { ...edgeSpec(edge), feet } });
  }
  if (object.rails !== undefined && object.kind === 'satin') {
    const { left, right } = railsOf(object.rails);
    return succeed({ kind: 'column', left: thousandths(left), right: thousandths(right) });
  }
  if (object.path !== undefined && object.kind === 'run') return succeed({ kind: 'line', path: thousandths(smoothPath(object.path)) });
  if (object.outline.length >= 6) {
    const rings = [object.outline, ...object.holes].map((ring) => thousandths(thinRing(ring, RAGGED)));
    const line = ownLine(program, object);
    return succeed({ kind: 'area', rings, ...(line === undefined ? {} : { line }) });
  }
  return fail(`${object.name} has no shape that could be sewn anew`);
}

/** How far a shortest turn may be from the one above which slanted rows far apart have turns, too, as a share. */
const ABOUT = 0.15;

/** Whether a fill has turns just where rows that slant into the next have them, since these lie so far apart. */
function isSlantedOpen(spacing: number, { kind, rowEnds, shortest }: StitchObject): boolean {
  if (kind !== 'fill' || rowEnds !== 'square' || shortest === undefined || spacing / 2 <= FAR_ROWS) return false;
  return Math.abs(shortest / (STRAIGHT_TURN * spacing) - 1) < ABOUT;
}

/** On bends stitches are shorter than they were asked to be: so many of a run's are not. */
const USUAL_STEPS = 0.85;
/** Penetrations that come as near to the ends of rows as usual, give or take this (mm), are told as that. */
const USUAL_END = 0.06;
/** Only so many are shorter than they were meant to be. */
const SHORTEST_STEPS = 0.03;
const ROUNDING = 0.02;

function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}

/** Throws that lean by less than this (mm along both edges, or so much of the width) more than they would by themselves need no angle line. */
const LEAN = 2;
const LEAN_OF_WIDTH = 0.6;
/** How far from a recognized outline its simpler one may lie, mm: rows' ends make it ragged by about that. */
const RAGGED = 0.05;

function thousandths(points: Float64Array): number[] {
  return Array.from(points, (v) => round(v, 1000));
}

function round(value: number, grain: number): number {
  return Math.round(value * grain) / grain + 0;
}

function held(value: number, low: number, high: number): number {
  return Math.max(low, Math.min(high, value));
}
