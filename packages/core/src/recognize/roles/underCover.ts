import { type Program, STITCH } from '../../model/program.ts';
import { wayOf } from './areas.ts';
import { makePiece } from '../rows/makePiece.ts';
import { asOpenRows } from '../rows/openRows.ts';
import type { Piece } from '../rows/piece.ts';
import { distanceToRings, perimeterOf, ringsOf } from '../rows/ringed.ts';
import { median } from '../../geometry/statistics.ts';
import { asToAndFro } from '../rows/toAndFro.ts';
import { isColumn, underColumn } from './underColumn.ts';

/** An edge run follows so much of the edge at least, inside by so much, mm. */
const LEAST_EDGE = 0.45;
const DEEPEST_EDGE = 1.9;
/** It keeps its distance from the edge within this (mm), for this share of its penetrations. */
const EVEN_INSET = 0.4;
const MOSTLY = 0.65;
/** What keeps it for this share goes along the edge, however little of that it follows. */
const ALONG_EDGE = 0.5;
/** A run has gone around an edge after so much of its length, inside as it lies, where it is so near (mm) to where it began; within so many stitches it begins. */
const LEAST_AROUND = 0.7;
const MOST_AROUND = 1.15;
const CLOSED = 1.6;
const LATEST_START = 12;
/** Of what has gone around, so much keeps its distance; no more than so many rows reach back into it. */
const MOST_OF_EDGE = 0.9;
const MOST_SIDES = 6;
/** A layer of underlay has more stitches than this. */
const LEAST_LAYER = 2;
/** Rows of open underlay make up so much of the thread that lies there. */
const OPEN_SHARE = 0.45;
const MOST_OPEN_SHARE = 0.6;

/** A run inside a cover: down the middle, along the edge, or just on its way. */
export function underCover(program: Program, piece: Piece, cover: Piece): Piece[] {
  const { measured } = cover;
  const mark = (p: Piece, kind: Piece['underlayKind']): Piece => {
    p.parent = cover;
    p.role = kind === undefined ? 'travel' : 'underlay';
    p.underlayKind = kind;
    return p;
  };
  if (isColumn(cover)) return underColumn(program, piece, cover);
  // Underlay mostly runs square to its cover.
  const square = measured.kind === 'fill' ? [(measured.angle + 90) % 180] : [];
  const found = asOpenRows(program, piece, square, MOST_OPEN_SHARE);
  const whole = found?.rows && withoutEdge(program, piece, found, cover, square);
  if (whole?.rows !== undefined) {
    const [start, end] = [whole.rows.first[0]!, whole.rows.last[whole.rows.count - 1]!];
    const part = (first: number, last: number): Piece =>
      makePiece(program, piece.thread, piece.stretch, first, last, 'cover', piece.confidence);
    const hasHead = start - piece.first > LEAST_LAYER;
    const hasRest = piece.last - end > LEAST_LAYER;
    return [
      ...(hasHead ? underCover(program, part(piece.first, start), cover) : []),
      mark({ ...whole, first: hasHead ? start + 1 : piece.first, last: hasRest ? end : piece.last }, 'tatami'),
      ...(hasRest ? underCover(program, part(end + 1, piece.last), cover) : []),
    ];
  }
  const rings = ringsOf(measured);
  const inset: number[] = [];
  for (let i = piece.first; i <= piece.last; i++) inset.push(distanceToRings(rings, program.x[i]!, program.y[i]!));
  const usual = median(inset.filter((d) => d < DEEPEST_EDGE));
  // Rows across a narrow shape have their ends along its edges, but not their middles.
  inset.forEach((d, k) => {
    if (Math.abs(d - usual) < EVEN_INSET) inset[k] = insetOfStitch(program, rings, piece.first + k, d, usual);
  });
  const isEven = (d: number): boolean => Math.abs(d - usual) < EVEN_INSET && d < DEEPEST_EDGE;
  /** What keeps its distance from the edge goes along it, and not to and fro. */
  const isAlongEdge = (p: Piece): boolean => {
    const own = inset.slice(p.first - piece.first, p.last - piece.first + 1);
    return own.filter(isEven).length >= ALONG_EDGE * own.length;
  };
  const asRest = (p: Piece): Piece => {
    const open = asOpenRows(program, p, square, OPEN_SHARE) ?? (isAlongEdge(p) ? undefined : asToAndFro(program, p));
    return open === undefined ? mark(p, undefined) : mark(open, 'tatami');
  };
  const nearest = rings.reduce((best, r) => (distanceToWay(program, piece, r) < distanceToWay(program, piece, best) ? r : best));
  const around = LEAST_EDGE * perimeterOf([nearest]);
  // Where an edge has been gone around, rows may follow whose ends keep the same distance from it.
  for (let k = 0; k <= LATEST_START; k++) {
    const end = onceAround(program, piece.first + k, piece.last, perimeterOf([nearest]));
    if (end === undefined) continue;
    if (!keepsToEdge(inset.slice(k, end - piece.first + 1), MOSTLY)) continue;
    const partOf = (first: number, last: number): Piece =>
      makePiece(program, piece.thread, piece.stretch, first, last, 'underlay', piece.confidence);
    const rows = asRest(partOf(end + 1, piece.last));
    if (rows.underlayKind !== 'tatami') continue;
    const isLed = k > 2;
    return [
      ...(isLed ? [mark(partOf(piece.first, piece.first + k - 1), undefined)] : []),
      mark(partOf(isLed ? piece.first + k : piece.first, end), 'edge-run'),
      rows,
    ];
  }
  const [a, b] = longestStretch(inset, isEven);
  const part = makePiece(program, piece.thread, piece.stretch, piece.first + a, piece.first + b, 'cover', piece.confidence);
  if (b - a < 4 || wayOf(part) < around) {
    const isAlong = inset.filter(isEven).length >= MOSTLY * inset.length && wayOf(piece) >= around;
    const rest = asRest(piece);
    return [isAlong && rest.underlayKind === undefined ? mark(piece, 'edge-run') : rest];
  }
  const out: Piece[] = [];
  if (a > 2) out.push(asRest(makePiece(program, piece.thread, piece.stretch, piece.first, piece.first + a - 1, 'travel')));
  const from = a > 2 ? piece.first + a : piece.first;
  const isTail = piece.last - (piece.first + b) > 2;
  const to = isTail ? piece.first + b : piece.last;
  out.push(mark(makePiece(program, piece.thread, piece.stretch, from, to, 'underlay', piece.confidence), 'edge-run'));
  if (isTail) out.push(asRest(makePiece(program, piece.thread, piece.stretch, to + 1, piece.last, 'travel')));
  return out;
}

/**
 * Rows that reach back into a run around the edge of their cover, whose last sides lie as they do, begin where that has gone around; `rows` themselves
 * where they do not.
 */
function withoutEdge(program: Program, piece: Piece, rows: Piece, cover: Piece, square: readonly number[]): Piece {
  const { first } = rows.rows!;
  const rings = ringsOf(cover.measured);
  if (rings.length !== 1 || first[0]! - piece.first <= LEAST_LAYER) return rows;
  const end = onceAround(program, piece.first, piece.last, perimeterOf(rings));
  if (end === undefined || end <= first[0]! || end >= first[Math.min(MOST_SIDES, rows.rows!.count - 1)]!) return rows;
  const inset = Array.from({ length: end - piece.first + 1 }, (_, k) =>
    distanceToRings(rings, program.x[piece.first + k]!, program.y[piece.first + k]!),
  );
  if (!keepsToEdge(inset, MOST_OF_EDGE)) return rows;
  const rest = makePiece(program, piece.thread, piece.stretch, end + 1, piece.last, 'cover', piece.confidence);
  return asOpenRows(program, rest, square, OPEN_SHARE) ?? rows;
}

/** Whether penetrations so far (mm) inside an edge lie near it, and such a share of them all as far. */
function keepsToEdge(inset: readonly number[], share: number): boolean {
  const usual = median(inset);
  return usual <= DEEPEST_EDGE && inset.filter((d) => Math.abs(d - usual) < EVEN_INSET).length >= share * inset.length;
}

/** How far inside the stitch that ends at row `i` lies: its end, or its middle where that is farther from what is usual, mm. */
function insetOfStitch({ x, y }: Program, rings: readonly Float64Array[], i: number, atEnd: number, usual: number): number {
  if (i === 0) return atEnd;
  const middle = distanceToRings(rings, (x[i]! + x[i - 1]!) / 2, (y[i]! + y[i - 1]!) / 2);
  return Math.abs(middle - usual) > Math.abs(atEnd - usual) ? middle : atEnd;
}

/** Mean distance of a run's penetrations from a ring, mm. */
function distanceToWay({ x, y }: Program, piece: Piece, ring: Float64Array): number {
  let sum = 0;
  for (let i = piece.first; i <= piece.last; i++) sum += distanceToRings([ring], x[i]!, y[i]!);
  return sum / (piece.last - piece.first + 1);
}

/** The row at which a run that follows an edge of some length (mm) has come around to where it began, where more goes on from there. */
function onceAround({ x, y, command }: Program, first: number, last: number, perimeter: number): number | undefined {
  let [way, best, least] = [0, -1, CLOSED];
  // Where locks were sewn the first stitch leads away from where it began.
  const isLed = first > 0 && command[first - 1] === STITCH;
  for (let i = first + 1; i <= last && way <= MOST_AROUND * perimeter; i++) {
    way += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
    const apart = Math.min(
      Math.hypot(x[i]! - x[first]!, y[i]! - y[first]!),
      isLed ? Math.hypot(x[i]! - x[first - 1]!, y[i]! - y[first - 1]!) : Infinity,
    );
    if (way >= LEAST_AROUND * perimeter && apart < least) [best, least] = [i, apart];
  }
  return best < 0 || last - best <= LEAST_LAYER + 1 ? undefined : best;
}

/** First and last index of the longest part that fits, odd ones out of three or fewer in between forgiven. */
function longestStretch(values: readonly number[], fits: (value: number) => boolean): [number, number] {
  let best: [number, number] = [0, -1];
  let start = -1;
  let lastFit = -1;
  for (let k = 0; k < values.length; k++) {
    if (!fits(values[k]!)) continue;
    if (start < 0 || k - lastFit > 4) start = k;
    lastFit = k;
    if (k - start > best[1] - best[0]) best = [start, k];
  }
  return best;
}
