import { SHORTEST } from '../../model/objectSpec.ts';
import type { Program } from '../../model/program.ts';
import { type GridRow, startOf } from './gridRows.ts';
import type { FillGeometry } from './fillGeometry.ts';
import type { RowSet } from '../rows/rows.ts';

/** Fewer ends than this tell nothing. */
const LEAST_ENDS = 5;
const SURE_ENDS = 12;
/** By chance a stitch ends there, too, but not so often. */
const TURN_SHARE = 0.45;
/** A turn takes so much of the step from row to row. */
const MOST_OF_STEP = 0.7;
/** A row that begins with a turn has its first penetration this near to the edge, mm: half the way from the row before to the row after. */
const AT_EDGE = 0.25;
/** Nobody leaves out turns longer than this, mm; where rows' ends lie farther apart than this and so many steps, another section begins. */
const LONGEST_LEFT_OUT = 0.8;
const LONGEST_TURN = 1.6;
const LONGEST_TURN_STEPS = 3;
const LEAST_OF_STEP = 0.85;
/** Two lengths that differ by less than this share of the ends in how many they explain part them about as well. */
const ABOUT_AS_WELL = 0.03;
/** Lengths are one that differ by less than this, mm. */
const SAME_LENGTH = 0.012;
/** So many of one length are looked at on either side: more are no worse. */
const MOST_OF_ONE_LENGTH = 200;
/** The usual shortest stitch is taken where it explains no more than this share of the ends less. */
const HARDLY_WORSE = 0.015;

/**
 * How rows end, and the shortest turn that was sewn, mm: of rows that end square turns shorter than that were left out. Told by the length that the
 * turn between each two rows has or would have: the shortest turn is where those without and those with one part best. `step` is the distance from
 * row to row, mm; `across` gives how far across the rows a penetration lies, mm.
 */
export function endsOf(
  { x, y }: Program,
  { count, first, last, hasTurn }: RowSet,
  step: number,
  across: (row: number) => number,
): Pick<FillGeometry, 'rowEnds' | 'shortest'> {
  const ends: End[] = [];
  for (let r = 1; r + 1 < count; r++) {
    const [a, b] = [last[r - 1]!, last[r + 1]!];
    // A turn along a slanting edge leans toward a row so much that it was told as its first stitch, or as the last one of the row before.
    const begin = hasTurn[r] ? first[r]! : first[r]! + 1;
    const isFirst = Math.hypot(x[begin]! - (x[a]! + x[b]!) / 2, y[begin]! - (y[a]! + y[b]!) / 2) < AT_EDGE;
    const whole = Math.hypot(x[b]! - x[a]!, y[b]! - y[a]!) / 2;
    const isLast =
      Math.abs(across(a) - across(a - 1)) > MOST_OF_STEP * step && Math.hypot(x[a]! - x[a - 1]!, y[a]! - y[a - 1]!) < 3 * whole;
    const isTurn = hasTurn[r] === 1 || isFirst || isLast;
    const length = hasTurn[r] || isFirst ? Math.hypot(x[begin]! - x[a]!, y[begin]! - y[a]!) : whole;
    // Shorter than from row to row no turn is: two rows were told as one, or one as two.
    if (length > LEAST_OF_STEP * step && length < Math.max(LONGEST_TURN, LONGEST_TURN_STEPS * step)) ends.push({ length, isTurn });
  }
  if (ends.length < LEAST_ENDS) return { rowEnds: hasTurn.reduce((sum, has) => sum + has, 0) > count * TURN_SHARE ? 'square' : 'slanted' };
  return partTurns(ends);
}

/** A row's own penetration lies this near to where it would begin, mm, if it begins with a turn. */
const AT_START = 0.25;

/** The same of rows on the lines of a grid, which say where each would begin; none where too few do. */
export function endsOfChains(
  chains: readonly (readonly GridRow[])[],
  step: number,
): Pick<FillGeometry, 'rowEnds' | 'shortest'> | undefined {
  const ends: End[] = [];
  for (const chain of chains) {
    for (let n = 1; n + 1 < chain.length; n++) {
      const start = startOf(chain, n);
      if (start === undefined) continue;
      const length = Math.hypot(start - chain[n - 1]!.last, step);
      if (length < Math.max(LONGEST_TURN, LONGEST_TURN_STEPS * step))
        ends.push({ length, isTurn: Math.abs(chain[n]!.first - start) < AT_START });
    }
  }
  return ends.length < SURE_ENDS ? undefined : partTurns(ends);
}

/** The end of a row: how long the turn to the next one is or would be, mm, and whether it was sewn. */
interface End {
  readonly length: number;
  readonly isTurn: boolean;
}

function partTurns(ends: End[]): Pick<FillGeometry, 'rowEnds' | 'shortest'> {
  ends.sort((p, q) => p.length - q.length);
  const turns = ends.reduce((sum, end) => sum + (end.isTurn ? 1 : 0), 0);
  // How many ends are as they should be if turns were sewn from the k-th length on: those before it without, those from it on with one.
  const right = [turns];
  for (const [k, { length, isTurn }] of ends.entries()) {
    if (length >= LONGEST_LEFT_OUT) break;
    right.push(right[k]! + (isTurn ? -1 : 1));
  }
  const best = right.reduce((most, count) => Math.max(most, count));
  const gained = gainOfTurns(ends).slice(0, right.length);
  const gain = gained.reduce((most, value) => Math.max(most, value));
  if (gain < LEAST_GAIN) return { rowEnds: 'slanted' };
  if (best === turns) return { rowEnds: 'square' };
  const usual = ends.filter(({ length }) => length < SHORTEST).length;
  if ((right[usual] ?? 0) >= best - HARDLY_WORSE * ends.length || (gained[usual] ?? -Infinity) > gain - LEAST_GAIN)
    return { rowEnds: 'square', shortest: SHORTEST };
  // Of lengths that part them about as well as the best does, that with as many ends below it as have no turn: so many are left out again. But none
  // amid many of one length: along a straight edge all turns are as long, and all would be left out, or none.
  const left = right.reduce((count, _, k) => count + (k > 0 && !ends[k - 1]!.isTurn ? 1 : 0), 0);
  const between = (k: number): number => (ends[k - 1]!.length + (ends[k]?.length ?? ends[k - 1]!.length)) / 2;
  const missed = (k: number): number => {
    let [from, to] = [k, k];
    while (from > k - MOST_OF_ONE_LENGTH && from > 0 && between(k) - ends[from - 1]!.length < SAME_LENGTH) from--;
    while (to < k + MOST_OF_ONE_LENGTH && to < ends.length && ends[to]!.length - between(k) < SAME_LENGTH) to++;
    return Math.abs(k - left) + (to - from) / 2;
  };
  let at = right.indexOf(best);
  for (let k = 1; k < right.length; k++) if (right[k]! >= best - ABOUT_AS_WELL * ends.length && missed(k) < missed(at)) at = k;
  return { rowEnds: 'square', shortest: between(at) };
}

/** A turn is told where one was sewn, and a penetration lies where one would be by chance, with these probabilities. */
const TOLD = 0.95;
const BY_CHANCE = 0.12;
/** Of two explanations the simpler one is taken where the other is no more likely than by this, as a logarithm of how many times. */
const LEAST_GAIN = 3.5;

/** How much likelier ends are if turns were sewn from the k-th one on than if none were: logarithms of likelihood ratios, for each k. */
function gainOfTurns(ends: readonly End[]): number[] {
  const gains = new Array<number>(ends.length + 1).fill(0);
  for (let k = ends.length - 1; k >= 0; k--)
    gains[k] = gains[k + 1]! + (ends[k]!.isTurn ? Math.log(TOLD / BY_CHANCE) : Math.log((1 - TOLD) / (1 - BY_CHANCE)));
  return gains;
}

/** Fewer rows with penetrations inside them than this do not tell how near to their ends these come. */
const LEAST_INNER = 24;
/** The last stitch of a row lies on its line, give or take this share of a step: others lead to the next row. */
const ON_LINE = 0.4;
/** Shares of the lengths of last stitches. */
const NEAREST = 0.03;
const NEAR = 0.15;

/**
 * How near to the ends of rows penetrations come inside them, mm. The grid meets the ends anywhere, so that the lengths of last stitches are spread
 * evenly from the shortest on: it is where two low ones of them, at known shares, point to.
 */
export function measureEndStitch(
  rows: RowSet,
  step: number,
  along: (row: number) => number,
  across: (row: number) => number,
): number | undefined {
  const lengths: number[] = [];
  for (let r = 0; r < rows.count; r++) {
    const end = rows.last[r]!;
    if (end - rows.first[r]! < 2 || Math.abs(across(end) - across(end - 1)) > ON_LINE * step) continue;
    lengths.push(Math.abs(along(end) - along(end - 1)));
  }
  if (lengths.length < LEAST_INNER) return undefined;
  const sorted = Float64Array.from(lengths).sort();
  const [low, high] = [sorted[Math.floor(NEAREST * sorted.length)]!, sorted[Math.floor(NEAR * sorted.length)]!];
  return Math.max(0, low - ((high - low) * NEAREST) / (NEAR - NEAREST));
}
