import { isSourceRows, type ObjectId, orderOf, type Plan, type PlanObject } from '../model/plan.ts';

export const OBJECT_CHANGES = ['drawn', 'new', 'gone', 'sewn-anew', 'touched', 'placed', 'thread', 'way', 'renamed', 'moved'] as const;
/**
 * What became of an object: it was drawn here, only the later state or only the earlier one has it, it was sewn anew from its spec, single stitches of it were
 * changed, it lies elsewhere or begins elsewhere with the stitches that it had, it is sewn with another thread, reached by another way, has another name, or is sewn at another
 * place in the order.
 */
export type ObjectChangeKind = (typeof OBJECT_CHANGES)[number];

export interface ObjectChange {
  readonly object: ObjectId;
  readonly name: string;
  readonly kinds: readonly ObjectChangeKind[];
  /** Places in the order, counted from 0, of one that is sewn elsewhere in it; −1 where there is none. */
  readonly from: number;
  readonly to: number;
}

/** What differs from the file as it came, object by object in sewing order; those that are as they were are left out. O(n log n). */
export function changesSinceFile(plan: Plan): ObjectChange[] {
  const order = orderOf(plan);
  const first = order.map((id) => rowInFile(plan.objects[id]!));
  // Places in the file's order, of those that it had.
  const places = new Map(
    order
      .map((id, k) => [id, first[k]!] as const)
      .filter(([, row]) => row >= 0)
      .sort((a, b) => a[1] - b[1])
      .map(([id], k) => [id, k]),
  );
  const known = order.filter((id) => places.has(id));
  const stays = new Set(longestRising(known.map((id) => places.get(id)!)).map((k) => known[k]!));
  return order.flatMap((id, to): ObjectChange[] => {
    const object = plan.objects[id]!;
    const kinds = kindsOf(object);
    if (places.has(id) && !stays.has(id)) kinds.push('moved');
    return kinds.length === 0 ? [] : [{ object: id, name: object.name, kinds, from: places.get(id) ?? -1, to }];
  });
}

function kindsOf({ isDrawn, own, sewn }: PlanObject): ObjectChangeKind[] {
  const kinds: ObjectChangeKind[] = [];
  if (isDrawn === true) kinds.push('drawn');
  else if (own !== null && sewn.made !== null && own.made === null) kinds.push('sewn-anew');
  if (sewn.edited > 0) kinds.push('touched');
  if (isDrawn !== true && own !== null && sewn.made === null && sewn.edited === 0) kinds.push('placed');
  return kinds;
}

/** The row of the file that an object begins with; −1 where no file had it. */
function rowInFile({ own, sewn }: PlanObject): number {
  const { rows } = own ?? sewn;
  return isSourceRows(rows) ? rows.first : -1;
}

/**
 * Indices of a longest strictly rising run of values, not necessarily beside each other: what can stay while the fewest others move (C. Schensted, 1961,
 * by patience sorting). O(n log n).
 */
export function longestRising(values: readonly number[]): number[] {
  /** The index with the least last value of a rising run of each length, and which one came before it. */
  const ends: number[] = [];
  const before = new Int32Array(values.length);
  values.forEach((value, k) => {
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (values[ends[middle]!]! < value) low = middle + 1;
      else high = middle;
    }
    before[k] = low > 0 ? ends[low - 1]! : -1;
    ends[low] = k;
  });
  const out: number[] = [];
  for (let k = ends.at(-1) ?? -1; k >= 0; k = before[k]!) out.push(k);
  return out.reverse();
}
