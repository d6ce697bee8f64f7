import { containsPoint } from '../../geometry/ring.ts';
import { type Program, STITCH } from '../../model/program.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import type { Piece } from '../rows/piece.ts';
import { ringsOf } from '../rows/ringed.ts';
import { joinRowSets, oneRow, type RowSet, sliceRows } from '../rows/rows.ts';
import type { Section } from './sections.ts';

/**
 * Sections as one piece, and what of the first and last of the pieces that they were found in lies before and after their rows. `lay`: the length (mm)
 * of the stitch that ends at each row.
 */
export function joinChain(
  program: Program,
  pieces: readonly Piece[],
  sections: readonly Section[],
  lay: Float64Array,
): { piece: Piece; head: readonly Piece[]; tail: readonly Piece[] } {
  const [begins, ends] = [sections[0]!, sections[sections.length - 1]!];
  const [first, last] = [pieces[begins.index]!, pieces[ends.index]!];
  // Rows that a section has by itself are its own; those that were looked for in something else may begin or end too early or too late.
  const skipped = begins.rows === first.rows ? 0 : rowsLedTo(begins.rows, lay, -1);
  const left = ends.rows === last.rows ? 0 : rowsLedTo(ends.rows, lay, 1);
  const at = begins.rows.first[skipped]! + 1;
  const to = ends.rows.last[ends.rows.count - 1 - left]!;
  const rowsOf = (hasHead: boolean, hasTail: boolean): RowSet =>
    joinRowSets(
      sections.map((section) => {
        const from = section === begins && hasHead ? skipped : 0;
        const until = section.rows.count - (section === ends && hasTail ? left : 0);
        return from === 0 && until === section.rows.count ? section.rows : sliceRows(program, section.rows, from, until);
      }),
    );
  // A meander runs to and fro here and there, and goes on before and after that.
  const isFilled = sum(rowsOf(true, true).length) >= MOSTLY * sum(lay.subarray(at, to + 1));
  const hasHead = isFilled && begins.rows !== first.rows && at - first.first > LEAST_LEFT;
  const hasTail = isFilled && ends.rows !== last.rows && last.last - to > LEAST_LEFT;
  const told = rowsOf(hasHead, hasTail);
  const [from, until] = [hasHead ? at : first.first, hasTail ? to : last.last];
  const weights = sections.reduce((all, s) => all + s.rows.count, 0);
  const confidence = sections.reduce((all, s) => all + pieces[s.index]!.confidence * s.rows.count, 0) / weights;
  const rows = withStrays(program, told, from, until);
  const measured = measureRows(program, rows, 'fill');
  const rest = ({ thread, stretch, role, confidence: sure }: Piece, a: number, b: number): Piece =>
    makePiece(program, thread, stretch, a, b, role, sure);
  return {
    piece: { ...makePiece(program, first.thread, first.stretch, from, until, 'cover', confidence), rows, measured, isJoined: true },
    head: hasHead ? [rest(first, first.first, at - 1)] : [],
    tail: hasTail ? [rest(last, to + 1, last.last)] : [],
  };
}

/** So many stitches before or after the rows of a section that was found in something else are no part of it. */
const LEAST_LEFT = 12;
/** Rows make up so much of what is a fill without any doubt. */
const MOSTLY = 0.6;
/** What lies between its rows weighs so much of what lies in them. */
const GAP_WEIGHT = 0.8;

const sum = (lengths: Float64Array): number => lengths.reduce((all, l) => all + l, 0);

/** How many rows at the near (−1) or far (1) end of a section are less than what lies between them and the others: some lie on its lines by chance. */
function rowsLedTo({ count, first, last, length }: RowSet, lay: Float64Array, side: -1 | 1): number {
  const gapAfter = (r: number): number => sum(lay.subarray(last[r]! + 1, first[r + 1]! + 1));
  let [gain, most, best] = [0, -Infinity, 0];
  for (let n = 0; n < count; n++) {
    const r = side < 0 ? count - 1 - n : n;
    if (n > 0) gain -= GAP_WEIGHT * gapAfter(side < 0 ? r : r - 1);
    gain += length[r]!;
    if (gain > most) [most, best] = [gain, n];
  }
  return count - 1 - best;
}

/** Stitches that lean no more than this (mm in each mm) against the rows, and reach so far along them (mm), are parts of rows. */
const ROW_LEAN = 0.2;
const ROW_REACH = 1;

/**
 * Rows with those besides that were too few to be told as a section between two walks: what runs along the rows and lies where none of them does. A
 * walk along a row that is there already adds nothing.
 */
function withStrays(program: Program, rows: RowSet, first: number, last: number): RowSet {
  const { x, y, command } = program;
  const isTold = new Uint8Array(last - first + 2);
  for (let r = 0; r < rows.count; r++) isTold.fill(1, Math.max(0, rows.first[r]! + 1 - first), rows.last[r]! - first + 1);
  const measured = measureRows(program, rows, 'fill');
  const rings = ringsOf(measured);
  const step = 'spacing' in measured ? measured.spacing / 2 : 0;
  const turn = (rows.angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  const isOnLine = onLines(
    Float64Array.from(rows.last, (row, r) => (across(row) + across(Math.min(row, rows.first[r]! + 1))) / 2),
    step,
  );
  const isStray = (i: number): boolean => {
    if (isTold[i - first] === 1 || command[i] !== STITCH || command[i - 1] !== STITCH) return false;
    const [dx, dy] = [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!];
    const along = Math.abs(dx * c + dy * s);
    if (along < ROW_REACH || Math.abs(dy * c - dx * s) > ROW_LEAN * along || !isOnLine(across(i))) return false;
    return !containsPoint(rings, (x[i]! + x[i - 1]!) / 2, (y[i]! + y[i - 1]!) / 2);
  };
  const strays: RowSet[] = [];
  for (let i = first + 1; i <= last; i++) {
    if (!isStray(i)) continue;
    const from = i - 1;
    const way = Math.sign((x[i]! - x[from]!) * c + (y[i]! - y[from]!) * s);
    while (i < last && isStray(i + 1) && Math.sign((x[i + 1]! - x[i]!) * c + (y[i + 1]! - y[i]!) * s) === way) i++;
    strays.push(oneRow(program, from, i));
  }
  return strays.length === 0 ? rows : joinRowSets([rows, ...strays]);
}

/** Rows that lie on lines a step apart are this sure of it, 0 to 1; what lies so far (of a step) from a line is on none. */
const SURE_LINES = 0.8;
const OFF_LINE = 0.25;

/** Whether a place across the rows is on one of the lines that they lie on; always, where they lie on none that could be told. */
function onLines(v: Float64Array, step: number): (across: number) => boolean {
  let [re, im] = [0, 0];
  for (const at of v) {
    re += Math.cos((2 * Math.PI * at) / step);
    im += Math.sin((2 * Math.PI * at) / step);
  }
  if (Math.hypot(re, im) < SURE_LINES * v.length) return () => true;
  const phase = Math.atan2(im, re) / (2 * Math.PI);
  return (across) => {
    const off = across / step - phase;
    return Math.abs(off - Math.round(off)) <= OFF_LINE;
  };
}
