import { z } from 'zod';
import { type Block, type ObjectId, orderOf } from '../../model/plan.ts';
import { fail } from '../../model/result.ts';
import { Id, type OperationKind, Print, withPlan } from './kind.ts';
import { isPrintOfOrder } from './printOf.ts';

const Thread = z.object({ color: z.string().regex(/^#[0-9a-f]{6}$/), name: z.string().max(200) });

const schema = z.object({
  id: z.literal('set-order'),
  /** The order that it was thought of on ({@link printOrder}). */
  was: Print,
  blocks: z
    .array(z.object({ id: Id, thread: Thread.nullable(), keep: z.literal(true).optional(), objects: z.array(Id).min(1) }))
    .min(1)
    .max(20_000),
});

/** Sews all objects in another order, in other blocks or with other threads. */
export const setOrder: OperationKind<typeof schema> = {
  schema,
  apply(design, { was, blocks }) {
    const { plan } = design;
    if (!isPrintOfOrder(plan, was)) return fail('the order was changed since this step was thought of');
    const named = blocks.flatMap((block) => block.objects);
    const known = new Set(orderOf(plan));
    const strange = named.find((id) => !known.has(id));
    if (strange !== undefined) return fail(`there is no object ${strange} any more`);
    if (new Set(named).size !== named.length) return fail('an object is named twice');
    if (named.length !== known.size) return fail('an object would be left out of the order');
    if (new Set(blocks.map((block) => block.id)).size !== blocks.length) return fail('two blocks have one name');
    const next = blocks.map(({ keep, ...block }): Block => ({ ...block, ...(keep === undefined ? {} : { keep }) }));
    // A way on which the thread is changed otherwise than before is none that was found.
    const [putOn, puts] = [threadsPutOn(plan.blocks), threadsPutOn(next)];
    const anew = named.filter((id) => putOn.get(id) !== puts.get(id));
    const links = { ...plan.links };
    for (const id of anew) links[id] = { ...links[id]!, isAnew: true };
    return withPlan(design, { ...plan, blocks: next, links });
  },
};

/** Before which objects another thread is put on, and which. */
function threadsPutOn(blocks: readonly Block[]): ReadonlyMap<ObjectId, string> {
  return new Map(blocks.map(({ thread, objects }) => [objects[0]!, JSON.stringify([thread?.color, thread?.name])]));
}
