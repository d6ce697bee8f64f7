import { smoothPath, thinPath } from '../geometry/smoothPath.ts';
import type { Program } from '../model/program.ts';
import { remember } from '../model/remember.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import { END_STITCH, type ObjectShape, type ObjectSpec, SHORTEST, type UnderlaySpec, USUAL_SPEC } from '../model/objectSpec.ts';
import { areaOfRing } from '../geometry/region.ts';
import { lengthOfPath } from '../geometry/path.ts';
import { type Column, middleOf } from '../generate/columns.ts';
import { FAR_ROWS, STRAIGHT_TURN } from '../generate/fill.ts';
import { readLean, rungsOf } from '../generate/leanLines.ts';
import { generateSatin, type SatinSpec } from '../generate/satin.ts';
import { splitStitch } from '../generate/splitStitch.ts';
import { type FillGrid, readGrid } from './readGrid.ts';
import type { RowSpan, StitchObject, UnderlayKind, UnderlayLayer } from './stitchObject.ts';

/**
 * How an object is sewn: as it was rebuilt, or as recognized. What its outline shows is what was sewn, compensation included, so that of a
 * recognized object none is known and stands at 0. Refused for what has no spec: underlay, travel, what could not be told.
 */
export function specOf(program: Program, object: StitchObject): Result<ObjectSpec, string> {
  return specsIn(program)(object);
}

const specsIn = remember((program: Program) => remember((object: StitchObject) => readSpec(program, object)));

function readSpec(program: Program, object: StitchObject): Result<ObjectSpec, string> {
  if (object.rebuilt !== undefined) return succeed(object.rebuilt.spec);
  if (object.role !== 'cover' && object.role !== 'placement' && object.role !== 'tackdown')
    return fail(`${object.name} is no cover; change the object that it belongs to`);
  // Each ring of a shape has an edge run of its own, each section its rows, and a zigzag may have been told in parts; together they are one layer,
  // told best by the longest.
  const layers = object.underlay
    .filter((layer) => isWholeLayer(program, object, layer.kind))
    .reduce<UnderlayLayer[]>((all, layer) => {
      const last = all[all.length - 1];
      if (last?.kind !== layer.kind || layer.kind === 'center-run') return [...all, layer];
      if (layer.kind === 'zigzag' && isBack(program, last, layer)) return [...all, layer];
      return layer.last - layer.first > last.last - last.first ? [...all.slice(0, -1), layer] : all;
    }, []);
  const underlay = layers
    .flatMap((layer) => runsOf(program, object, layer))
    .map(({ kind, spacing, angle, first, last }): UnderlaySpec => ({
      kind,
      ...(kind === 'zigzag'
        ? {}
        : { stitchLength: held(round(quantile(stepsOf(program, [{ first: first + 1, last }]), USUAL_STEPS), 100), 1, 7) }),
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
  const steps = stepsOf(program, object.spans);
  const told = isSlantedOpen(seen.spacing, object) ? undefined : object.shortest;
  const least = told ?? quantile(steps, SHORTEST_STEPS) - ROUNDING;
  if (least < SHORTEST || told !== undefined) seen.shortest = held(round(least, 100), 0.05, 1.5);
  const endStitch = grid?.endStitch ?? object.endStitch;
  if (endStitch !== undefined && Math.abs(endStitch - END_STITCH) > USUAL_END) seen.endStitch = held(round(endStitch, 100), 0, 3);
  if (object.kind === 'run' && object.pattern === undefined) seen.stitchLength = held(round(quantile(steps, USUAL_STEPS), 100), 0.5, 12);
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
      const edge = readEdgeStitch(program, object);
      return succeed({ ...seen, kind: 'edge-stitch', spacing: edge.spacing, width: edge.prong, stitchLength: Math.max(0.5, edge.spacing) });
    }
    case 'registration-mark':
    case undefined:
      break;
  }
  if (object.kind === 'other') return fail(`what ${object.name} is could not be told; tell what it is first`);
  return succeed({ ...seen, kind: object.kind });
}

function gridOf(program: Program, { spans, angle, spacing, stitchLength, offset }: StitchObject): FillGrid | undefined {
  return angle === undefined || spacing === undefined ? undefined : readGrid(program, spans, { angle, spacing, stitchLength, offset });
}

/** Where an object is sewn. Refused for what has no shape of its own. */
export function shapeOf(program: Program, object: StitchObject): Result<ObjectShape, string> {
  return shapesIn(program)(object);
}

const shapesIn = remember((program: Program) => remember((object: StitchObject) => readShape(program, object)));

function readShape(program: Program, object: StitchObject): Result<ObjectShape, string> {
  if (object.rebuilt !== undefined) return succeed(object.rebuilt.shape);
  if (object.pattern === 'edge-stitch') return succeed({ kind: 'line', path: readEdgeStitch(program, object).path });
  if (object.rails !== undefined && object.kind === 'satin') {
    const { left, right } = railsOf(object.rails);
    return succeed({ kind: 'column', left: thousandths(left), right: thousandths(right) });
  }
  if (object.path !== undefined && object.kind === 'run') return succeed({ kind: 'line', path: thousandths(smoothPath(object.path)) });
  if (object.outline.length >= 6)
    return succeed({ kind: 'area', rings: [object.outline, ...object.holes].map((ring) => thousandths(thinRing(ring))) });
  return fail(`${object.name} has no shape that could be sewn anew`);
}

/** How far a shortest turn may be from the one above which slanted rows far apart have turns, too, as a share. */
const ABOUT = 0.15;

/** Whether a fill has turns just where rows that slant into the next have them, since these lie so far apart. */
function isSlantedOpen(spacing: number, { kind, rowEnds, shortest }: StitchObject): boolean {
  if (kind !== 'fill' || rowEnds !== 'square' || shortest === undefined || spacing / 2 <= FAR_ROWS) return false;
  return Math.abs(shortest / (STRAIGHT_TURN * spacing) - 1) < ABOUT;
}

/** Underlay of a fill that covers less than this share of it, or follows less of its edge, is a few stitches that only seem to be a layer. */
const LEAST_COVERED = 0.2;
const LEAST_FOLLOWED = 0.25;

/** Whether what is told as underlay of a kind under a fill is so much that it is a layer of all of it. */
function isWholeLayer(program: Program, { kind, outline, holes, underlay }: StitchObject, of: UnderlayKind): boolean {
  if (kind !== 'fill' || of === 'center-run') return true;
  const own = underlay.filter((layer) => layer.kind === of);
  const laid = own.map(({ first, last }) => stepsOf(program, [{ first: first + 1, last }]).reduce((sum, step) => sum + step, 0));
  const rings = [outline, ...holes];
  if (of === 'edge-run') return sumOf(laid) > LEAST_FOLLOWED * sumOf(rings.map((ring) => lengthOfPath(ring)));
  const covered = sumOf(laid.map((length, n) => (length * (own[n]!.spacing ?? USUAL_SPEC.spacing)) / 2));
  return covered > LEAST_COVERED * sumOf(rings.map(areaOfRing));
}

function sumOf(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0);
}

/** Of a satin an edge run shorter than this many times the way down its middle goes one way, and a center run longer than this goes back, too. */
const ONE_WAY = 1.4;
const THERE_AND_BACK = 1.6;

/** A run under a satin as what it is by its length: down the middle once or there and back, or along both edges. */
function runsOf(program: Program, { kind, rails }: StitchObject, layer: UnderlayLayer): UnderlayLayer[] {
  if (kind !== 'satin' || rails === undefined || (layer.kind !== 'edge-run' && layer.kind !== 'center-run')) return [layer];
  const { left, right } = railsOf(rails);
  const share =
    stepsOf(program, [{ first: layer.first + 1, last: layer.last }]).reduce((sum, step) => sum + step, 0) /
    lengthOfPath(middleOf(left, right));
  if (layer.kind === 'edge-run') return share < ONE_WAY ? [{ ...layer, kind: 'center-run' }] : [layer];
  return share > THERE_AND_BACK ? [layer, layer] : [layer];
}

/** Whether one layer of a column goes back over the other: then it ends nearer to where that one began than that one does. */
function isBack({ x, y }: Program, there: RowSpan, back: RowSpan): boolean {
  const fromStart = (row: number): number => Math.hypot(x[row]! - x[there.first]!, y[row]! - y[there.first]!);
  return fromStart(back.last) < fromStart(there.last) / 2;
}

/** The edge of an edge stitch, the distance of its prongs along it and how far they reach, mm; to the right of its way below 0. */
function readEdgeStitch({ x, y }: Program, { spans }: StitchObject): { path: number[]; spacing: number; prong: number } {
  const path: number[] = [];
  let reach = 0;
  let side = 0;
  let prongs = 0;
  for (const { first, last } of spans) {
    for (let i = Math.max(0, first - 1); i <= last; i++) {
      const isTip = i > 0 && i < last && Math.hypot(x[i + 1]! - x[i - 1]!, y[i + 1]! - y[i - 1]!) < 0.15;
      if (isTip) {
        reach += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
        prongs++;
        if (i + 2 <= last) {
          const [ax, ay] = [x[i + 2]! - x[i + 1]!, y[i + 2]! - y[i + 1]!];
          side += Math.sign(ax * (y[i]! - y[i - 1]!) - ay * (x[i]! - x[i - 1]!));
        }
        i++;
        continue;
      }
      path.push(x[i]!, y[i]!);
    }
  }
  let length = 0;
  for (let k = 2; k < path.length; k += 2) length += Math.hypot(path[k]! - path[k - 2]!, path[k + 1]! - path[k - 1]!);
  const mean = prongs > 0 ? reach / prongs : USUAL_SPEC.width;
  const ordered = side >= 0 ? path : path.flatMap((_, k) => (k % 2 === 0 ? [path[path.length - 2 - k]!, path[path.length - 1 - k]!] : []));
  return { path: ordered, spacing: held(round(length / Math.max(1, prongs), 100), 0.5, 20), prong: held(round(mean, 100), 0.3, 30) };
}

/** On bends stitches are shorter than they were asked to be: so many of a run's are not. */
const USUAL_STEPS = 0.85;
/** Penetrations that come as near to the ends of rows as usual, give or take this (mm), are told as that. */
const USUAL_END = 0.06;
/** Only so many are shorter than they were meant to be. */
const SHORTEST_STEPS = 0.03;
const ROUNDING = 0.02;

function stepsOf({ x, y }: Program, spans: readonly RowSpan[]): number[] {
  const steps: number[] = [];
  for (const { first, last } of spans)
    for (let i = Math.max(1, first); i <= last; i++) steps.push(Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!));
  return steps;
}

function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}

/** The edges of a column as it is sewn anew. */
function railsOf(rails: { left: Float64Array; right: Float64Array }): { left: Float64Array; right: Float64Array } {
  const { left, right } = withoutWays(rails);
  return { left: thinPath(left, RAGGED_RAIL), right: thinPath(right, RAGGED_RAIL) };
}

/** Throws that lean by less than this (mm along both edges, or so much of the width) more than they would by themselves need no angle line. */
const LEAN = 2;
const LEAN_OF_WIDTH = 0.6;
/** A throw of a satin from edge to edge, and in how many stitches it is sewn. */
interface Throw {
  readonly line: readonly [number, number, number, number];
  readonly length: number;
  readonly parts: number;
}

/** Stitches that turn by no more than this (its cosine) are parts of one throw. */
const ONWARD = 0.95;

function throwsOf({ x, y }: Program, { spans }: StitchObject): Throw[] {
  const throws: Throw[] = [];
  for (const { first, last } of spans) {
    for (let i = Math.max(1, first); i <= last; i++) {
      const from = i - 1;
      while (i < last && isOnward(x, y, i)) i++;
      const line = [x[from]!, y[from]!, x[i]!, y[i]!] as const;
      throws.push({ line, length: Math.hypot(line[2] - line[0], line[3] - line[1]), parts: i - from });
    }
  }
  return throws;
}

/** A throw of so much of a satin's width goes from edge to edge; a column with too many others tells nothing of how they lean. */
const THROW_SHARE = 0.6;
const MOST_THROWS = 400;

function straightsOf(throws: readonly Throw[], { width }: StitchObject): (readonly [number, number, number, number])[] {
  const whole = throws.filter(({ length }) => length >= THROW_SHARE * (width?.min ?? 0));
  if (whole.length < 0.8 * throws.length) return [];
  const step = Math.max(1, Math.floor(whole.length / MOST_THROWS));
  return whole.filter((_, k) => k % step === 0).map(({ line }) => line);
}

/** Split lengths that are looked at, mm. */
const SPLITS = Array.from({ length: 231 }, (_, k) => (k + 20) / 20);

/** The split length that explains best into how many parts throws are split, in the middle of those that do; mm. */
function readSplitLength(throws: readonly Throw[]): number {
  const usual = USUAL_SPEC.splitLength;
  const isUsual = throws.every(({ length, parts }) => (parts === 1 ? length <= usual + ROUNDED : false));
  if (isUsual) return usual;
  const step = Math.max(1, Math.floor(throws.length / MOST_THROWS));
  const some = throws.filter((_, k) => k % step === 0);
  const offs = SPLITS.map((split) =>
    some.reduce((off, { length, parts }) => off + Math.abs(splitStitch(length, split, 0).length + 1 - parts), 0),
  );
  const first = offs.indexOf(Math.min(...offs));
  let last = first;
  while (offs[last + 1] === offs[first]) last++;
  // Where nothing was split the longest throw is all that is known.
  return SPLITS[last === SPLITS.length - 1 ? Math.min(last, first + 2) : (first + last) >> 1]!;
}

/** By how much throws that are sewn anew may differ from those that a split length was read from, as a share. */
const SPLIT_REACH = 0.12;
/** No throw is as long, mm. */
const WHOLE = 1000;

/**
 * The split length, near the one that was read, by which throws sewn anew are split as often as they were: these lean a little less or more, so that
 * a column about as wide as the split length would otherwise be split anywhere or nowhere.
 */
function fitSplitLength(read: number, throws: readonly Throw[], rails: Column, spec: SatinSpec): number {
  const asked = throws.reduce((sum, { parts }) => sum + parts - 1, 0) / throws.length;
  const path = generateSatin(rails.left, rails.right, { ...spec, splitLength: WHOLE });
  const lengths: number[] = [];
  for (let k = 2; k < path.length; k += 2) lengths.push(Math.hypot(path[k]! - path[k - 2]!, path[k + 1]! - path[k - 1]!));
  const splits = (split: number): number => lengths.reduce((sum, length) => sum + splitStitch(length, split, 0).length, 0) / lengths.length;
  let [best, least] = [read, Math.abs(splits(read) - asked)];
  for (const split of [...SPLITS].sort((a, b) => Math.abs(a - read) - Math.abs(b - read))) {
    if (Math.abs(split / read - 1) > SPLIT_REACH) break;
    const off = Math.abs(splits(split) - asked);
    if (off < least - 1e-9) [best, least] = [split, off];
  }
  return best;
}

/** Penetrations are rounded to about this, mm. */
const ROUNDED = 0.1;

/** Whether the stitch after row `i` goes on the way that the one before it came. */
function isOnward(x: Float64Array, y: Float64Array, i: number): boolean {
  const [ax, ay, bx, by] = [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!, x[i + 1]! - x[i]!, y[i + 1]! - y[i]!];
  return ax * bx + ay * by > ONWARD * Math.hypot(ax, ay) * Math.hypot(bx, by);
}

/** A column without the throws at its ends that only led there: they are much wider or narrower than the next ones, which are alike. */
function withoutWays({ left, right }: { left: Float64Array; right: Float64Array }): { left: Float64Array; right: Float64Array } {
  const count = Math.min(left.length, right.length) / 2;
  const widths = (isEnd: boolean): number[] =>
    Array.from({ length: Math.min(5, count) }, (_, n) => {
      const [l, r] = isEnd ? [left.length - 2 - n * 2, right.length - 2 - n * 2] : [n * 2, n * 2];
      return Math.hypot(left[l]! - right[r]!, left[l + 1]! - right[r + 1]!);
    });
  const odd = (w: readonly number[]): number => {
    if (count < 8) return 0;
    const isOdd = (a: number, b: number, c: number): boolean => a > FLARE * c || (a < b / FLARE && Math.abs(b - c) < ALIKE * c);
    if (isOdd(w[0]!, w[1]!, w[2]!)) return isOdd(w[1]!, w[2]!, w[3]!) ? 2 : 1;
    return 0;
  };
  const [from, to] = [odd(widths(false)), odd(widths(true))];
  return { left: left.slice(from * 2, left.length - to * 2), right: right.slice(from * 2, right.length - to * 2) };
}

const ALIKE = 0.12;
const FLARE = 1.6;
/** How far from a recognized outline its simpler one may lie, mm: rows' ends make it ragged by about that. */
const RAGGED = 0.05;

const RAGGED_RAIL = 0.1;

/** A closed ring without the raggedness that ends of rows gave it. */
function thinRing(ring: Float64Array): Float64Array {
  const closed = thinPath(Float64Array.from([...ring, ring[0]!, ring[1]!]), RAGGED);
  return closed.length >= 8 ? closed.slice(0, -2) : ring;
}

function thousandths(points: Float64Array): number[] {
  return Array.from(points, (v) => round(v, 1000));
}

function round(value: number, grain: number): number {
  return Math.round(value * grain) / grain + 0;
}

function held(value: number, low: number, high: number): number {
  return Math.max(low, Math.min(high, value));
}
