import { z } from 'zod';
import { succeed } from '../../model/result.ts';
import { designOf } from '../../plan/designOf.ts';
import type { OperationKind } from './kind.ts';

/** As many places as the largest file may have faults of one kind. */
export const MOST_PLACES = 200_000;

const schema = z.object({
  id: z.literal('keep-finding'),
  /** Keys of the places that stay as they are; others of the same rule are not meant. */
  places: z.array(z.string().min(1).max(200)).min(1).max(MOST_PLACES),
  rule: z.string().min(1).max(60),
  title: z.string().max(400),
  reason: z.string().trim().min(1).max(1000),
});

/** Leaves places of a finding as they are, for a reason. */
export const keepFinding: OperationKind<typeof schema> = {
  schema,
  apply: ({ plan, target, kept }, { places, rule, title, reason }) =>
    succeed(designOf(plan, target, { ...kept, ...Object.fromEntries(places.map((key) => [key, { rule, title, reason }])) })),
};
