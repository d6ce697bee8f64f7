import { z } from 'zod';
import { expectObject, Id, Name, type OperationKind, withPlan } from './kind.ts';

const schema = z.object({ id: z.literal('rename-object'), object: Id, name: Name });

/** Calls an object something else. */
export const renameObject: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, name }) {
    const expected = expectObject(design, id, undefined);
    if (!expected.ok) return expected;
    const { plan } = design;
    return withPlan(design, { ...plan, objects: { ...plan.objects, [id]: { ...expected.value, name } } });
  },
};
