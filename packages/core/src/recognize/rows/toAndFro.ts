import type { Program } from '../../model/program.ts';
import { OPENEST, measureRows } from './measureRows.ts';
import type { Piece } from './piece.ts';
import { joinRowSets, oneRow, type RowSet } from './rows.ts';
import { meanAxis } from '../../geometry/axis.ts';
import { median } from '../../geometry/statistics.ts';

/** Fewer rows than this are a line that turns. */
const LEAST_ROWS = 3;
/** A row goes so far along its axis at least, mm, and no less than this share of the usual one. */
const LEAST_LENGTH = 1.5;
const LEAST_SHARE = 0.3;
/** Rows lie beside each other for this share of the shorter one. */
const BESIDE = 0.35;
/** They make up so much of the way. */
const MOSTLY = 0.7;
/** From row to row they go no farther across than this, mm, at least this, and so many of them onward. */
const FARTHEST = 4;
const LEAST_STEP = 0.4;
const ONWARD = 0.7;
/** Rows that slant so are up to so many times as open as others are taken for rows. */
const OPENER = 1.2;
/** Axes are tried so many degrees apart. */
const AXIS_STEP = 15;

/**
 * A run as very open rows, where it goes to and fro across an area, each row slanting as a whole to where the next one begins, so that none keeps to a
 * line: straight stretches that turn back, lie beside one another and make headway. None where it does not.
 */
export function asToAndFro(program: Program, piece: Piece): Piece | undefined {
  const { x, y } = program;
  const dx: number[] = [];
  const dy: number[] = [];
  for (let i = piece.first + 1; i <= piece.last; i++) {
    dx.push(x[i]! - x[i - 1]!);
    dy.push(y[i]! - y[i - 1]!);
  }
  const mean = meanAxis(dx, dy).angle;
  let best: { rows: RowSet; share: number } | undefined;
  for (let turn = 0; turn < 180; turn += AXIS_STEP) {
    const found = rowsAlong(program, piece, (mean + turn) % 180);
    if (found !== undefined && (best === undefined || found.share > best.share)) best = found;
  }
  if (best === undefined) return undefined;
  const measured = measureRows(program, best.rows, 'fill');
  return 'spacing' in measured && measured.spacing <= OPENER * OPENEST ? { ...piece, rows: best.rows, measured } : undefined;
}

/** Stretches that run on one way along an axis as rows, and what share of the way they make up; none where they are not as rows are. */
function rowsAlong(program: Program, piece: Piece, angle: number): { rows: RowSet; share: number } | undefined {
  const { x, y } = program;
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const along = (i: number): number => x[i]! * c + y[i]! * s;
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  const ends: [number, number][] = [];
  for (let i = piece.first; i < piece.last;) {
    const way = Math.sign(along(i + 1) - along(i));
    let n = i + 1;
    while (n < piece.last && Math.sign(along(n + 1) - along(n)) === way) n++;
    ends.push([i, n]);
    i = n;
  }
  const reach = ([a, b]: [number, number]): number => Math.abs(along(b) - along(a));
  const usual = median(ends.map(reach).filter((l) => l >= LEAST_LENGTH));
  const whole = ends.filter((e) => reach(e) >= Math.max(LEAST_LENGTH, LEAST_SHARE * usual));
  if (whole.length < LEAST_ROWS) return undefined;
  let [way, rowsWay, beside, onward, last] = [0, 0, 0, 0, 0];
  for (let i = piece.first + 1; i <= piece.last; i++) way += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
  for (const [k, [a, b]] of whole.entries()) {
    rowsWay += reach([a, b]);
    const before = whole[k - 1];
    if (before === undefined) continue;
    const [low, high] = [Math.min(along(a), along(b)), Math.max(along(a), along(b))];
    const [p, q] = [along(before[0]), along(before[1])];
    const shared = Math.min(high, Math.max(p, q)) - Math.max(low, Math.min(p, q));
    if (shared >= BESIDE * Math.min(reach(before), high - low)) beside++;
    const step = (across(a) + across(b) - across(before[0]) - across(before[1])) / 2;
    if (Math.abs(step) > LEAST_STEP && Math.abs(step) < FARTHEST && (last === 0 || step * last > 0)) onward++;
    if (Math.abs(step) > LEAST_STEP) last = step;
  }
  const pairs = whole.length - 1;
  const share = rowsWay / way;
  if (share < MOSTLY || beside < ONWARD * pairs || onward < ONWARD * pairs) return undefined;
  return { rows: joinRowSets(whole.map(([a, b]) => oneRow(program, a, b))), share };
}
