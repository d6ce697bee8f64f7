/** A fill as it was sewn in one order of its sections. */
export interface Sewn {
  readonly paths: Float64Array[];
  /** Penetrations in all of them. */
  readonly count: number;
  /** How often there was more than one section to go on to. */
  readonly choices: number;
  /** How far the way out goes across rows on top of them, mm: along them, or along the edge, it hardly shows. */
  readonly shown: number;
  readonly order: Order;
}

/** How the order of sections departs from the usual one: at which choices of a next section, counted from 0, the nearest one is passed over. */
export interface Order {
  readonly passOver: readonly number[];
  /** Whether no section is kept for the way out. */
  readonly isFree: boolean;
}

/** So many penetrations are tried in other orders of the sections of an open fill, and so many choices in each round. */
const MOST_TRIED = 60_000;
const MOST_CHOICES = 12;

/** Ways that show are worth looking for shorter ones: one more section is passed over where that helps most, as long as any does. */
export function findShorter(first: Sewn, sew: (order: Order) => Sewn, hasWayOut: boolean): Sewn {
  let best = first;
  let left = Math.floor(MOST_TRIED / Math.max(1, first.count));
  for (let isBetter = true; isBetter;) {
    const { order } = best;
    isBetter = false;
    for (let n = 0; n < Math.min(MOST_CHOICES, first.choices) && left > 0; n++) {
      if (order.passOver.includes(n)) continue;
      for (const isFree of hasWayOut ? [order.isFree, !order.isFree] : [order.isFree]) {
        const other = sew({ passOver: [...order.passOver, n], isFree });
        left--;
        isBetter ||= shorter(best, other) === other;
        best = shorter(best, other);
      }
    }
  }
  return best;
}

/** Ways on top of rows that differ by less than this (mm) are as good as one another. */
const SHOWN_ALIKE = 0.5;

/** Which of two ways to sew a fill has fewer paths, or as many and less that crosses rows on top of them, or as much and fewer penetrations; else the first. */
export function shorter(a: Sewn, b: Sewn): Sewn {
  if (a.paths.length !== b.paths.length) return b.paths.length < a.paths.length ? b : a;
  if (Math.abs(a.shown - b.shown) > SHOWN_ALIKE) return b.shown < a.shown ? b : a;
  return b.count < a.count ? b : a;
}
