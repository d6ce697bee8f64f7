import type { Program } from '../../model/program.ts';
import { type RowSet } from './rows.ts';
import { meanAxis } from '../../geometry/axis.ts';

/** Lines one step apart, square to `angle`: those that rows of one fill lie on. */
export interface Lattice {
  /** Degrees, of the rows. */
  readonly angle: number;
  /** From line to line, mm. */
  readonly step: number;
  /** Where line 0 lies, in steps. */
  readonly phase: number;
}

/** Fewer penetrations than this tell nothing. */
const LEAST_POINTS = 7;
/** How closely penetrations gather on lines, from 0 (anywhere) to 1; by chance it is about 1 / √count. */
const GATHERED = 0.5;
const BY_CHANCE = 2.4;
/** The step is looked for this far around the expected one. */
const STRETCHES = [0.985, 0.9925, 1, 1.0075, 1.015];

/**
 * Whether the penetrations `first`…`last` lie on lines of a known direction and step, and where these are: the length of the mean of unit
 * vectors turned by their place between two lines is 1 where all lie on lines and near 0 where they lie anywhere.
 */
export function findLattice({ x, y, command }: Program, first: number, last: number, angle: number, step: number): Lattice | undefined {
  const from = Math.max(0, first);
  if (last - from + 1 < LEAST_POINTS) return undefined;
  const turn = (angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  let best: Lattice | undefined;
  let most = 0;
  let count = 0;
  for (const stretch of STRETCHES) {
    const k = (2 * Math.PI) / (step * stretch);
    let re = 0;
    let im = 0;
    count = 0;
    for (let i = from; i <= last; i++) {
      if (command[i] !== 0) continue;
      const v = (y[i]! * c - x[i]! * s) * k;
      re += Math.cos(v);
      im += Math.sin(v);
      count++;
    }
    const gathered = Math.hypot(re, im) / count;
    if (gathered <= most) continue;
    most = gathered;
    best = { angle, step: step * stretch, phase: Math.atan2(im, re) / (2 * Math.PI) };
  }
  return count >= LEAST_POINTS && most >= Math.max(GATHERED, BY_CHANCE / Math.sqrt(count)) ? best : undefined;
}

/** Penetrations on the lines of a lattice as rows: those that follow one another on one line. Single ones make no row. */
export function latticeRows({ x, y }: Program, first: number, last: number, { angle, step, phase }: Lattice): RowSet {
  const turn = (angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const lineOf = (i: number): number => Math.round((y[i]! * c - x[i]! * s) / step - phase);
  const starts: number[] = [];
  const ends: number[] = [];
  for (let i = Math.max(0, first); i <= last;) {
    let n = i;
    while (n < last && lineOf(n + 1) === lineOf(i)) n++;
    if (n > i && Math.hypot(x[n]! - x[i]!, y[n]! - y[i]!) > step) {
      starts.push(i);
      ends.push(n);
    }
    i = n + 1;
  }
  const dx = starts.map((a, r) => x[ends[r]!]! - x[a]!);
  const dy = starts.map((a, r) => y[ends[r]!]! - y[a]!);
  return {
    count: starts.length,
    first: Int32Array.from(starts),
    last: Int32Array.from(ends),
    length: Float64Array.from(dx, (d, r) => Math.hypot(d, dy[r]!)),
    hasTurn: new Uint8Array(starts.length).fill(1),
    ...meanAxis(dx, dy),
  };
}
