/** A fill as it was sewn in one order of its sections. */
export interface Sewn {
  readonly paths: Float64Array[];
  /** Penetrations in all of them. */
  readonly count: number;
  /** How far the way out goes across rows on top of them, mm: along them, or along the edge, it hardly shows. */
  readonly shown: number;
}

/** Ways on top of rows that differ by less than this (mm) are as good as one another. */
const SHOWN_ALIKE = 0.5;

/** Which of two ways to sew a fill has fewer paths, or as many and less that crosses rows on top of them, or as much and fewer penetrations; else the first. */
export function shorter(a: Sewn, b: Sewn): Sewn {
  if (a.paths.length !== b.paths.length) return b.paths.length < a.paths.length ? b : a;
  if (Math.abs(a.shown - b.shown) > SHOWN_ALIKE) return b.shown < a.shown ? b : a;
  return b.count < a.count ? b : a;
}
