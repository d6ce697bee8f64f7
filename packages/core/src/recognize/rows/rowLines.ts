import { median } from '../../geometry/statistics.ts';
import { type Program, STITCH } from '../../model/program.ts';
import { agree } from './agree.ts';
import type { RowSet } from './rows.ts';

/** Lines one step apart that rows lie on: unit vector along them, and where line 0 lies across it, mm. */
export interface RowLines {
  readonly c: number;
  readonly s: number;
  readonly step: number;
  readonly origin: number;
}

/** A row from penetration `from` to penetration `to`, and the line that it lies on. */
export interface RowOnLine {
  readonly from: number;
  readonly to: number;
  readonly line: number;
}

/** Rows that lie on lines a step apart are this sure of it, 0 to 1; a penetration is on a line no farther off than this share of a step, */
const SURE = 0.8;
const ON_LINE = 0.12;
/** nor, in a file of tenths of a millimetre, than this, mm. */
const ROUNDED = 0.08;
/** Fewer rows than this tell no lines; a row is longer than so many steps. */
const LEAST_ROWS = 3;
const LEAST_LENGTH = 1;
/** The ends of a row lie as far across as one another, within this share of the pitch. */
const LEAN = 0.08;
/** Between two rows that follow one another lie no more stitches than this. */
const MOST_BETWEEN = 2;
/** The step is looked for around so many times the one that was measured, this far as a share, in so many parts on either side. */
const STEPS = [
  [2, 0.03],
  [1, 0.01],
] as const;
const STEP_PARTS = 20;

/** The lines that rows of an angle (degrees) and a pitch (mm) lie on; none where they keep to none. */
export function linesOf(
  { x, y }: Program,
  rows: RowSet,
  { angle, spacing }: { readonly angle: number; readonly spacing: number },
): RowLines | undefined {
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  // Walks that were taken for rows lean.
  const heights = Array.from(rows.first, (i, r) => [across(i), across(rows.last[r]!)] as const)
    .filter(([from, to]) => Math.abs(from - to) < LEAN * spacing)
    .map(([from, to]) => (from + to) / 2);
  if (heights.length < LEAST_ROWS) return undefined;
  const middle = median(heights);
  const weights = heights.map(() => 1);
  // Among few rows a walk or two may have halved the pitch; rows that lie on lines twice as far apart are those of these lines.
  for (const [times, reach] of STEPS) {
    let best: { step: number; agreement: number; phase: number } | undefined;
    for (let part = -STEP_PARTS; part <= STEP_PARTS; part++) {
      const step = ((times * spacing) / 2) * (1 + (reach * part) / STEP_PARTS);
      const found = agree(heights, weights, (v) => (v - middle) / step);
      if (best === undefined || found.agreement > best.agreement) best = { step, ...found };
    }
    if (best!.agreement >= SURE) return { c, s, step: best!.step, origin: middle + best!.phase * best!.step };
  }
  return undefined;
}

/** A row that is known, with the line that its end lies on. */
export function spanOnLine({ x, y }: Program, { c, s, step, origin }: RowLines, from: number, to: number): RowOnLine {
  return { from, to, line: Math.round((y[to]! * c - x[to]! * s - origin) / step) };
}

/**
 * Rows among the stitches ending at `first`…`last` that go on to and fro from line to line, with the known ones that come right before or after, which
 * are not given again; the walks between are let be. O(rows).
 */
export function rowsOnLines(
  program: Program,
  { c, s, step, origin }: RowLines,
  first: number,
  last: number,
  known: { readonly before?: RowOnLine; readonly after?: RowOnLine } = {},
): RowOnLine[] {
  const { x, y, command } = program;
  const along = (i: number): number => x[i]! * c + y[i]! * s;
  const place = (i: number): number => (y[i]! * c - x[i]! * s - origin) / step;
  const off = Math.max(ON_LINE, ROUNDED / step);
  const found: RowOnLine[] = [];
  for (let i = Math.max(0, first - 1); i < last;) {
    const line = Math.round(place(i));
    const isOn = (n: number): boolean => Math.abs(place(n) - line) < off;
    let n = i;
    if (isOn(i)) {
      const way = Math.sign(along(i + 1) - along(i));
      while (n < last && command[n + 1] === STITCH && isOn(n + 1) && (along(n + 1) - along(n)) * way > 0) n++;
    }
    if (Math.abs(along(n) - along(i)) > LEAST_LENGTH * step) found.push({ from: i, to: n, line });
    i = Math.max(i + 1, n);
  }
  const all = [...(known.before ? [known.before] : []), ...found, ...(known.after ? [known.after] : [])];
  const isPair = (k: number): boolean => {
    const [a, b] = [all[k], all[k + 1]];
    if (a === undefined || b === undefined || b.from - a.to > MOST_BETWEEN || Math.abs(a.line - b.line) !== 1) return false;
    return (along(a.to) - along(a.from)) * (along(b.to) - along(b.from)) < 0;
  };
  return all.filter((row, k) => row !== known.before && row !== known.after && (isPair(k) || isPair(k - 1)));
}
