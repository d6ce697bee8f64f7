import type { ShopRules, Target } from '../model/target.ts';

/** A shop may set a limit to a part of what is usual, or to a multiple of it; further off it is a slip of the hand. */
const FURTHEST = 4;
/** What no limit in a unit goes beyond, whatever is usual. */
const BOUNDS: Readonly<Record<string, readonly [low: number, high: number]>> = { times: [1, 1000], '%': [1, 100], degrees: [1, 90] };

/** From where to where a limit makes sense, by what is usual and in what unit (see `Rule.unit`). */
export function rangeOfLimit(usual: number, unit: string): { readonly low: number; readonly high: number } {
  const [low, high] = BOUNDS[unit] ?? [0, Infinity];
  return { low: Math.max(low, usual / FURTHEST), high: Math.min(high, usual * FURTHEST) };
}

/** A limit as the shop set it; as usual where it did not, or where what it set makes no sense. */
export function shopLimit(rules: ShopRules | undefined, id: string, usual: number, unit: string): number {
  const set = rules?.limits[id];
  if (set === undefined) return usual;
  const { low, high } = rangeOfLimit(usual, unit);
  return set >= low && set <= high ? set : usual;
}

/** A satin up to so many mm wide needs no split. Common practice. */
export const SPLIT_FROM = 7;
/** A satin whose mean is wider than this (mm) is better a fill. Common practice, and from memory. */
export const FILL_FROM = 9;
/** So many times as wide as the cloth wants it a pitch still covers. Common practice. */
export const STILL_COVERS = 1.15;

// The three that specs go by as well as findings, so that what a finding advises cures it.
export const splitFrom = ({ rules }: Pick<Target, 'rules'>): number => shopLimit(rules, 'wide-satin', SPLIT_FROM, 'mm');
export const fillFrom = ({ rules }: Pick<Target, 'rules'>): number => shopLimit(rules, 'satin-should-be-fill', FILL_FROM, 'mm');
export const stillCovers = ({ rules }: Pick<Target, 'rules'>): number => shopLimit(rules, 'too-open', STILL_COVERS, 'times');
