import { z } from 'zod';
import { turnRows } from '../../plan/turnRows.ts';
import { expectObject, Id, type OperationKind, Print, withPlan } from './kind.ts';

const schema = z.object({
  id: z.literal('turn-object'),
  object: Id,
  was: Print,
  /** The penetration that it begins with, 0 being where it starts now. */
  from: z.number().int().nonnegative().max(2_000_000),
  isReversed: z.boolean(),
});

/** Sews an object's own stitches from another of their penetrations on, or the other way round. None of them moves. */
export const turnObject: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, was, from, isReversed }) {
    const expected = expectObject(design, id, was);
    if (!expected.ok) return expected;
    const object = expected.value;
    const sewn = turnRows(design.plan, object.sewn, from, isReversed);
    if (!sewn.ok) return { ok: false, error: `${object.name} cannot be turned: ${sewn.error}` };
    const { plan } = design;
    return withPlan(design, {
      ...plan,
      objects: { ...plan.objects, [id]: { ...object, sewn: sewn.value, own: object.own ?? object.sewn } },
    });
  },
};
