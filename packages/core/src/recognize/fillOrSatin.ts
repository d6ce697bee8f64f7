import type { Program } from '../model/program.ts';
import type { RowSet } from './rows.ts';

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
  let [votes, total, turns, split] = [0, 0, 0, 0];
  for (let r = 0; r < rows.count; r++) {
    const length = rows.length[r]!;
    const inside = rows.last[r]! - rows.first[r]! - 1;
    votes += length * voteOf(length, inside);
    total += length;
    turns += rows.hasTurn[r]!;
    if (inside > 0) split += length;
  }
  if (total === 0) return 0;
  let odds = 2 * votes / total;
  if (turns > 0.3 * rows.count) odds += 4;
  if (split > 0.3 * total) odds += edgeVote(rows);
  if (rows.evenness < 0.94) odds -= 4;
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
