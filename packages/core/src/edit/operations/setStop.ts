import { z } from 'zod';
import { expectObject, Id, type OperationKind, withPlan } from './kind.ts';

const schema = z.object({
  id: z.literal('set-stop'),
  object: Id,
  /** What the operator is told; null: the machine does not stop. */
  note: z.string().trim().max(200).nullable(),
});

/** Stops the machine before an object, with words for the operator, or lets it go on. */
export const setStop: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, note }) {
    const expected = expectObject(design, id, undefined);
    if (!expected.ok) return expected;
    const { plan } = design;
    return withPlan(design, { ...plan, links: { ...plan.links, [id]: { ...plan.links[id]!, stop: note } } });
  },
};
