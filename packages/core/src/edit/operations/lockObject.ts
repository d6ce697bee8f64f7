import { z } from 'zod';
import { expectObject, Id, type OperationKind, withPlan } from './kind.ts';

const schema = z.object({ id: z.literal('lock-object'), object: Id, isLocked: z.boolean() });

/** Keeps an object at its place in the order when an order is proposed, or lets it go. */
export const lockObject: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, isLocked }) {
    const expected = expectObject(design, id, undefined);
    if (!expected.ok) return expected;
    const { plan } = design;
    const { isLocked: _, ...object } = expected.value;
    return withPlan(design, { ...plan, objects: { ...plan.objects, [id]: { ...object, ...(isLocked ? { isLocked } : {}) } } });
  },
};
