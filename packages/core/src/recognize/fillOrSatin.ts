import type { Program } from '../model/program.ts';
import { leanOfStitches, meanAxis, pairRows, type RowSet } from './rows.ts';
import { axisDifference } from './stitchObject.ts';

/** A throw shorter than this (mm) is not split by anybody; one longer than the second is hardly ever left whole. Common practice. */
const UNSPLIT = 6.4;
const WHOLE = 6;
/** Up to here (mm) a throw is split once. */
const SPLIT_ONCE = 12;
/** A row of a fill is no longer than this (mm) without a penetration inside. */
const USUAL_STEP = 4.6;

/**
 * How much the rows of a set look like those of a fill rather than like the throws of a satin, as log odds: positive for a fill. Each row
 * votes, by its length, with the number of penetrations inside it; then the edges do.
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
  let odds = 2 * votes / total;
  if (turns > 0.3 * rows.count) odds += 4;
  if (split > 0.3 * total) odds += edgeVote(rows);
  const { x, y } = program;
  const { dx, dy } = pairRows(
    Array.from(rows.first, (a, r) => x[rows.last[r]!]! - x[a]!),
    Array.from(rows.first, (a, r) => y[rows.last[r]!]! - y[a]!),
  );
  if (rows.evenness < 0.94) odds -= 4;
  odds -= Math.min(4, 0.4 * Math.max(0, driftOf(dx, dy) - 3 - (10 * rows.count) / total));
  const lean = leanOfStitches(program, rows);
  if (lean !== undefined && lean < 0.35 && rows.evenness > 0.94) odds += (2 * many) / total;

  return odds;
}

function voteOf(length: number, inside: number): number {
  if (inside >= 2) return length < SPLIT_ONCE ? 2 : 1;
  if (inside === 1) return length < UNSPLIT ? 1.5 : length > SPLIT_ONCE ? -0.5 : 0;
  return length > WHOLE ? -2 : length > USUAL_STEP ? -0.7 : -0.3;
}

/** Parallel rails speak for a satin, a free outline for a fill. */
function edgeVote(rows: RowSet): number {
  const mean = rows.length.reduce((s, l) => s + l, 0) / rows.count;
  const spread = Math.sqrt(rows.length.reduce((s, l) => s + (l - mean) ** 2, 0) / rows.count) / mean;
  return spread < 0.08 ? -1.5 : spread > 0.2 ? 0.8 : 0;
}

/** By how many degrees the rows turn from one third of them to another. */
function driftOf(dx: readonly number[], dy: readonly number[]): number {
  if (dx.length < 11) return 0;
  const at = [0, 1, 2, 3].map((k) => Math.floor((k * dx.length) / 3));
  const [a, b, c] = [0, 1, 2].map((k) => meanAxis(dx.slice(at[k], at[k + 1]), dy.slice(at[k], at[k + 1])).angle);
  return Math.max(axisDifference(a!, b!), axisDifference(b!, c!), axisDifference(a!, c!));
}
