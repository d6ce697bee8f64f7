/** A fill as it was sewn in one order of its sections. */
export interface Sewn {
  readonly paths: Float64Array[];
  /** Penetrations in all of them. */
  readonly count: number;
  /** How far the way out, and ways between open rows, go across rows, mm: along them, or along the edge, they hardly show. */
  readonly shown: number;
}

/** So many penetrations more are worth sewing for each mm that less shows. */
const FOR_SHOWN = 6;

/** Which of two ways to sew a fill has fewer paths, or as many and fewer penetrations, what shows counted as more of them; else the first. */
export function shorter(a: Sewn, b: Sewn): Sewn {
  if (a.paths.length !== b.paths.length) return b.paths.length < a.paths.length ? b : a;
  return b.count + FOR_SHOWN * b.shown < a.count + FOR_SHOWN * a.shown ? b : a;
}
