import { lengthOfPath } from '../../geometry/path.ts';
import { type Program, STITCH } from '../../model/program.ts';
import { measureRows } from '../rows/measureRows.ts';
import { makePiece } from '../rows/makePiece.ts';
import type { Piece } from '../rows/piece.ts';
import { joinRowSets, oneRow, type RowSet } from '../rows/rows.ts';
import { median } from '../../geometry/statistics.ts';
import type { UnderlayKind } from '../../model/kinds.ts';

/** Places across a column go from 0 at its left edge to 1 at its right one. A center run lies so near to the middle. */
const MIDDLE = 0.22;
/** A run of the middle or of the edges lies there for this share of its way; less, and the part that does is parted from the rest. */
const MOSTLY = 0.62;
/** From one edge to the other it is so far across. */
const OTHER_EDGE = 0.4;
/** A stitch of a zigzag goes so far across, by the width, and so many of them make one. */
const ACROSS = 0.3;
const LEAST_THROWS = 3;
/** A layer goes along so much of its column at least, and has so many stitches. */
const LEAST_WAY = 0.5;
const LEAST_LAYER = 2;

/** A satin that others may lie under, told by its throws. */
export type Column = Piece & { readonly rows: RowSet; readonly measured: Extract<Piece['measured'], { kind: 'satin' }> };

/** Whether a piece is a column that others may lie under. */
export function isColumn(piece: Piece | undefined): piece is Column {
  return piece?.measured.kind === 'satin' && piece.rows !== undefined;
}

/** A run inside a column by what it does there, in parts where that changes: across it a zigzag, down its middle, along its edges, or just on its way. */
export function underColumn(program: Program, piece: Piece, cover: Column): Piece[] {
  const { left, right } = cover.measured.rails;
  const from = program.command[piece.first - 1] === STITCH ? piece.first - 1 : piece.first;
  const throws = orientThrows(program, cover.rows);
  const places = Array.from({ length: piece.last - from + 1 }, (_, k) => placeOn(throws, program.x[from + k]!, program.y[from + k]!));
  const place = (i: number): number => places[i - from]!;
  const long = Math.max(lengthOfPath(left), lengthOfPath(right));
  const out: Piece[] = [];
  let at = piece.first;
  for (const [a, b] of zigzags(piece.first, piece.last, from, place)) {
    if (a > at) out.push(...asRuns(program, piece, cover, at, a - 1, place, long));
    const rows = joinRowSets(Array.from({ length: b - a + 1 }, (_, k) => oneRow(program, a + k - 1, a + k)));
    const part = makePiece(program, piece.thread, piece.stretch, a, b, 'underlay', piece.confidence);
    out.push({ ...part, rows, measured: measureRows(program, rows, 'satin'), parent: cover, underlayKind: 'zigzag' });
    at = b + 1;
  }
  if (at <= piece.last) out.push(...asRuns(program, piece, cover, at, piece.last, place, long));
  return out;
}

/** Ranges of stitches that go from edge to edge and back, first and last included. */
function zigzags(first: number, last: number, from: number, place: (i: number) => number): [number, number][] {
  const found: [number, number][] = [];
  let start = -1;
  let way = 0;
  const close = (end: number): void => {
    if (start >= 0 && end - start + 1 >= LEAST_THROWS) found.push([start, end]);
    start = -1;
  };
  for (let i = Math.max(first, from + 1); i <= last; i++) {
    const step = place(i) - place(i - 1);
    if (Math.abs(step) < ACROSS) close(i - 1);
    else if (start < 0 || step * way > 0) {
      close(i - 1);
      start = i;
    }
    way = step;
  }
  close(last);
  return found;
}

/** Stitches that go along a column: those of its middle apart from those of its edges, where one alone does not make up most of them. */
function asRuns(
  program: Program,
  piece: Piece,
  cover: Column,
  first: number,
  last: number,
  place: (i: number) => number,
  long: number,
): Piece[] {
  const { x, y } = program;
  const isMiddle = (i: number): boolean => Math.abs(place(i) - 0.5) < MIDDLE;
  const wayOf = (a: number, b: number, counts = (_: number): boolean => true): number => {
    let way = 0;
    for (let i = Math.max(1, a); i <= b; i++) if (counts(i)) way += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
    return way;
  };
  const usual = (a: number, b: number): number => median(Array.from({ length: b - a + 1 }, (_, k) => place(a + k)));
  const part = (a: number, b: number, kind: UnderlayKind): Piece => {
    const isLayer = wayOf(a, b) >= LEAST_WAY * long && b - a + 1 >= LEAST_LAYER;
    const run = makePiece(program, piece.thread, piece.stretch, a, b, isLayer ? 'underlay' : 'travel', piece.confidence);
    return { ...run, parent: cover, underlayKind: isLayer ? kind : undefined };
  };
  const whole = wayOf(first, last);
  const middle = wayOf(first, last, isMiddle);
  if (middle >= MOSTLY * whole) return [part(first, last, 'center-run')];
  if (middle <= (1 - MOSTLY) * whole) return [part(first, last, 'edge-run')];
  // On a tight bend a run keeps to no place; there along one edge and back along the other it is one of the edges all the same.
  const half = (first + last) >> 1;
  if (Math.abs(usual(first, half) - usual(half + 1, last)) > OTHER_EDGE) return [part(first, last, 'edge-run')];
  // The longest part on one side of the question is a layer; what is before and after it is told by itself.
  let best = { a: first, b: first - 1, way: 0 };
  for (let a = first; a <= last;) {
    let b = a;
    while (b < last && isMiddle(b + 1) === isMiddle(a)) b++;
    const way = wayOf(a, b);
    if (way > best.way) best = { a, b, way };
    a = b + 1;
  }
  if (best.way < LEAST_WAY * long) return [part(first, last, middle > whole / 2 ? 'center-run' : 'edge-run')];
  return [
    ...(best.a > first ? asRuns(program, piece, cover, first, best.a - 1, place, long) : []),
    part(best.a, best.b, isMiddle(best.a) ? 'center-run' : 'edge-run'),
    ...(best.b < last ? asRuns(program, piece, cover, best.b + 1, last, place, long) : []),
  ];
}

/** The throws of a column as x y x y from its left edge to its right one, whichever way each was sewn. */
function orientThrows({ x, y }: Program, rows: RowSet): Float64Array {
  const throws = new Float64Array(rows.count * 4);
  let [ux, uy] = [0, 0];
  for (let r = 0; r < rows.count; r++) {
    let [a, b] = [rows.first[r]!, rows.last[r]!];
    if ((x[b]! - x[a]!) * ux + (y[b]! - y[a]!) * uy < 0) [a, b] = [b, a];
    [ux, uy] = [x[b]! - x[a]!, y[b]! - y[a]!];
    throws.set([x[a]!, y[a]!, x[b]!, y[b]!], r * 4);
  }
  return throws;
}

/** How far across a column a point lies, on the throw that it is nearest to: 0 at its left end to 1 at its right one. */
function placeOn(throws: Float64Array, px: number, py: number): number {
  let [least, place] = [Infinity, 0.5];
  for (let k = 0; k < throws.length; k += 4) {
    const [ax, ay] = [throws[k]!, throws[k + 1]!];
    const [dx, dy] = [throws[k + 2]! - ax, throws[k + 3]! - ay];
    const square = dx * dx + dy * dy;
    const t = square > 0 ? Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / square)) : 0.5;
    const off = (ax + t * dx - px) ** 2 + (ay + t * dy - py) ** 2;
    if (off < least) [least, place] = [off, t];
  }
  return place;
}
