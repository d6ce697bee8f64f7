/** What explains a stroke: rows to and fro (satin, zigzag, fill), a run, or nothing that is known. */
export const LABELS = ['rows', 'run', 'other'] as const;
export type Label = (typeof LABELS)[number];

/** Costs of explaining strokes, by label as in {@link LABELS}; all non-negative, in no unit but each other. */
export interface Evidence {
  readonly count: number;
  /** `own[k * 3 + label]`: what it costs to take stroke k for `label`. */
  readonly own: Float64Array;
  /** `onward[k * 3 + label]`: what it costs besides to take it for the continuation of stroke k − 1 in one object of `label`. */
  readonly onward: Float64Array;
  /** What it costs to begin an object. */
  readonly begin: number;
}

/** Strokes `first` ≤ k ≤ `last` that one explanation holds for. */
export interface Segment {
  readonly label: Label;
  readonly first: number;
  readonly last: number;
  /** Its part of the whole cost, without what it costs to begin. */
  readonly cost: number;
}

/**
 * The cheapest way to cut strokes into segments of one label each.
 *
 * State after stroke k: the label of its segment. Either that segment goes on from stroke k − 1, or it begins at k after the best of all
 * ends of k − 1; so `best[k][l] = own + min(best[k − 1][l] + onward, min over all of best[k − 1] + begin)`, and following the choices back
 * gives the cut. O(strokes × labels).
 */
export function findSegments({ count, own, onward, begin }: Evidence): Segment[] {
  const n = LABELS.length;
  if (count === 0) return [];
  const best = new Float64Array(count * n);
  /** The label that stroke k − 1 ended in where a segment begins at k with this label; −1 where the segment goes on. */
  const from = new Int8Array(count * n);
  for (let l = 0; l < n; l++) {
    best[l] = own[l]! + begin;
    from[l] = 0;
  }
  for (let k = 1; k < count; k++) {
    let cheapest = 0;
    for (let l = 1; l < n; l++) if (best[(k - 1) * n + l]! < best[(k - 1) * n + cheapest]!) cheapest = l;
    const anew = best[(k - 1) * n + cheapest]! + begin;
    for (let l = 0; l < n; l++) {
      const on = best[(k - 1) * n + l]! + onward[k * n + l]!;
      best[k * n + l] = own[k * n + l]! + Math.min(on, anew);
      from[k * n + l] = on <= anew ? -1 : cheapest;
    }
  }
  const segments: Segment[] = [];
  let label = 0;
  for (let l = 1; l < n; l++) if (best[(count - 1) * n + l]! < best[(count - 1) * n + label]!) label = l;
  let last = count - 1;
  let cost = 0;
  for (let k = count - 1; k >= 0; k--) {
    const isBegin = k === 0 || from[k * n + label]! >= 0;
    cost += own[k * n + label]! + (isBegin ? 0 : onward[k * n + label]!);
    if (!isBegin) continue;
    segments.push({ label: LABELS[label]!, first: k, last, cost });
    if (k > 0) label = from[k * n + label]!;
    last = k - 1;
    cost = 0;
  }
  return segments.reverse();
}
