import { z } from 'zod';
import { CLOTH_LOOKS } from '../../model/target.ts';
import { fail } from '../../model/result.ts';
import { expectObject, Id, type OperationKind, withPlan } from './kind.ts';

const schema = z.object({
  id: z.literal('lay-cloth'),
  object: Id,
  /** null: nobody says what is laid there. */
  piece: z.object({ color: z.string().regex(/^#[0-9a-f]{6}$/), look: z.enum(CLOTH_LOOKS) }).nullable(),
});

/** Says which cloth is laid on a placement line; no stitch moves. */
export const layCloth: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, piece }) {
    const expected = expectObject(design, id, undefined);
    if (!expected.ok) return expected;
    const { piece: _, ...object } = expected.value;
    if (object.sewn.reading.role !== 'placement') return fail(`${object.name} is no placement line: cloth is laid on those`);
    const { plan } = design;
    return withPlan(design, { ...plan, objects: { ...plan.objects, [id]: { ...object, ...(piece === null ? {} : { piece }) } } });
  },
};
