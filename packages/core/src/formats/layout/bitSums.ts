/** Bits of a table with their weights. */
export type WeightedBits = readonly { readonly byte: number; readonly bit: number; readonly weight: number }[];

/**
 * Which bits make each value that a table can make, the fewest of them: masks over the table's places, by value. O(values · bits).
 */
export function sumsOf(bits: WeightedBits): ReadonlyMap<number, number> {
  const best = new Map<number, { mask: number; count: number }>([[0, { mask: 0, count: 0 }]]);
  bits.forEach(({ weight }, place) => {
    for (const [value, { mask, count }] of [...best]) {
      const known = best.get(value + weight);
      if (known === undefined || known.count > count + 1) best.set(value + weight, { mask: mask | (1 << place), count: count + 1 });
    }
  });
  return new Map([...best].map(([value, { mask }]) => [value, mask]));
}

/** The values that a table reaches without a gap around nothing: from the least to the largest; where there is a gap, the first value that is not reached. */
export function reachOf(bits: WeightedBits): { readonly least: number; readonly most: number; readonly gap: number | undefined } {
  const sums = sumsOf(bits);
  const [least, most] = [Math.min(...sums.keys()), Math.max(...sums.keys())];
  for (let away = 1; away <= Math.max(most, -least); away++) {
    if (away <= most && !sums.has(away)) return { least, most, gap: away };
    if (-away >= least && !sums.has(-away)) return { least, most, gap: -away };
  }
  return { least, most, gap: undefined };
}
