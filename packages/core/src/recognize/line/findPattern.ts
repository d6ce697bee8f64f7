import type { Program } from '../../model/program.ts';
import { shareInside } from '../roles/areas.ts';
import { makePiece } from '../rows/makePiece.ts';
import { type FillingLine, findFillingLine, LEAST_LINE } from './fillingLine.ts';
import { asLayer, INSIDE, mergeLayers } from '../roles/findRoles.ts';
import { asOpenRows } from '../rows/openRows.ts';
import type { Piece } from '../rows/piece.ts';
import { meanAxis } from '../../geometry/axis.ts';
import { underCover } from '../roles/underCover.ts';

/** A registration mark is a cross of this size, mm. */
const MARK_SIZE = { from: 2.5, to: 16 };
/** It has no more stitches than this. */
const MOST_OF_MARK = 70;
/** A line of which so much lies in straight rows to and fro is no contour or meander line. */
const ROWS_SHARE = 0.7;
/** Rows go this much less far across than along; a meander goes as far. */
const LEAST_ACROSS = 0.65;
/** A piece beside a line that fills an area belongs to it when it has no more than this share of its stitches, and the spacing stays within this. */
const SIDE_SHARE = 0.6;
const SAME_SPACING = 0.12;
/** A line that is longer begins no more than so many penetrations later than it did. */
const SAME_START = 12;
/** A line that begins in a piece before it does so before this share of the piece. */
const LEAST_IN_SIDE = 0.9;
/** So many pieces are looked at on either side. */
const MOST_SIDES = 12;
/** So many pieces before a line that fills an area may be its underlay. */
const LAYERS_BEFORE = 6;

/** Names the marks and the lines that fill an area among pieces whose roles are known, and gives the latter their underlay. */
export function namePatterns(program: Program, pieces: readonly Piece[]): Piece[] {
  const out: Piece[] = [];
  let done = 0;
  for (let k = 0; k < pieces.length; k++) {
    const piece = pieces[k]!;
    const line = asFillingLine(program, pieces, k, done);
    if (line === undefined) {
      const mark = asMark(program, pieces, k);
      out.push(mark?.piece ?? asRows(program, piece) ?? piece);
      k = (mark?.next ?? k + 1) - 1;
      continue;
    }
    // Its sides may have been told from it: they go back into it.
    while (out.length > 0 && out[out.length - 1]!.first >= line.from) out.pop();
    if (line.before !== undefined) out.push(line.before);
    placeBefore(program, out, line.cover);
    out.push(line.cover);
    done = line.next;
    k = done - 1;
  }
  return done === 0 ? out : mergeLayers(program, out);
}

/** All that a short stretch sews as a registration mark, from the first of its pieces on. */
function asMark(program: Program, pieces: readonly Piece[], k: number): { piece: Piece; next: number } | undefined {
  const { first, thread, stretch, confidence } = pieces[k]!;
  if (pieces[k]!.role === 'tie' || (pieces[k - 1]?.stretch === stretch && pieces[k - 1]!.role !== 'tie')) return undefined;
  let next = k;
  while (pieces[next]?.stretch === stretch && pieces[next]!.role !== 'tie') {
    const { pattern, parent, last } = pieces[next]!;
    if (pattern !== undefined || parent !== undefined || last - first > MOST_OF_MARK) return undefined;
    next++;
  }
  const { last } = pieces[next - 1]!;
  if (!isMark(program, first, last)) return undefined;
  return { piece: { ...makePiece(program, thread, stretch, first, last, 'cover', confidence), pattern: 'registration-mark' }, next };
}

interface FoundLine {
  /** First row of all that it takes in, and the index of the piece that comes after. */
  readonly from: number;
  readonly next: number;
  readonly before: Piece | undefined;
  readonly cover: Piece;
}

/** A line that fills an area, with the pieces on either side that are parts of it, from index `least` on, parted from what leads up to it. */
function asFillingLine(program: Program, pieces: readonly Piece[], k: number, least: number): FoundLine | undefined {
  const piece = pieces[k]!;
  // What lies under a cover is its underlay, whatever its line does.
  const isOpen = piece.role === 'cover' || (piece.role === 'travel' && piece.parent === undefined);
  if (!isOpen || piece.pattern !== undefined) return undefined;
  if (!mayFill(program, piece)) return undefined;
  let [first, last, next] = [piece.first, piece.last, k + 1];
  let line = findFillingLine(wayOf(program, first, last));
  // Straights beside one another are rows; a line that fills an area turns with its edge.
  if (line === undefined || (line.start === 0 && asOpenRows(program, piece, [], ROWS_SHARE) !== undefined)) return undefined;
  const isPart = (side: Piece | undefined): side is Piece =>
    side !== undefined &&
    side.stretch === piece.stretch &&
    side.role !== 'tie' &&
    side.pattern === undefined &&
    (side.measured.kind === 'run' || side.last - side.first < SIDE_SHARE * (last - first));
  for (let side = pieces[next]; isPart(side) && next - k <= MOST_SIDES; side = pieces[next]) {
    const longer = findFillingLine(wayOf(program, first, side.last));
    if (longer === undefined || Math.abs(longer.spacing / line.spacing - 1) > SAME_SPACING || longer.start > line.start + SAME_START) break;
    [line, last, next] = [longer, side.last, next + 1];
  }
  for (let n = k - 1, side = pieces[n]; n >= Math.max(least, k - MOST_SIDES) && line.start === 0 && isPart(side); side = pieces[--n]) {
    const longer = findFillingLine(wayOf(program, side.first, last));
    // A side may hold something else before the line begins in it.
    if (longer === undefined || Math.abs(longer.spacing / line.spacing - 1) > SAME_SPACING) break;
    if (longer.start > 0 && longer.start > LEAST_IN_SIDE * (first - side.first)) break;
    [line, first] = [longer, side.first];
  }
  const start = first + line.start;
  return {
    from: first,
    next,
    before: line.start === 0 ? undefined : makePiece(program, piece.thread, piece.stretch, first, start - 1, 'cover', piece.confidence),
    cover: coverOf(program, piece, line, start, last),
  };
}

/** Whether a piece may be a line that fills an area: a long run, or what was taken for rows and goes as far across them as along. */
function mayFill({ x, y }: Program, { measured, first, last }: Piece): boolean {
  if (measured.kind === 'run') return measured.length >= LEAST_LINE && measured.passes === 1;
  if (measured.kind !== 'fill') return false;
  const [ux, uy] = [Math.cos((measured.angle * Math.PI) / 180), Math.sin((measured.angle * Math.PI) / 180)];
  let [along, across] = [0, 0];
  for (let i = first; i <= last; i++) {
    if (i === 0) continue;
    along += Math.abs((x[i]! - x[i - 1]!) * ux + (y[i]! - y[i - 1]!) * uy);
    across += Math.abs((y[i]! - y[i - 1]!) * ux - (x[i]! - x[i - 1]!) * uy);
  }
  return across > LEAST_ACROSS * along && along + across >= LEAST_LINE;
}

function coverOf(program: Program, { thread, stretch, confidence }: Piece, line: FillingLine, first: number, last: number): Piece {
  const cover = makePiece(program, thread, stretch, first, last, 'cover', confidence);
  const { pattern, spacing, outline, holes } = line;
  const { stitchLength } = cover.measured;
  return {
    ...cover,
    pattern,
    measured: { kind: 'fill', angle: 0, spacing, stitchLength, offset: undefined, rowEnds: 'slanted', outline, holes },
  };
}

/** A run that goes to and fro in open rows is a fill. */
function asRows(program: Program, piece: Piece): Piece | undefined {
  const { measured, role, pattern } = piece;
  if (role !== 'cover' || pattern !== undefined || measured.kind !== 'run' || measured.passes > 1) return undefined;
  if (measured.length < LEAST_LINE || findFillingLine(measured.path) === undefined) return undefined;
  return asOpenRows(program, piece, [], ROWS_SHARE);
}

/** Runs and open rows of the same thread that lie inside a line's area and come right before it are its underlay, or lead to it. */
function placeBefore(program: Program, pieces: Piece[], cover: Piece): void {
  for (let n = pieces.length - 1, seen = 0; n >= 0 && seen < LAYERS_BEFORE; n--, seen++) {
    const piece = pieces[n]!;
    if (piece.thread !== cover.thread || piece.pattern !== undefined || piece.parent !== undefined) break;
    if (piece.role === 'tie') continue;
    if (shareInside(program, piece, cover) < INSIDE) break;
    if (piece.measured.kind === 'run') pieces.splice(n, 1, ...underCover(program, { ...piece, role: 'cover' }, cover));
    else if (asLayer(piece, cover) === undefined) break;
  }
}

/** The penetrations of rows `first` to `last` and the one before them, xyxy. */
function wayOf({ x, y }: Program, first: number, last: number): Float64Array {
  const from = Math.max(0, first - 1);
  const way = new Float64Array((last - from + 1) * 2);
  for (let i = from; i <= last; i++) {
    way[(i - from) * 2] = x[i]!;
    way[(i - from) * 2 + 1] = y[i]!;
  }
  return way;
}

/** Two short straights that cross each other square, and nothing else. */
function isMark({ x, y }: Program, first: number, last: number): boolean {
  const from = Math.max(0, first - 1);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = from; i <= last; i++) {
    minX = Math.min(minX, x[i]!);
    maxX = Math.max(maxX, x[i]!);
    minY = Math.min(minY, y[i]!);
    maxY = Math.max(maxY, y[i]!);
  }
  const size = Math.max(maxX - minX, maxY - minY);
  if (size < MARK_SIZE.from || size > MARK_SIZE.to || Math.min(maxX - minX, maxY - minY) < 0.6 * size) return false;
  const dx: number[] = [];
  const dy: number[] = [];
  for (let i = from + 1; i <= last; i++) {
    dx.push(x[i]! - x[i - 1]!);
    dy.push(y[i]! - y[i - 1]!);
  }
  // Of a cross all stitches run one of two ways: with angles taken fourfold they are one.
  const { angle } = meanAxis(
    dx.map((d, k) => (d * d - dy[k]! * dy[k]!) / Math.max(1e-9, Math.hypot(d, dy[k]!))),
    dx.map((d, k) => (2 * d * dy[k]!) / Math.max(1e-9, Math.hypot(d, dy[k]!))),
  );
  const axis = ((angle / 2) * Math.PI) / 180;
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  let on = 0;
  let oneWay = 0;
  for (let i = from; i <= last; i++) {
    const u = (x[i]! - cx) * Math.cos(axis) + (y[i]! - cy) * Math.sin(axis);
    const v = (y[i]! - cy) * Math.cos(axis) - (x[i]! - cx) * Math.sin(axis);
    // All lies on the two axes through the middle, a frame or a ring does not.
    if (Math.min(Math.abs(u), Math.abs(v)) < 0.12 * size) on++;
    if (Math.abs(u) > Math.abs(v)) oneWay++;
  }
  const count = last - from + 1;
  return count >= 5 && on >= 0.9 * count && oneWay > 0.25 * count && oneWay < 0.75 * count;
}
