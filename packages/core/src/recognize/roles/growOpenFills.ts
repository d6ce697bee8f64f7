import { layLengths } from '../../model/stretches.ts';
import type { Program } from '../../model/program.ts';
import { isAreaOfItsOwn, mostBetween, ONE_WAY } from '../fill/sections.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import { INSIDE, isOpener } from './findRoles.ts';
import { linkAreas, shareInside } from './areas.ts';
import type { Piece } from '../rows/piece.ts';
import { linesOf, type RowLines, type RowOnLine, rowsOnLines, spanOnLine } from '../rows/rowLines.ts';
import { joinRowSets, oneRow, type RowSet } from '../rows/rows.ts';

/** Rows so far apart (same-direction pitch, mm) look like a line with corners where they are few or short. */
const OPEN = 1.2;
/** What a fill is grown from has so many rows at least. */
const SEED_ROWS = 7;
/** Rows of one fill lie no more lines apart than this, and no farther along them than so many steps. */
const LINES_APART = 2;
const STEPS_APART = 2;

type OpenFill = Piece & { readonly rows: RowSet; readonly measured: Extract<Piece['measured'], { kind: 'fill' }> };

/**
 * Gives open fills those of their sections that were taken for something else, most often for the end of what was sewn before, since few rows far apart
 * are no more than a line with corners: from each surely told fill, longest first, on and back over its stretch, what goes to and fro on the fill's own
 * lines and lies beside what is known of it. Pieces are parted where a section begins or ends in them. O(rows) for each open fill.
 */
export function growOpenFills(program: Program, pieces: readonly Piece[]): Piece[] {
  if (!pieces.some(isSeed)) return [...pieces];
  const areas = linkAreas(program, pieces);
  // Open rows under a cover are its underlay, and told with what else lies there.
  const isUnderlay = (piece: Piece, k: number): boolean =>
    areas.after(k).some((c) => isOpener(piece, c) && shareInside(program, piece, c) >= INSIDE);
  const seeds = pieces
    .filter((piece, k): piece is OpenFill => isSeed(piece) && !isUnderlay(piece, k))
    .sort((a, b) => b.last - b.first - (a.last - a.first));
  const lay = layLengths(program);
  let out = [...pieces];
  for (const seed of seeds) {
    const at = out.indexOf(seed);
    const lines = at < 0 ? undefined : linesOf(program, seed.rows, seed.measured);
    if (lines !== undefined) out = growFrom(program, out, at, seed, lines, lay);
  }
  return out;
}

function isSeed(piece: Piece): piece is OpenFill {
  const { rows, measured } = piece;
  return rows !== undefined && measured.kind === 'fill' && measured.spacing >= OPEN && rows.count >= SEED_ROWS && rows.evenness >= ONE_WAY;
}

function growFrom(program: Program, pieces: Piece[], at: number, seed: OpenFill, lines: RowLines, lay: Float64Array): Piece[] {
  const [from, to] = [reachOf(program, pieces, at, -1, lines, lay), reachOf(program, pieces, at, 1, lines, lay)];
  if (from === at && to === at) return pieces;
  const own = Array.from(seed.rows.first, (first, r) => spanOnLine(program, lines, first, seed.rows.last[r]!));
  const found = [
    ...rowsOnLines(program, lines, pieces[from]!.first, seed.first - 1, { after: own[0]! }),
    ...rowsOnLines(program, lines, seed.last + 1, pieces[to]!.last, { before: own[own.length - 1]! }),
  ];
  const added = besideKnown(program, lines, own, sectionsOf(found));
  if (added.length === 0) return pieces;
  const asRows = ({ from, to }: RowOnLine): RowSet => ({ ...oneRow(program, from, to), hasTurn: Uint8Array.of(1) });
  const [before, after] = [added.filter((row) => row.to < seed.first), added.filter((row) => row.from >= seed.last)];
  const rows = joinRowSets([...before.map(asRows), seed.rows, ...after.map(asRows)]);
  const [first, last] = [Math.min(seed.first, (before[0]?.from ?? Infinity) + 1), Math.max(seed.last, after[after.length - 1]?.to ?? 0)];
  const grown: Piece = { ...seed, first, last, rows, measured: measureRows(program, rows, 'fill'), isJoined: true };
  const left = (p: Piece, a: number, b: number): Piece[] => {
    if (a > b) return [];
    return a === p.first && b === p.last ? [p] : [makePiece(program, p.thread, p.stretch, a, b, p.role, p.confidence)];
  };
  return [
    ...pieces.slice(0, from),
    ...pieces.slice(from, at).flatMap((p) => left(p, p.first, Math.min(p.last, first - 1))),
    grown,
    ...pieces.slice(at + 1, to + 1).flatMap((p) => left(p, Math.max(p.first, last + 1), p.last)),
    ...pieces.slice(to + 1),
  ];
}

/** How far on (1) or back (−1) sections of a fill are looked for, as the index of a piece: until a lock, a cut, another area, or too much that is none. */
function reachOf(program: Program, pieces: readonly Piece[], at: number, step: -1 | 1, lines: RowLines, lay: Float64Array): number {
  let [reach, fitting, between] = [at, lengthOf(pieces[at]!, lay), 0];
  for (let n = at + step; n >= 0 && n < pieces.length; n += step) {
    const piece = pieces[n]!;
    if (piece.stretch !== pieces[at]!.stretch || piece.role === 'tie') break;
    const rows = rowsOnLines(program, lines, piece.first, piece.last);
    if (rows.length === 0) {
      if (isAreaOfItsOwn(piece)) break;
      between += lengthOf(piece, lay);
    } else {
      reach = n;
      for (const { from, to } of rows) fitting += lengthOf({ first: from + 1, last: to }, lay);
      between = 0;
    }
    if (between > mostBetween(fitting)) break;
  }
  return reach;
}

/** The length of thread (mm) that the stitches ending at some rows lay. */
function lengthOf({ first, last }: { readonly first: number; readonly last: number }, lay: Float64Array): number {
  let length = 0;
  for (let i = first; i <= last; i++) length += lay[i]!;
  return length;
}

/** Rows that follow one another from line to line, as sections. */
function sectionsOf(rows: readonly RowOnLine[]): RowOnLine[][] {
  const sections: RowOnLine[][] = [];
  for (const row of rows) {
    const last = sections[sections.length - 1];
    const before = last?.[last.length - 1];
    if (before !== undefined && Math.abs(before.line - row.line) === 1) last!.push(row);
    else sections.push([row]);
  }
  return sections;
}

/** The rows of those sections that lie beside rows that are known, or beside others that do, in order. */
function besideKnown(
  { x, y }: Program,
  { c, s, step }: RowLines,
  known: readonly RowOnLine[],
  sections: readonly RowOnLine[][],
): RowOnLine[] {
  const intervals = new Map<number, [number, number][]>();
  const intervalOf = ({ from, to }: RowOnLine): [number, number] => {
    const [a, b] = [x[from]! * c + y[from]! * s, x[to]! * c + y[to]! * s];
    return [Math.min(a, b), Math.max(a, b)];
  };
  const add = (row: RowOnLine): void => {
    const there = intervals.get(row.line);
    if (there === undefined) intervals.set(row.line, [intervalOf(row)]);
    else there.push(intervalOf(row));
  };
  const isBeside = (row: RowOnLine): boolean => {
    const [low, high] = intervalOf(row);
    for (let line = row.line - LINES_APART; line <= row.line + LINES_APART; line++)
      if (intervals.get(line)?.some(([a, b]) => a - high <= STEPS_APART * step && low - b <= STEPS_APART * step)) return true;
    return false;
  };
  known.forEach(add);
  const beside = new Set<RowOnLine>();
  for (let left = [...sections]; ;) {
    const near = left.filter((section) => section.some(isBeside));
    if (near.length === 0) return sections.flat().filter((row) => beside.has(row));
    for (const row of near.flat()) {
      add(row);
      beside.add(row);
    }
    left = left.filter((section) => !near.includes(section));
  }
}
