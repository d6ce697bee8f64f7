import type { Program } from '../model/program.ts';
import { wayOf } from './areas.ts';
import { measureRows } from './cutPieces.ts';
import { findLattice, latticeRows } from './lattice.ts';
import type { Piece } from './piece.ts';
import { meanAxis, type RowSet } from './rows.ts';

/** Open rows lie so far apart (mm), are so many at least. */
const OPEN_STEPS = { from: 0.9, to: 2.7 };
const LEAST_OPEN_ROWS = 3;
/** After them no more than this share of the whole way follows. */
const MOST_LED = 0.45;

/**
 * A run as what it is where it goes to and fro in rows so open that they look like a line with corners: straights that follow one another on
 * lines one step apart and make up `share` of its way. The axis of its own stitches is asked after those in `angles` (degrees).
 */
export function asOpenRows(program: Program, piece: Piece, angles: readonly number[], share: number): Piece | undefined {
  const { x, y } = program;
  const dx: number[] = [];
  const dy: number[] = [];
  for (let i = piece.first + 1; i <= piece.last; i++) {
    dx.push(x[i]! - x[i - 1]!);
    dy.push(y[i]! - y[i - 1]!);
  }
  for (const angle of [...angles, meanAxis(dx, dy).angle]) {
    for (let step = OPEN_STEPS.from; step <= OPEN_STEPS.to; step *= 1.03) {
      const lattice = findLattice(program, piece.first, piece.last, angle, step);
      if (lattice === undefined) continue;
      const rows = latticeRows(program, piece.first, piece.last, lattice);
      const laid = rows.length.reduce((sum, l) => sum + l, 0);
      if (rows.count < LEAST_OPEN_ROWS || !goesToAndFro(program, rows)) continue;
      // What leads on from the last row is no part of them, unless that is most of the way.
      const led = wayAfter(program, rows.last[rows.count - 1]!, piece.last);
      if (laid < share * (wayOf(piece) - led) || led > MOST_LED * wayOf(piece)) continue;
      const measured = measureRows(program, rows, 'fill');
      // Straights of a line far apart may lie on lines of some lattice, but do not follow one another on it.
      if ('spacing' in measured && measured.spacing < 3 * step) return { ...piece, rows, measured };
    }
  }
  return undefined;
}

function wayAfter({ x, y }: Program, from: number, last: number): number {
  let way = 0;
  for (let i = from + 1; i <= last; i++) way += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
  return way;
}

function goesToAndFro({ x, y }: Program, rows: RowSet): boolean {
  let against = 0;
  for (let r = 1; r < rows.count; r++) {
    const [a, b, c, d] = [rows.first[r - 1]!, rows.last[r - 1]!, rows.first[r]!, rows.last[r]!];
    if ((x[b]! - x[a]!) * (x[d]! - x[c]!) + (y[b]! - y[a]!) * (y[d]! - y[c]!) < 0) against++;
  }
  return against >= 0.6 * (rows.count - 1);
}
