import { thinPath } from '../../geometry/smoothPath.ts';
import type { Column } from '../../generate/column/columns.ts';
import { generateSatin, type SatinSpec } from '../../generate/column/satin.ts';
import { splitStitch } from '../../generate/column/splitStitch.ts';
import { USUAL_SPEC } from '../../model/objectSpec.ts';
import type { Program } from '../../model/program.ts';
import type { StitchObject } from '../../model/stitchObject.ts';

/** How far from a recognized edge its simpler one may lie, mm: ends of throws make it ragged by about that. */
const RAGGED_RAIL = 0.1;

/** The edges of a column as it is sewn anew. */
export function railsOf(rails: Column): Column {
  const { left, right } = withoutWays(rails);
  return { left: thinPath(left, RAGGED_RAIL), right: thinPath(right, RAGGED_RAIL) };
}

/** A column without the throws at its ends that only led there: they are much wider or narrower than the next ones, which are alike. */
function withoutWays({ left, right }: Column): Column {
  const count = Math.min(left.length, right.length) / 2;
  const widths = (isEnd: boolean): number[] =>
    Array.from({ length: Math.min(5, count) }, (_, n) => {
      const [l, r] = isEnd ? [left.length - 2 - n * 2, right.length - 2 - n * 2] : [n * 2, n * 2];
      return Math.hypot(left[l]! - right[r]!, left[l + 1]! - right[r + 1]!);
    });
  const odd = (w: readonly number[]): number => {
    if (count < 8) return 0;
    const isOdd = (a: number, b: number, c: number): boolean => a > FLARE * c || (a < b / FLARE && Math.abs(b - c) < ALIKE * c);
    if (isOdd(w[0]!, w[1]!, w[2]!)) return isOdd(w[1]!, w[2]!, w[3]!) ? 2 : 1;
    return 0;
  };
  const [from, to] = [odd(widths(false)), odd(widths(true))];
  return { left: left.slice(from * 2, left.length - to * 2), right: right.slice(from * 2, right.length - to * 2) };
}

const ALIKE = 0.12;
const FLARE = 1.6;
/** A throw of a satin from edge to edge, and in how many stitches it is sewn. */
export interface Throw {
  readonly line: readonly [number, number, number, number];
  readonly length: number;
  readonly parts: number;
}

/** Stitches that turn by no more than this (its cosine) are parts of one throw. */
const ONWARD = 0.95;

export function throwsOf({ x, y }: Program, { spans }: StitchObject): Throw[] {
  const throws: Throw[] = [];
  for (const { first, last } of spans) {
    for (let i = Math.max(1, first); i <= last; i++) {
      const from = i - 1;
      while (i < last && isOnward(x, y, i)) i++;
      const line = [x[from]!, y[from]!, x[i]!, y[i]!] as const;
      throws.push({ line, length: Math.hypot(line[2] - line[0], line[3] - line[1]), parts: i - from });
    }
  }
  return throws;
}

/** A throw of so much of a satin's width goes from edge to edge; a column with too many others tells nothing of how they lean. */
const THROW_SHARE = 0.6;
const MOST_THROWS = 400;

export function straightsOf(throws: readonly Throw[], { width }: StitchObject): (readonly [number, number, number, number])[] {
  const whole = throws.filter(({ length }) => length >= THROW_SHARE * (width?.min ?? 0));
  if (whole.length < 0.8 * throws.length) return [];
  const step = Math.max(1, Math.floor(whole.length / MOST_THROWS));
  return whole.filter((_, k) => k % step === 0).map(({ line }) => line);
}

/** Split lengths that are looked at, mm. */
const SPLITS = Array.from({ length: 231 }, (_, k) => (k + 20) / 20);

/** The split length that explains best into how many parts throws are split, in the middle of those that do; mm. */
export function readSplitLength(throws: readonly Throw[]): number {
  const usual = USUAL_SPEC.splitLength;
  const isUsual = throws.every(({ length, parts }) => (parts === 1 ? length <= usual + ROUNDED : false));
  if (isUsual) return usual;
  const step = Math.max(1, Math.floor(throws.length / MOST_THROWS));
  const some = throws.filter((_, k) => k % step === 0);
  const offs = SPLITS.map((split) =>
    some.reduce((off, { length, parts }) => off + Math.abs(splitStitch(length, split, 0).length + 1 - parts), 0),
  );
  const first = offs.indexOf(Math.min(...offs));
  let last = first;
  while (offs[last + 1] === offs[first]) last++;
  // Where nothing was split the longest throw is all that is known.
  return SPLITS[last === SPLITS.length - 1 ? Math.min(last, first + 2) : (first + last) >> 1]!;
}

/** By how much throws that are sewn anew may differ from those that a split length was read from, as a share. */
const SPLIT_REACH = 0.12;
/** No throw is as long, mm. */
const WHOLE = 1000;

/**
 * The split length, near the one that was read, by which throws sewn anew are split as often as they were: these lean a little less or more, so that
 * a column about as wide as the split length would otherwise be split anywhere or nowhere.
 */
export function fitSplitLength(read: number, throws: readonly Throw[], rails: Column, spec: SatinSpec): number {
  const asked = throws.reduce((sum, { parts }) => sum + parts - 1, 0) / throws.length;
  const path = generateSatin(rails.left, rails.right, { ...spec, splitLength: WHOLE });
  const lengths: number[] = [];
  for (let k = 2; k < path.length; k += 2) lengths.push(Math.hypot(path[k]! - path[k - 2]!, path[k + 1]! - path[k - 1]!));
  const splits = (split: number): number => lengths.reduce((sum, length) => sum + splitStitch(length, split, 0).length, 0) / lengths.length;
  let [best, least] = [read, Math.abs(splits(read) - asked)];
  for (const split of [...SPLITS].sort((a, b) => Math.abs(a - read) - Math.abs(b - read))) {
    if (Math.abs(split / read - 1) > SPLIT_REACH) break;
    const off = Math.abs(splits(split) - asked);
    if (off < least - 1e-9) [best, least] = [split, off];
  }
  return best;
}

/** Penetrations are rounded to about this, mm. */
const ROUNDED = 0.1;

/** Whether the stitch after row `i` goes on the way that the one before it came. */
function isOnward(x: Float64Array, y: Float64Array, i: number): boolean {
  const [ax, ay, bx, by] = [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!, x[i + 1]! - x[i]!, y[i + 1]! - y[i]!];
  return ax * bx + ay * by > ONWARD * Math.hypot(ax, ay) * Math.hypot(bx, by);
}
