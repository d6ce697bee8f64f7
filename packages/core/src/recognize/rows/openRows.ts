import type { Program } from '../../model/program.ts';
import { measureRows } from './measureRows.ts';
import { findLattice, type Lattice, latticeRows } from './lattice.ts';
import type { Piece } from './piece.ts';
import { type RowSet, sliceRows } from './rows.ts';
import { meanAxis } from '../../geometry/axis.ts';
import { median } from '../../geometry/statistics.ts';

/** Open rows lie so far apart (mm), are so many at least. */
const OPEN_STEPS = { from: 0.9, to: 2.7 };
const LEAST_OPEN_ROWS = 3;
/** Before and after them lies no more than this share of the whole way. */
const MOST_LED = 0.45;
/** However much leads to them, so many rows are no chance. */
const MANY_ROWS = 9;

/**
 * A run as what it is where it goes to and fro in rows so open that they look like a line with corners: straights that follow one another on
 * lines one step apart and make up `share` of its way. Those in `angles` (degrees) are asked
 * first, then the mean axis of its own stitches, then the one that most of their length shares.
 */
export function asOpenRows(program: Program, piece: Piece, angles: readonly number[], share: number): Piece | undefined {
  const { x, y } = program;
  const dx: number[] = [];
  const dy: number[] = [];
  for (let i = piece.first + 1; i <= piece.last; i++) {
    dx.push(x[i]! - x[i - 1]!);
    dy.push(y[i]! - y[i - 1]!);
  }
  for (const angle of [...angles, meanAxis(dx, dy).angle, commonAxis(dx, dy)]) {
    for (let step = OPEN_STEPS.from; step <= OPEN_STEPS.to; step *= 1.03) {
      const lattice = findLattice(program, piece.first, piece.last, angle, step);
      if (lattice === undefined) continue;
      const rows = denseRows(program, latticeRows(program, piece.first, piece.last, lattice));
      const laid = rows.length.reduce((sum, l) => sum + l, 0);
      if (rows.count < LEAST_OPEN_ROWS || !goesToAndFro(program, rows) || !isLineByLine(program, rows, lattice)) continue;
      // What leads up to the first row and on from the last is no part of them, unless that is most of the way.
      const way = wayBetween(program, Math.max(0, piece.first - 1), piece.last);
      const own = wayBetween(program, rows.first[0]!, rows.last[rows.count - 1]!);
      if (laid < share * own || (rows.count < MANY_ROWS && own < (1 - MOST_LED) * way)) continue;
      const measured = measureRows(program, rows, 'fill');
      // Straights of a line far apart may lie on lines of some lattice, but do not follow one another on it.
      if ('spacing' in measured && measured.spacing < 3 * step) return { ...piece, rows, measured };
    }
  }
  return undefined;
}

/** The axis that more of the vectors' length is near to than to any other, degrees. */
function commonAxis(dx: readonly number[], dy: readonly number[]): number {
  const length = new Float64Array(AXES);
  const axisOf = (k: number): number => ((((Math.atan2(dy[k]!, dx[k]!) / Math.PI) * AXES) % AXES) + AXES) % AXES;
  for (let k = 0; k < dx.length; k++) length[Math.floor(axisOf(k))]! += Math.hypot(dx[k]!, dy[k]!);
  const around = (a: number): number => length[(a + AXES - 1) % AXES]! + length[a]! + length[(a + 1) % AXES]!;
  let best = 0;
  for (let a = 1; a < AXES; a++) if (around(a) > around(best)) best = a;
  const near = dx.map((_, k) => k).filter((k) => [best, (best + 1) % AXES, (best + AXES - 1) % AXES].includes(Math.floor(axisOf(k))));
  return meanAxis(
    near.map((k) => dx[k]!),
    near.map((k) => dy[k]!),
  ).angle;
}

/** Axes are told apart by 5°. */
const AXES = 36;

/** The rows in a row: those from which to which most is gained when what is laid counts for and what lies between counts against. */
function denseRows(program: Program, rows: RowSet): RowSet {
  let [from, gain, most] = [0, 0, 0];
  let best: [number, number] = [0, 0];
  for (let r = 0; r < rows.count; r++) {
    if (r > 0) gain -= GAP_WEIGHT * wayBetween(program, rows.last[r - 1]!, rows.first[r]!);
    if (gain <= 0) [from, gain] = [r, 0];
    gain += rows.length[r]!;
    if (gain > most) [most, best] = [gain, [from, r + 1]];
  }
  return best[0] === 0 && best[1] === rows.count ? rows : sliceRows(program, rows, ...best);
}

/** What lies between rows weighs so much of what lies in them. */
const GAP_WEIGHT = 0.8;

function wayBetween({ x, y }: Program, from: number, to: number): number {
  let way = 0;
  for (let i = from + 1; i <= to; i++) way += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
  return way;
}

/** Whether rows go on from one line to the next one: on every second line they lie on lines twice as far apart. */
function isLineByLine({ x, y }: Program, rows: RowSet, { angle, step }: Lattice): boolean {
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const heights = Array.from(rows.first, (i) => y[i]! * c - x[i]! * s);
  return median(heights.slice(1).map((v, r) => Math.abs(v - heights[r]!))) < 1.5 * step;
}

function goesToAndFro({ x, y }: Program, rows: RowSet): boolean {
  let against = 0;
  for (let r = 1; r < rows.count; r++) {
    const [a, b, c, d] = [rows.first[r - 1]!, rows.last[r - 1]!, rows.first[r]!, rows.last[r]!];
    if ((x[b]! - x[a]!) * (x[d]! - x[c]!) + (y[b]! - y[a]!) * (y[d]! - y[c]!) < 0) against++;
  }
  return against >= 0.6 * (rows.count - 1);
}
