import { z } from 'zod';
import { expectObject, Id, type OperationKind, Print, withPlan } from './kind.ts';
import { MADE_FIELDS, sewnOf } from './madeRows.ts';

const schema = z.object({ id: z.literal('set-spec'), object: Id, was: Print, ...MADE_FIELDS });

/** Sews an object from a spec. What the file had is kept beside it. */
export const setSpec: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, was, ...made }) {
    const expected = expectObject(design, id, was);
    if (!expected.ok) return expected;
    const object = expected.value;
    const sewn = sewnOf({ ...object.sewn.reading, id, name: object.name }, made);
    if (!sewn.ok) return sewn;
    const objects = {
      ...design.plan.objects,
      [id]: { ...object, sewn: sewn.value, own: object.isDrawn ? null : (object.own ?? object.sewn) },
    };
    return withPlan(design, { ...design.plan, objects });
  },
};
