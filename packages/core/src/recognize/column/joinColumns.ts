import type { Program } from '../../model/program.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import type { Piece } from '../rows/piece.ts';
import { isSameAxis, joinRowSets, sliceRows } from '../rows/rows.ts';
import { median } from '../../geometry/statistics.ts';

/** Steps of one column on its way are no longer than this (mm), and its figures change no more than so (shares, degrees) at one place. */
const COLUMN_STEP = 1.2;
/** Around a corner the outer edge goes farther from throw to throw, by the width. */
const COLUMN_STEP_OF_WIDTH = 0.8;
const COLUMN_PITCH = 0.35;
const COLUMN_WIDTH = 0.6;
const COLUMN_BEND = 40;
/** A column may turn a corner in a throw or two, up to so many degrees, where it is as wide before as after. */
const COLUMN_CORNER = 82;
const CORNER_WIDTH = 0.25;
/** How many throws at either side of a join are looked at. */
const COLUMN_ENDS = 6;

/** Puts pieces of one column together that were parted at a tight bend: one goes on where the other ends, as wide and as close. */
export function joinColumns(program: Program, pieces: readonly Piece[]): Piece[] {
  const out: Piece[] = [];
  for (const piece of pieces) {
    const before = out[out.length - 1];
    const joined = before === undefined ? undefined : joinColumn(program, before, piece);
    if (joined === undefined) out.push(piece);
    else out[out.length - 1] = joined;
  }
  return out;
}

function joinColumn(program: Program, a: Piece, b: Piece): Piece | undefined {
  if (a.rows === undefined || b.rows === undefined || a.last + 1 !== b.first || a.stretch !== b.stretch) return undefined;
  if (a.measured.kind !== 'satin' || b.measured.kind !== 'satin') return undefined;
  const { x, y } = program;
  const ends = { from: Math.max(0, a.rows.count - COLUMN_ENDS), to: Math.min(b.rows.count, COLUMN_ENDS) };
  const tail = sliceRows(program, a.rows, ends.from, a.rows.count);
  const head = sliceRows(program, b.rows, 0, ends.to);
  const isCorner = !isSameAxis(tail.angle, head.angle, COLUMN_BEND);
  if (isCorner && !isSameAxis(tail.angle, head.angle, COLUMN_CORNER)) return undefined;
  const [wa, wb] = [median(tail.length), median(head.length)];
  if (Math.abs(Math.log(wa / wb)) > (isCorner ? CORNER_WIDTH : COLUMN_WIDTH)) return undefined;
  const [ma, mb] = [a.measured.spacing, b.measured.spacing];
  if (Math.min(a.rows.count, b.rows.count) > COLUMN_ENDS && Math.abs(Math.log(ma / mb)) > COLUMN_PITCH) return undefined;
  // The first throw that goes on stands a pitch from the last one of the same edge.
  const from = a.rows.first[a.rows.count - 1]!;
  const to = b.rows.last[0]!;
  if (Math.hypot(x[from]! - x[to]!, y[from]! - y[to]!) > Math.max(COLUMN_STEP + ma, COLUMN_STEP_OF_WIDTH * Math.min(wa, wb)))
    return undefined;
  const rows = joinRowSets([a.rows, b.rows]);
  const confidence = (a.confidence * a.rows.count + b.confidence * b.rows.count) / rows.count;
  const measured = measureRows(program, rows, 'satin');
  return { ...makePiece(program, a.thread, a.stretch, a.first, b.last, 'cover', confidence), rows, measured };
}
