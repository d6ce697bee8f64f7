import { z } from 'zod';
import { STITCH_KINDS, STITCH_ROLES } from './kinds.ts';

const RowNumber = z.number().int().nonnegative();

/**
 * What a person decided about objects; rows say which: those that hold the rows `first` and `last` and all between become one, one is parted
 * so that its second part begins with the stitch ending at `row`, or the one that holds `row` is told what it is.
 */
export const ObjectDecision = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('join'), first: RowNumber, last: RowNumber }),
  z.object({ kind: z.literal('split'), row: RowNumber }),
  z.object({ kind: z.literal('tell'), row: RowNumber, as: z.enum(STITCH_KINDS), role: z.enum(STITCH_ROLES) }),
]);
export type ObjectDecision = z.infer<typeof ObjectDecision>;
