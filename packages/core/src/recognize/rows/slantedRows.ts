import type { Program } from '../../model/program.ts';
import type { GridRow, LineGrid } from '../fill/gridRows.ts';
import { leanOfStitches, type RowSet } from './rows.ts';

/** Rows slant as a whole where so few begin with a turn and their stitches lean by at least this share of what the rows do. */
const FEW_TURNS = 0.3;
const LEANS_WHOLE = 0.5;

/**
 * Whether the rows of a fill go straight from end to end, each starting where the one before ended: all slanted, or straight ones with slanted
 * returns. Rows of one stitch each do, too.
 *
 *   all slanted          straight and returns     first stitch slanted
 *   •---___              •-----------•            •-----------•
 *   ___---•              ___-----•                •-------__/
 *   •---___              •-----------•            \_--------•
 */
export function areSlanted(program: Program, rows: RowSet): boolean {
  const turns = rows.hasTurn.reduce((sum, has) => sum + has, 0);
  if (turns > FEW_TURNS * rows.count) return false;
  const lean = leanOfStitches(program, rows);
  return lean === undefined || lean > LEANS_WHOLE;
}

/** Another explanation is taken where it leaves no more than this share of what the usual one does. */
const MUCH_BETTER = 0.6;
/** A section of fewer rows tells nothing by itself. */
const LEAST_ROWS = 4;

/**
 * By how many degrees the lines of slanted rows depart from the mean of the rows. Each row makes headway: all half a pitch where all slant, or every
 * second one a whole pitch, and the others none. Which it is shows where rows differ in length, as headway is the same for short ones and long ones
 * while what a wrong angle adds is not. `u` and `v` give places along and across the mean, mm.
 */
export function leanOfLines(rows: RowSet, u: (row: number) => number, v: (row: number) => number): number {
  let [all, vee] = [
    { off: 0, weight: 0, rest: 0 },
    { off: 0, weight: 0, rest: 0 },
  ];
  for (let from = 0; from < rows.count;) {
    let to = from + 1;
    while (to < rows.count && rows.first[to] === rows.last[to - 1]) to++;
    if (to - from >= LEAST_ROWS) {
      const along: number[] = [];
      const across: number[] = [];
      for (let r = from; r < to; r++) {
        along.push(u(rows.last[r]!) - u(rows.first[r]!));
        across.push(v(rows.last[r]!) - v(rows.first[r]!));
      }
      all = add(all, fitLean(along, across, [0.5, 0.5]));
      const [straightFirst, straightLast] = [fitLean(along, across, [0, 1]), fitLean(along, across, [1, 0])];
      vee = add(vee, straightFirst.rest <= straightLast.rest ? straightFirst : straightLast);
    }
    from = to;
  }
  const best = vee.rest < MUCH_BETTER * all.rest ? vee : all;
  return best.weight === 0 ? 0 : (Math.atan(best.off / best.weight) * 180) / Math.PI;
}

interface Lean {
  /** Slope times weight; the weight; the sum of squares that is left, mm². */
  readonly off: number;
  readonly weight: number;
  readonly rest: number;
}

function add(a: Lean, b: Lean): Lean {
  return { off: a.off + b.off, weight: a.weight + b.weight, rest: a.rest + b.rest };
}

/**
 * The slope of lines, by least squares, when rows that go to and fro make headway by turns as `shares` of one pitch say: across = slope × along +
 * share × pitch, the pitch fitted as well.
 */
function fitLean(along: readonly number[], across: readonly number[], shares: readonly [number, number]): Lean {
  let [uu, us, ss, uv, sv, vv] = [0, 0, 0, 0, 0, 0];
  for (const [r, a] of along.entries()) {
    const share = shares[r % 2]!;
    const b = across[r]!;
    uu += a * a;
    us += a * share;
    ss += share * share;
    uv += a * b;
    sv += share * b;
    vv += b * b;
  }
  const det = uu * ss - us * us;
  // Rows all as long as each other say nothing of how headway is shared: what fits the mean best stands.
  if (det < 1e-9 * uu * ss) return { off: 0, weight: uu, rest: vv };
  const slope = (uv * ss - sv * us) / det;
  const pitch = (sv * uu - uv * us) / det;
  return { off: slope * uu, weight: uu, rest: Math.max(0, vv - slope * uv - pitch * sv) };
}

/** Slanted rows on the lines of a grid, each on that which its middle lies on, as chains of those that follow one another from line to line. */
export function chainSlanted(rows: RowSet, grid: LineGrid, u: (row: number) => number, middles: Float64Array): GridRow[][] {
  const chains: GridRow[][] = [];
  let chain: GridRow[] = [];
  for (let r = 0; r < rows.count; r++) {
    const line = grid.lineAt(middles[r]!);
    const before = chain[chain.length - 1];
    if (before !== undefined && (rows.first[r] !== rows.last[r - 1] || Math.abs(line - before.line) > 1)) {
      chains.push(chain);
      chain = [];
    }
    const [first, last] = [u(rows.first[r]!), u(rows.last[r]!)];
    chain.push({ line, first, last, low: Math.min(first, last), high: Math.max(first, last) });
  }
  if (chain.length > 0) chains.push(chain);
  return chains;
}
