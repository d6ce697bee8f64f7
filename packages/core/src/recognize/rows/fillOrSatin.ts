import type { Program } from '../../model/program.ts';
import { leanOfStitches, pairRows, type RowSet } from './rows.ts';
import { axisDifference, meanAxis } from '../../geometry/axis.ts';

/** A throw shorter than this (mm) is not split by anybody; one longer than the second is hardly ever left whole. Common practice. */
const UNSPLIT = 6.4;
const WHOLE = 6;
/** Up to here (mm) a throw is split once. */
const SPLIT_ONCE = 12;
/** Stitches of a fill are shorter than this, mm; parts of a split throw may be longer. Common practice: most fills step at 3.5 to 4.5 mm. */
const LONG_STEP = 5.2;
/** A row of a fill is no longer than this (mm) without a penetration inside. */
const USUAL_STEP = 4.6;
/** Log odds that a turn at the end of most rows adds, and how many rows have one then. */
const WITH_TURNS = 4;
const MANY_TURNS = 0.3;
/** Edges tell where so much of the thread lies in rows with a penetration inside: lengths that vary less than the first are rails, more than the second are none. */
const SPLIT_SHARE = 0.3;
const RAILS = { spread: 0.08, odds: -1.5 };
const FREE = { spread: 0.2, odds: 0.8 };
/** Rows less even than this turn, and a fill's do not. */
const ONE_WAY = 0.94;
const TURNING = 4;
/** So many degrees of turning are chance, more where rows are short (degrees times mm); each one more counts so much. */
const STILL = 3;
const STILL_SHORT = 10;
const DRIFT_WEIGHT = 0.4;
/** Rows whose stitches lie side by side, but for the first ones, are a fill's. */
const SIDE_BY_SIDE = { lean: 0.35, odds: 2 };

/** Rows are taken for a fill's from these odds on: up to here satins of the test shapes reach. */
export const FILL_ODDS = 0.55;

/**
 * How much the rows of a set look like those of a fill rather than like the throws of a satin, as log odds: positive for a fill. Each row
 * votes by its length, with the penetrations inside it: nobody splits a short throw, few leave a long one whole, and a throw up to 12 mm is split
 * once. Then the edges vote where rows are split at all, and rows that turn speak for a satin. Common practice; weights by trial on one part of
 * the programs of other hands and of the test shapes. O(rows).
 */
export function weighFillRows(program: Program, rows: RowSet): number {
  let [votes, total, turns, split, many] = [0, 0, 0, 0, 0];
  for (let r = 0; r < rows.count; r++) {
    const length = rows.length[r]!;
    const inside = rows.last[r]! - rows.first[r]! - 1;
    votes += length * voteOf(length, inside);
    total += length;
    turns += rows.hasTurn[r]!;
    if (inside > 0) split += length;
    if (inside > 1) many += length;
  }
  if (total === 0) return 0;
  let odds = votes / total;
  if (turns > MANY_TURNS * rows.count) odds += WITH_TURNS;
  if (split > SPLIT_SHARE * total) odds += edgeVote(rows);
  if (rows.evenness < ONE_WAY) odds -= TURNING;
  odds -= Math.min(TURNING, DRIFT_WEIGHT * Math.max(0, driftOf(program, rows) - STILL - (STILL_SHORT * rows.count) / total));
  const lean = leanOfStitches(program, rows);
  if (lean !== undefined && lean < SIDE_BY_SIDE.lean && rows.evenness > ONE_WAY) odds += (SIDE_BY_SIDE.odds * many) / total;
  return odds;
}

/** Whether rows are those of a fill, sewn in stitches along each row, or the throws of a satin. */
export function isFillRows(program: Program, rows: RowSet): boolean {
  return weighFillRows(program, rows) > FILL_ODDS;
}

/** Odds this far (as a logarithm) from the line between fill and satin are even for nobody; the steepness is fitted to the programs worked on. */
const STEEPNESS = 1.5;
/** Rows split in so small a share are a satin's without a doubt. */
const UNSPLIT_SHARE = 0.12;

/** How likely rows are what they were taken for, 0.5 to 1, when they may be those of a fill or of a satin. */
export function chanceOfKind(program: Program, rows: RowSet, kind: 'fill' | 'satin'): number {
  let [split, total] = [0, 0];
  for (let r = 0; r < rows.count; r++) {
    total += rows.length[r]!;
    if (rows.last[r]! - rows.first[r]! > 1) split += rows.length[r]!;
  }
  if (kind === 'satin' && split <= UNSPLIT_SHARE * total) return 1;
  const away = weighFillRows(program, rows) - FILL_ODDS;
  return 1 / (1 + Math.exp(-STEEPNESS * Math.abs(away)));
}

/** The vote of a row of some length (mm) with so many penetrations inside. */
function voteOf(length: number, inside: number): number {
  if (inside >= 2) return length < LONG_STEP * (inside + 1) ? 4 : 1;
  if (inside === 1) return length < UNSPLIT ? 3 : length > SPLIT_ONCE ? -1 : 0;
  return length > WHOLE ? -4 : length > USUAL_STEP ? -1.4 : -0.6;
}

/** Parallel rails speak for a satin, a free outline for a fill. */
function edgeVote({ length, count }: RowSet): number {
  const mean = length.reduce((sum, l) => sum + l, 0) / count;
  const spread = Math.sqrt(length.reduce((sum, l) => sum + (l - mean) ** 2, 0) / count) / mean;
  return spread < RAILS.spread ? RAILS.odds : spread > FREE.spread ? FREE.odds : 0;
}

/** Fewer rows than this tell no turning. */
const LEAST_TURNING = 12;

/** By how many degrees the rows turn from one third of them to another. */
function driftOf({ x, y }: Program, rows: RowSet): number {
  if (rows.count < LEAST_TURNING) return 0;
  const { dx, dy } = pairRows(
    Array.from(rows.first, (a, r) => x[rows.last[r]!]! - x[a]!),
    Array.from(rows.first, (a, r) => y[rows.last[r]!]! - y[a]!),
  );
  const at = [0, 1, 2, 3].map((k) => Math.floor((k * dx.length) / 3));
  const [a, b, c] = [0, 1, 2].map((k) => meanAxis(dx.slice(at[k], at[k + 1]), dy.slice(at[k], at[k + 1])).angle);
  return Math.max(axisDifference(a!, b!), axisDifference(b!, c!), axisDifference(a!, c!));
}
