import { z } from 'zod';
import { fail, succeed } from '../../model/result.ts';
import { designOf } from '../../plan/designOf.ts';
import { MOST_PLACES } from './keepFinding.ts';
import type { OperationKind } from './kind.ts';

const schema = z.object({ id: z.literal('reopen-finding'), places: z.array(z.string().min(1).max(200)).min(1).max(MOST_PLACES) });

/** Takes a decision to leave places as they are back. */
export const reopenFinding: OperationKind<typeof schema> = {
  schema,
  apply(design, { places }) {
    const missing = places.find((key) => !(key in design.kept));
    if (missing !== undefined) return fail(`nothing was kept at ${missing}`);
    const gone = new Set(places);
    return succeed(designOf(design.plan, design.target, Object.fromEntries(Object.entries(design.kept).filter(([key]) => !gone.has(key)))));
  },
};
