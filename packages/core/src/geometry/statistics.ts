/** The middle value; NaN of nothing. Does not change its argument. */
export function median(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}
