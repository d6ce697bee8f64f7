import { z } from 'zod';
import { succeed } from '../../model/result.ts';
import { designOf } from '../../plan/designOf.ts';
import { Target } from '../../model/target.ts';
import type { OperationKind } from './kind.ts';

const schema = z.object({ id: z.literal('set-target'), target: Target });

/** What it is sewn on, with and for. */
export const setTarget: OperationKind<typeof schema> = {
  schema,
  apply: ({ plan, kept }, { target }) => succeed(designOf(plan, target, kept)),
};
