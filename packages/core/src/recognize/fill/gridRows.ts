import { type Program, STITCH } from '../../model/program.ts';
import { agree } from '../rows/agree.ts';
import { type RowSet } from '../rows/rows.ts';
import { median } from '../../geometry/statistics.ts';

/** Penetrations that follow one another without a jump: how far along and across the rows they lie, mm. */
export interface Way {
  readonly u: Float64Array;
  readonly v: Float64Array;
}

/** The lines that rows lie on: how far apart, mm; which one lies at a height, and how high one lies. */
export interface LineGrid {
  readonly step: number;
  readonly lineAt: (v: number) => number;
  readonly heightOf: (line: number) => number;
}

/** Penetrations that follow one another on one line: how far along the first and the last of them lie, and from where to where the row is sewn, mm. */
export interface GridRow {
  readonly line: number;
  readonly first: number;
  readonly last: number;
  readonly low: number;
  readonly high: number;
}

/** Rows keep to the lines of a grid where they agree so much about where it lies. */
const ON_GRID = 0.6;
/** Between two rows there are no more stitches than this that are ways, or rows too short to be told. */
const MOST_BETWEEN = 40;
/** A penetration lies on a line where it is no farther off than this share of a step, or than rounding moves it, mm. */
const ON_LINE = 0.35;
const ROUNDED = 0.09;
/** A stitch that comes from no farther off a line than so many steps is a part of its row. */
const LED_IN = 1.2;

/** The lines that rows at heights `v` (mm across) lie on, `step` mm apart; none where they lie on none. `lengths` say how much each row counts. */
export function findGrid(v: Float64Array, lengths: Float64Array, step: number): LineGrid | undefined {
  const middle = median(v);
  const { agreement, phase } = agree(v, lengths, (at) => (at - middle) / step);
  if (!(agreement >= ON_GRID)) return undefined;
  const from = middle + phase * step;
  return { step, lineAt: (at) => Math.round((at - from) / step), heightOf: (line) => from + line * step };
}

/** A step that rows agree about less than this is looked for anew, up to this share from what it was measured to be. */
const SURE = 0.85;
/** Another one is taken where they agree so much more about it. */
const BETTER = 0.05;
const STEP_REACH = 0.08;
/** Rows are looked at in the middle first, then, where that left it open, all over; so many of them, and by so many values on either side. */
const MOST_ROWS = 80;
const MOST_STEPS = 40;
/** Each value moves the outer rows by this share of a step. */
const SLIP = 0.15;

/**
 * Of so many steps that were counted some may have been none, between the parts of a row that was told in two, or more than one, over rows that were not
 * told: then it is another step that rows agree about by so much more.
 */
const COUNTED = 10;
const MISCOUNTED = [9, 8, 7, 6, 11, 12, 13];
/** Each is looked for this far around what it would be, as a share. */
const OTHER_REACH = 0.05;
const MUCH_BETTER = 0.15;
/** So many rows agree about a step by chance hardly more than this, divided by the root of how many they are. */
const NO_CHANCE = 3.6;
const LEAST_AGREED = 0.4;
/** What is rounded to 0.1 mm lies on lines closer than this (mm) for that alone. */
const LEAST_STEP = 0.13;

/** A step from row to row near the measured one that rows agree about, mm; the measured one where they do, or about none. */
export function agreedStep(v: Float64Array, lengths: Float64Array, step: number): number {
  const from = Math.max(0, (v.length - MOST_ROWS) >> 1);
  const [middle, weights] = [v.subarray(from, from + MOST_ROWS), lengths.subarray(from, from + MOST_ROWS)];
  let near = bestStep(middle, weights, step, STEP_REACH);
  if (near.agreement < ON_GRID) {
    const least = Math.min(ON_GRID, Math.max(LEAST_AGREED, NO_CHANCE / Math.sqrt(middle.length)));
    for (const counted of MISCOUNTED.filter((n) => (step * COUNTED) / n > LEAST_STEP)) {
      const other = bestStep(middle, weights, (step * COUNTED) / counted, OTHER_REACH, least);
      if (other.agreement > Math.max(least, near.agreement + MUCH_BETTER)) near = other;
    }
  }
  if (v.length <= MOST_ROWS) return near.step;
  const every = Math.ceil(v.length / MOST_ROWS);
  const some = (values: Float64Array): Float64Array => values.filter((_, r) => r % every === 0);
  return bestStep(some(v), some(lengths), near.step, near.slip).step;
}

/** The step that rows agree about best within a share `reach` of one, how much they do, and the share by which it may be off. */
function bestStep(
  v: Float64Array,
  lengths: Float64Array,
  step: number,
  reach: number,
  least = ON_GRID,
): { step: number; agreement: number; slip: number } {
  const middle = median(v);
  const at = (value: number): number => agree(v, lengths, (height) => (height - middle) / value).agreement;
  const lines = v.reduce((far, height) => Math.max(far, Math.abs(height - middle)), 0) / step;
  const slip = Math.min(reach, (2 * SLIP) / Math.max(1, lines));
  const own = at(step);
  let [best, agreement, most] = [step, own, Math.max(own + BETTER, least)];
  if (most > SURE) return { step, agreement, slip };
  const steps = Math.min(MOST_STEPS, Math.ceil((reach * lines) / SLIP));
  for (let k = -steps; k <= steps; k++) {
    const value = step * (1 + (reach * k) / steps);
    const here = at(value);
    if (here > most) [best, agreement, most] = [value, here, here];
  }
  return { step: best, agreement, slip };
}

/** All that is sewn from the first of some rows to the last, the ways between them included, parted where the thread is not laid or others come between. */
export function waysOf(
  { command }: Program,
  { count, first, last }: RowSet,
  along: (row: number) => number,
  across: (row: number) => number,
): Way[] {
  const isThrough = (a: number, b: number): boolean => {
    if (b < a || b - a > MOST_BETWEEN) return false;
    for (let i = a + 1; i <= b; i++) if (command[i] !== STITCH) return false;
    return true;
  };
  const ways: Way[] = [];
  for (let r = 0; r < count; r++) {
    const start = r;
    while (r + 1 < count && isThrough(last[r]!, first[r + 1]!)) r++;
    const rows = Array.from({ length: last[r]! - first[start]! + 1 }, (_, k) => first[start]! + k);
    ways.push({ u: Float64Array.from(rows, along), v: Float64Array.from(rows, across) });
  }
  return ways;
}

/** The rows that ways sew, as chains of those that follow one another from line to line; stitches that leave the lines are in none. */
export function followRows(ways: readonly Way[], grid: LineGrid): GridRow[][] {
  return ways.flatMap((way) => followWay(way, grid));
}

function followWay({ u, v }: Way, { step, lineAt, heightOf }: LineGrid): GridRow[][] {
  const chains: GridRow[][] = [];
  let chain: { -readonly [K in keyof GridRow]: GridRow[K] }[] = [];
  const close = (): void => {
    if (chain.length > 0) chains.push(chain);
    chain = [];
  };
  for (let i = 0; i < u.length; i++) {
    const line = lineAt(v[i]!);
    if (Math.abs(v[i]! - heightOf(line)) > Math.max(ROUNDED, ON_LINE * step)) {
      close();
      continue;
    }
    const row = chain[chain.length - 1];
    if (row?.line === line) {
      row.last = u[i]!;
      row.low = Math.min(row.low, u[i]!);
      row.high = Math.max(row.high, u[i]!);
      continue;
    }
    if (row !== undefined && Math.abs(line - row.line) > 1) close();
    // A way may lead into a row without a penetration where that begins.
    const isLed = chain.length === 0 && i > 0 && Math.abs(v[i - 1]! - heightOf(line)) < LED_IN * step;
    const from = isLed ? u[i - 1]! : u[i]!;
    chain.push({ line, first: u[i]!, last: u[i]!, low: Math.min(from, u[i]!), high: Math.max(from, u[i]!) });
  }
  close();
  return chains;
}

/**
 * Where the n-th row of a chain would begin on its own line, mm along: between the end of the row before, which may slant into it, and that of the row
 * after, which comes back there. None where these do not say.
 */
export function startOf(chain: readonly GridRow[], n: number): number | undefined {
  const [before, row, after] = [chain[n - 1], chain[n]!, chain[n + 1]];
  if (before === undefined || after === undefined || after.line - row.line !== row.line - before.line) return undefined;
  return (before.last - row.last) * (after.last - row.last) > 0 ? (before.last + after.last) / 2 : undefined;
}

/** A side goes on beyond the last row that shows it by no more than so many mm for each mm that it goes across. */
const STEEPEST = 2;

/**
 * The same of the last row of a chain, which no row follows: where its side would be if it went on as it came, by the ends of the row before and of that
 * two rows before it. None where these do not say.
 */
export function startBeyond(chain: readonly GridRow[], n: number, step: number): number | undefined {
  const [further, before, row] = [chain[n - 3], chain[n - 1], chain[n]!];
  if (further === undefined || before === undefined) return undefined;
  const onward = row.line - before.line;
  if (before.line - further.line !== 2 * onward || chain[n - 2]!.line !== further.line + onward) return undefined;
  const most = STEEPEST * step;
  return before.last + Math.max(-most, Math.min(most, (before.last - further.last) / 2));
}
