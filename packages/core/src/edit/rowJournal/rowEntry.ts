import { z } from 'zod';
import { ObjectShape, ObjectSpec } from '../../model/objectSpec.ts';
import { STITCH_KINDS, STITCH_ROLES } from '../../model/kinds.ts';
import { Patch } from '../../model/patch.ts';
import { Target } from '../../model/target.ts';

// What journals held before objects lasted: rows that give way to rows, and notes about objects by their rows. Read, never written.

const RowNumber = z.number().int().nonnegative();

const Decision = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('join'), first: RowNumber, last: RowNumber }),
  z.object({ kind: z.literal('split'), row: RowNumber }),
  z.object({ kind: z.literal('tell'), row: RowNumber, as: z.enum(STITCH_KINDS), role: z.enum(STITCH_ROLES) }),
]);
export type RowDecision = z.infer<typeof Decision>;

const Rebuilt = z.object({ key: z.string(), first: RowNumber, last: RowNumber, spec: ObjectSpec, shape: ObjectShape });
export type RebuiltRows = z.infer<typeof Rebuilt>;

const Simple = z.discriminatedUnion('id', [
  z.object({ id: z.literal('replace-rows'), patches: z.array(Patch) }),
  z.object({ id: z.literal('set-target'), target: Target }),
  z.object({ id: z.literal('keep-finding'), key: z.string(), rule: z.string(), title: z.string(), reason: z.string() }),
  z.object({ id: z.literal('reopen-finding'), key: z.string() }),
  z.object({ id: z.literal('decide-objects'), decisions: z.array(Decision) }),
  z.object({ id: z.literal('set-rebuilt'), key: z.string(), object: Rebuilt.nullable() }),
]);
export type RowOperation = z.infer<typeof Simple>;

/** An entry of such a journal. */
export const RowEntry = z.discriminatedUnion('kind', [
  z.object({
    id: z.uuid(),
    kind: z.literal('do'),
    name: z.string(),
    operation: z.union([Simple, z.object({ id: z.literal('sequence'), operations: z.array(Simple) })]),
  }),
  z.object({ id: z.uuid(), kind: z.literal('undo') }),
  z.object({ id: z.uuid(), kind: z.literal('redo') }),
]);
export type RowEntry = z.infer<typeof RowEntry>;
