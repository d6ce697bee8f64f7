/** A way through all of some stops, each once; it ends wherever it is cheapest. */
export interface TourInstance {
  readonly count: number;
  /** What it costs to go from one stop to another. */
  readonly cost: (from: number, to: number) => number;
  /** What it costs to begin at a stop; nothing where it is left out. */
  readonly begin?: (at: number) => number;
  /** For each stop those that have to come before it. */
  readonly before?: readonly (readonly number[])[];
}

/** What a tour costs. */
export function costOfTour({ cost, begin }: TourInstance, order: readonly number[]): number {
  let sum = order.length > 0 ? (begin?.(order[0]!) ?? 0) : 0;
  for (let k = 1; k < order.length; k++) sum += cost(order[k - 1]!, order[k]!);
  return sum;
}
