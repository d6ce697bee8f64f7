import type { TourInstance } from './tourInstance.ts';

/** Orders of so few stops are all weighed. */
export const MOST_EXACT = 12;

/** The cheapest order by dynamic programming over sets of stops (M. Held, R. Karp 1962); none where precedence goes round in a circle. */
export function cheapestOfAll({ count, cost, begin, before }: TourInstance): number[] | undefined {
  const sets = 2 ** count;
  const least = new Float64Array(sets * count).fill(Infinity);
  const from = new Int8Array(sets * count).fill(-1);
  const needs = Array.from({ length: count }, (_, k) => (before?.[k] ?? []).reduce((set, b) => set | (1 << b), 0));
  for (let k = 0; k < count; k++) if (needs[k] === 0) least[(1 << k) * count + k] = begin?.(k) ?? 0;
  for (let set = 1; set < sets; set++)
    for (let last = 0; last < count; last++) {
      const sum = least[set * count + last]!;
      if (sum === Infinity) continue;
      for (let next = 0; next < count; next++) {
        if ((set >> next) & 1 || (needs[next]! & set) !== needs[next]) continue;
        const at = (set | (1 << next)) * count + next;
        const total = sum + cost(last, next);
        if (total < least[at]!) {
          least[at] = total;
          from[at] = last;
        }
      }
    }
  let [set, last, best] = [sets - 1, -1, Infinity];
  for (let k = 0; k < count; k++) if (least[set * count + k]! < best) [best, last] = [least[set * count + k]!, k];
  if (last < 0) return undefined;
  const order: number[] = [];
  while (last >= 0) {
    order.unshift(last);
    const earlier = from[set * count + last]!;
    set &= ~(1 << last);
    last = earlier;
  }
  return order;
}
