import type { Agreement } from '../rows/agree.ts';
import { median } from '../../geometry/statistics.ts';

/** A penetration inside a row: how far along the row it lies, mm, and on which line of the grid. */
export interface Inner {
  readonly u: number;
  readonly line: number;
}

/** Where the penetrations of rows lie: the stitch, by how much of it each row is shifted against the one before, and a place along line 0, mm. */
export interface Places {
  readonly stitchLength: number;
  readonly offset: number;
  readonly along: number;
  /** Penetrations nearer than this to the ends of rows were left out, mm. */
  readonly endStitch?: number;
}

/** Fewer pairs of rows than this tell no shift; pairs lie so many lines apart at most. */
const LEAST_PAIRS = 6;
const FARTHEST_PAIR = 3;
/** The shift is looked for in so many parts of a stitch first, then this far around the best one. */
const SHIFTS = 60;
const REACH = 0.04;
const TURNS = Array.from({ length: SHIFTS }, (_, k) => ({
  cos: Math.cos((2 * Math.PI * k) / SHIFTS),
  sin: Math.sin((2 * Math.PI * k) / SHIFTS),
}));
/** How much of a step, or of a stitch, the outer rows slip between two values that are looked at, and how many of those at most on either side. */
export const SLIP = 0.08;
const MOST_VALUES = 400;
/** Values are tried on so many rows or penetrations at most. */
const MOST_PLACES = 1500;
/** Places on a grid agree by so much at least, from 0 by chance to 1. */
export const AGREED = 0.5;
/** A tidy value is taken where it moves the outer rows, or their penetrations, by no more than this share of a step or stitch. */
export const TIDY_SLIP = 0.03;

/** By how much of a stitch rows are shifted against each other, and where they lie; none where they agree about no shift. */
export function readShift(inner: readonly Inner[], stitchLength: number): Places | undefined {
  const middle = median(inner.map(({ u }) => u));
  const places = inner.map(({ u, line }) => ({ u: (u - middle) / stitchLength, line }));
  const all = sumsByLine(places);
  const guess = shiftOfNeighbours(all);
  if (guess === undefined) return undefined;
  const rows = Math.max(1, farthest(places.map(({ line }) => line)));
  const few = thinned(places);
  const some = few === places ? all : sumsByLine(few);
  // From 1 to below 2, so that shares of it reach as far on either side.
  const found = findBest(guess + 1, REACH, SLIP / rows, (shift) => agreeAt(some, shift));
  if (found.agreement < AGREED) return undefined;
  const offset = tidy(found.value, 100, TIDY_SLIP / rows);
  return { stitchLength, offset: offset - Math.floor(offset), along: middle + agreeAt(all, offset).phase * stitchLength };
}

/** The sums of unit vectors of the places on each line, from the first line on, by how far along a stitch they lie: all that a shift needs to know. */
interface LineSums {
  readonly first: number;
  readonly re: Float64Array;
  readonly im: Float64Array;
  readonly counts: Int32Array;
  readonly count: number;
}

function sumsByLine(places: readonly Inner[]): LineSums {
  let [first, last] = [Infinity, -Infinity];
  for (const { line } of places) [first, last] = [Math.min(first, line), Math.max(last, line)];
  const lines = Math.max(0, last - first + 1);
  const [re, im, counts] = [new Float64Array(lines), new Float64Array(lines), new Int32Array(lines)];
  for (const { u, line } of places) {
    re[line - first]! += Math.cos(2 * Math.PI * u);
    im[line - first]! += Math.sin(2 * Math.PI * u);
    counts[line - first]!++;
  }
  return { first, re, im, counts, count: places.length };
}

/** How well places agree (see rows/agree.ts) where each line is shifted by so much of a stitch against the one before. */
function agreeAt({ first, re, im, count }: LineSums, shift: number): Agreement {
  let [c, s] = [0, 0];
  // From line to line the turn grows by the same angle: turned on by a product, which takes no sine.
  const [stepCos, stepSin] = [Math.cos(2 * Math.PI * shift), Math.sin(2 * Math.PI * shift)];
  let [cos, sin] = [Math.cos(2 * Math.PI * first * shift), Math.sin(2 * Math.PI * first * shift)];
  for (let k = 0; k < re.length; k++) {
    c += re[k]! * cos + im[k]! * sin;
    s += im[k]! * cos - re[k]! * sin;
    const next = cos * stepCos - sin * stepSin;
    sin = sin * stepCos + cos * stepSin;
    cos = next;
  }
  return { agreement: Math.sqrt(c * c + s * s) / count, phase: Math.atan2(s, c) / (2 * Math.PI) };
}

/** The shift that penetrations have against those of the lines before, from 0 to below 1; none where they agree about none. */
function shiftOfNeighbours({ re, im, counts }: LineSums): number | undefined {
  // What pairs of lines that lie so far apart say together: the sum of unit vectors turned by how far they are shifted.
  const pairs = Array.from({ length: FARTHEST_PAIR }, () => ({ re: 0, im: 0 }));
  let count = 0;
  for (let k = 1; k < counts.length; k++)
    for (let n = 1; n <= FARTHEST_PAIR && n <= k; n++) {
      if (counts[k] === 0 || counts[k - n] === 0) continue;
      const length = Math.sqrt((re[k]! ** 2 + im[k]! ** 2) * (re[k - n]! ** 2 + im[k - n]! ** 2));
      count++;
      if (length === 0) continue;
      const sum = pairs[n - 1]!;
      sum.re += (re[k]! * re[k - n]! + im[k]! * im[k - n]!) / length;
      sum.im += (im[k]! * re[k - n]! - re[k]! * im[k - n]!) / length;
    }
  if (count < LEAST_PAIRS) return undefined;
  let best = { shift: 0, agreement: -1 };
  for (let k = 0; k < SHIFTS; k++) {
    let sum = 0;
    for (const [n, { re, im }] of pairs.entries()) {
      const turn = (k * (n + 1)) % SHIFTS;
      sum += re * TURNS[turn]!.cos + im * TURNS[turn]!.sin;
    }
    if (sum / count > best.agreement) best = { shift: k / SHIFTS, agreement: sum / count };
  }
  return best.agreement < AGREED ? undefined : best.shift;
}

/** The value within a share `reach` of a guess for which places agree best, of those that lie a share `grain` apart. */
export function findBest(
  guess: number,
  reach: number,
  grain: number,
  at: (value: number) => Agreement,
): { value: number; agreement: number } {
  const most = Math.min(MOST_VALUES, Math.ceil(reach / grain));
  let best = { value: guess, agreement: at(guess).agreement };
  for (let k = -most; k <= most; k++) {
    const value = guess * (1 + k * grain);
    const { agreement } = at(value);
    if (agreement > best.agreement) best = { value, agreement };
  }
  return best;
}

/** Evenly chosen ones of many, so that looking at a value takes no longer the larger a fill is. */
export function thinned<T>(values: readonly T[]): readonly T[] {
  const every = Math.ceil(values.length / MOST_PLACES);
  return every <= 1 ? values : values.filter((_, k) => k % every === 0);
}

export function farthest(values: readonly number[]): number {
  return values.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
}

/** The value rounded to a grain's part where that moves it by no more than `slip`. */
export function tidy(value: number, grain: number, slip: number): number {
  const rounded = Math.round(value * grain) / grain;
  return Math.abs(rounded - value) <= slip ? rounded : value;
}
