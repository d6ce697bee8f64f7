import { z } from 'zod';
import { orderOf } from '../../model/plan.ts';
import { fail } from '../../model/result.ts';
import { Id, type OperationKind, withPlan } from './kind.ts';

const schema = z.object({
  id: z.literal('move-objects'),
  objects: z.array(Id).min(1).max(4000),
  /** The block that they come to, and before which of its objects; none: after all of them. */
  block: Id,
  before: Id.nullable(),
});

/** Sews objects at another place in the order, in the order in which they are named. */
export const moveObjects: OperationKind<typeof schema> = {
  schema,
  apply(design, { objects, block: to, before }) {
    const { plan } = design;
    const moved = new Set(objects);
    const known = new Set(orderOf(plan));
    const missing = objects.find((id) => !known.has(id));
    if (missing !== undefined) return fail(`there is no object ${missing} any more`);
    if (moved.size < objects.length) return fail('an object is named twice');
    if (!plan.blocks.some((block) => block.id === to)) return fail(`there is no block ${to} any more`);
    const blocks = plan.blocks.map((block) => ({ ...block, objects: block.objects.filter((id) => !moved.has(id)) }));
    const block = blocks.find(({ id }) => id === to)!;
    const at = before === null ? block.objects.length : block.objects.indexOf(before);
    if (at < 0) return fail(`${before} is not in block ${to}`);
    block.objects.splice(at, 0, ...objects);
    return withPlan(design, { ...plan, blocks });
  },
};
