import { z } from 'zod';
import { fail } from '../../model/result.ts';
import { expectObject, Id, type OperationKind, Print, withPlan } from './kind.ts';

const schema = z.object({ id: z.literal('reset-object'), object: Id, was: Print });

/** Gives an object the stitches back that the file had. */
export const resetObject: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, was }) {
    const expected = expectObject(design, id, was);
    if (!expected.ok) return expected;
    const { own, name, isDrawn } = expected.value;
    if (isDrawn) return fail(`${name} was drawn here: no file had it`);
    if (own === null) return fail(`${name} has its own stitches already`);
    const { plan } = design;
    return withPlan(design, { ...plan, objects: { ...plan.objects, [id]: { ...expected.value, sewn: own, own: null } } });
  },
};
