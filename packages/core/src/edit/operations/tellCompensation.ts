import { z } from 'zod';
import { expectObject, Id, type OperationKind, withPlan } from './kind.ts';

const schema = z.object({
  id: z.literal('tell-compensation'),
  object: Id,
  /** How much the outline that the object came with holds, mm on each side; none: it is not known after all. */
  pull: z.number().min(-2).max(2).nullable(),
});

/** Says how much compensation an object came with. No stitch changes. */
export const tellCompensation: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, pull }) {
    const expected = expectObject(design, id, undefined);
    if (!expected.ok) return expected;
    const { plan } = design;
    const { heldPull: _, ...object } = expected.value;
    const told = pull === null ? object : { ...object, heldPull: pull };
    return withPlan(design, { ...plan, objects: { ...plan.objects, [id]: told } });
  },
};
