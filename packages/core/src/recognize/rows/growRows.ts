import { type Program, STITCH } from '../../model/program.ts';
import { agree } from './agree.ts';
import { makePiece } from './makePiece.ts';
import { measureRows } from './measureRows.ts';
import type { Piece } from './piece.ts';
import { joinRowSets, oneRow, type RowSet } from './rows.ts';
import { median } from '../../geometry/statistics.ts';

/** Rows that lie on lines a step apart are this sure of it, 0 to 1; a penetration is on a line no farther off than this share of a step. */
const SURE = 0.75;
const ON_LINE = 0.3;
/** Fewer rows than this tell no lines. */
const LEAST_ROWS = 6;
/** What is added to a fill reaches so far along its rows at least, mm. */
const LEAST_REACH = 0.6;

/**
 * Gives fills the rows before their first and after their last one that were too few, or too short, to be told from the walk that leads there: those
 * go on line by line and to and fro, as the fill does. O(rows).
 */
export function growRows(program: Program, pieces: readonly Piece[]): Piece[] {
  const out = [...pieces];
  for (let k = 0; k < out.length; k++) {
    for (const side of [-1, 1] as const) {
      const [fill, beside] = [out[k]!, out[k + side]];
      if (beside === undefined || !isFill(fill) || !isOpen(fill, beside)) continue;
      const added = rowsBeyond(program, fill, beside, side);
      if (added === undefined) continue;
      const { to, rows } = added;
      const [first, last] = side < 0 ? [to, fill.last] : [fill.first, to];
      const joined = joinRowSets(side < 0 ? [rows, fill.rows] : [fill.rows, rows]);
      out[k] = { ...fill, first, last, rows: joined, measured: measureRows(program, joined, 'fill') };
      const [from, until] = side < 0 ? [beside.first, first - 1] : [last + 1, beside.last];
      if (until >= from) out[k + side] = makePiece(program, beside.thread, beside.stretch, from, until, beside.role, beside.confidence);
      else out.splice(k + side, 1);
      if (until < from && side < 0) k--;
    }
  }
  return out;
}

type FillPiece = Piece & { readonly rows: RowSet; readonly measured: Extract<Piece['measured'], { kind: 'fill' }> };

function isFill(piece: Piece): piece is FillPiece {
  return piece.measured.kind === 'fill' && piece.rows !== undefined && piece.rows.count >= LEAST_ROWS && piece.pattern === undefined;
}

/** Only what is nothing by itself gives its stitches away. */
function isOpen(fill: Piece, beside: Piece): boolean {
  if (beside.role === 'tie' || beside.pattern !== undefined || beside.thread !== fill.thread) return false;
  return beside.measured.kind === 'run' || beside.measured.kind === 'other';
}

/** The rows that go on before the first (−1) or after the last row (1) of a fill, and the row number that its stitches reach to with them. */
function rowsBeyond(
  program: Program,
  { rows, measured, first, last }: FillPiece,
  beside: Piece,
  side: -1 | 1,
): { to: number; rows: RowSet } | undefined {
  const { x, y, command } = program;
  const [c, s] = [Math.cos((measured.angle * Math.PI) / 180), Math.sin((measured.angle * Math.PI) / 180)];
  const step = measured.spacing / 2;
  const along = (i: number): number => x[i]! * c + y[i]! * s;
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  const heights = Array.from(rows.last, (i) => across(i));
  const middle = median(heights);
  const { agreement, phase } = agree(
    heights,
    heights.map(() => 1),
    (v) => (v - middle) / step,
  );
  if (agreement < SURE) return undefined;
  const place = (i: number): number => (across(i) - middle) / step - phase;
  const isOn = (i: number, line: number): boolean => Math.abs(place(i) - line) < ON_LINE;

  // The last two rows on this side say which line comes next, and which way its row goes.
  const [outer, inner] = side < 0 ? [0, 1] : [rows.count - 1, rows.count - 2];
  // A turn to the next row may have been told as a row's end, or its start.
  const lineOf = (r: number): number =>
    Math.round(median(Array.from({ length: rows.last[r]! - rows.first[r]! + 1 }, (_, k) => place(rows.first[r]! + k))));
  const onward = lineOf(outer) - lineOf(inner);
  if (Math.abs(onward) !== 1) return undefined;
  const edge = side < 0 ? rows.first[outer]! : rows.last[outer]!;
  let line = lineOf(outer);
  // The stitches of a row are looked at from its near end to its far one.
  let way = Math.sign(along(rows.last[outer]!) - along(rows.first[outer]!)) * side;
  const limit = side < 0 ? beside.first - 1 : beside.last;
  if (side < 0 ? edge > first : edge < last) return undefined;
  const added: { from: number; to: number }[] = [];
  for (let at = edge; ;) {
    // A row begins where the one before ended, or with a turn.
    let from = at;
    if (
      isThrough(command, from, from + side) &&
      isWithin(from + side, limit, side) &&
      isOn(from + side, line + onward) &&
      !isAlong(along(from + side) - along(from), -way, step)
    )
      from += side;
    let to = from;
    while (
      isWithin(to + side, limit, side) &&
      isThrough(command, to, to + side) &&
      isOn(to + side, line + onward) &&
      isAlong(along(to + side) - along(to), -way, 0)
    )
      to += side;
    if (Math.abs(along(to) - along(at)) < Math.max(LEAST_REACH, step)) break;
    added.push({ from: at, to });
    [at, line, way] = [to, line + onward, -way];
  }
  if (added.length === 0) return undefined;
  const reached = added[added.length - 1]!.to;
  const sets = added.map(({ from, to }) => oneRow(program, Math.min(from, to), Math.max(from, to)));
  return { to: side < 0 ? reached + 1 : reached, rows: joinRowSets(side < 0 ? sets.reverse() : sets) };
}

function isWithin(i: number, limit: number, side: -1 | 1): boolean {
  return i >= 0 && (side < 0 ? i >= limit : i <= limit);
}

/** Whether thread is laid between two penetrations that follow one another. */
function isThrough(command: Program['command'], a: number, b: number): boolean {
  return command[Math.max(a, b)] === STITCH && command[Math.min(a, b)] === STITCH;
}

function isAlong(way: number, sign: number, least: number): boolean {
  return way * sign > least;
}
