import { z } from 'zod';
import { orderOf } from '../../model/plan.ts';
import { fail } from '../../model/result.ts';
import { expectObject, Id, type OperationKind, Print, withPlan } from './kind.ts';

const schema = z.object({
  id: z.literal('remove-objects'),
  objects: z
    .array(z.object({ object: Id, was: Print }))
    .min(1)
    .max(20_000),
});

/** Takes objects out of a design, each with its underlay and travel; the ways between what is left are made anew. */
export const removeObjects: OperationKind<typeof schema> = {
  schema,
  apply(design, operation) {
    for (const { object, was } of operation.objects) {
      const expected = expectObject(design, object, was);
      if (!expected.ok) return expected;
    }
    const gone = new Set(operation.objects.map(({ object }) => object));
    const { plan } = design;
    const order = orderOf(plan);
    if (order.every((id) => gone.has(id))) return fail('nothing would be left of the design');
    const keep = <T>(all: Readonly<Record<string, T>>): Record<string, T> =>
      Object.fromEntries(Object.entries(all).filter(([id]) => !gone.has(id)));
    const blocks = plan.blocks.flatMap((block) => {
      const objects = block.objects.filter((id) => !gone.has(id));
      return objects.length === 0 ? [] : [{ ...block, objects }];
    });
    return withPlan(design, { ...plan, objects: keep(plan.objects), links: keep(plan.links), blocks });
  },
};
