import { z } from 'zod';
import { LINK_WAYS } from '../../model/plan.ts';
import { expectObject, Id, type OperationKind, withPlan } from './kind.ts';

const schema = z.object({ id: z.literal('set-link'), object: Id, way: z.enum(LINK_WAYS) });

/** How the needle gets to an object from the one before. */
export const setLink: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, way }) {
    const expected = expectObject(design, id, undefined);
    if (!expected.ok) return expected;
    const { plan } = design;
    return withPlan(design, { ...plan, links: { ...plan.links, [id]: { ...plan.links[id]!, way } } });
  },
  touched: ({ object }) => [object],
};
