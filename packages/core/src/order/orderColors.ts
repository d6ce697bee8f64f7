import type { Block, ObjectId, Plan } from '../model/plan.ts';
import { hasStop } from '../plan/stops.ts';
import { findColorOrder } from './colorOrder.ts';
import type { SeenLayers } from './seenLayers.ts';

/** Blocks in an order with the fewest color changes; the plan's own where it has no more than that. */
export function orderColors(
  plan: Plan,
  { ids, layers }: SeenLayers,
  { isHeld }: { readonly isHeld: (id: ObjectId) => boolean },
): { blocks: readonly Block[]; isFewest: boolean } {
  const names: string[] = [];
  const colors = plan.blocks.flatMap(({ id, thread, keep, objects }) => {
    const name = keep === true ? `block ${id}` : JSON.stringify([thread?.color, thread?.name]);
    if (!names.includes(name)) names.push(name);
    return objects.map(() => names.indexOf(name));
  });
  const before = ids.map((): number[] => []);
  for (const { over, under } of layers) before[over]!.push(under);
  let stage = 0;
  let wasHeld = false;
  const stages = ids.map((id, k) => {
    if (k > 0 && (isHeld(id) || wasHeld || hasStop(plan, id))) stage++;
    wasHeld = isHeld(id);
    return stage;
  });
  const found = findColorOrder({ colors, before, stages });
  if (found === undefined || found.blocks.length >= plan.blocks.length) return { blocks: plan.blocks, isFewest: found?.isFewest === true };
  const threadOf = new Map(plan.blocks.flatMap((block) => block.objects.map((id) => [id, block])));
  const used = new Set<string>();
  const blocks = found.blocks.map(({ objects }): Block => {
    const own = objects.map((k) => ids[k]!);
    const from = threadOf.get(own[0]!)!;
    const id = own.map((o) => threadOf.get(o)!.id).find((name) => !used.has(name)) ?? `${own[0]!}.block`;
    used.add(id);
    return { id, thread: from.thread, ...(from.keep === undefined ? {} : { keep: from.keep }), objects: own };
  });
  return { blocks, isFewest: found.isFewest };
}
