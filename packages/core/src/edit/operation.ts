import { z } from 'zod';
import type { Design } from '../model/design.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import { Target } from '../model/target.ts';
import { applyPatches, invertPatches, Patch } from './patch.ts';

const ReplaceRows = z.object({ id: z.literal('replace-rows'), patches: z.array(Patch) });
const SetTarget = z.object({ id: z.literal('set-target'), target: Target });
const KeepFinding = z.object({
  id: z.literal('keep-finding'),
  key: z.string().min(1).max(200),
  rule: z.string().min(1).max(60),
  title: z.string().max(400),
  reason: z.string().trim().min(1).max(1000),
});
const ReopenFinding = z.object({ id: z.literal('reopen-finding'), key: z.string().min(1).max(200) });
const SimpleOperation = z.discriminatedUnion('id', [ReplaceRows, SetTarget, KeepFinding, ReopenFinding]);
const Sequence = z.object({ id: z.literal('sequence'), operations: z.array(SimpleOperation).max(100) });

/** An edit as data. A sequence is several simple ones that are done and undone as one step. */
export const Operation = z.discriminatedUnion('id', [ReplaceRows, SetTarget, KeepFinding, ReopenFinding, Sequence]);
export type Operation = z.infer<typeof Operation>;
export type SimpleOperation = z.infer<typeof SimpleOperation>;

/** The design after an operation, or the reason why it does not fit. Never changes the design it is given. */
export function applyOperation(design: Design, operation: Operation): Result<Design, string> {
  switch (operation.id) {
    case 'replace-rows': {
      const program = applyPatches(design.program, operation.patches);
      return program.ok ? succeed({ ...design, program: program.value }) : program;
    }
    case 'set-target':
      return succeed({ ...design, target: operation.target });
    case 'keep-finding': {
      const { key, rule, title, reason } = operation;
      return succeed({ ...design, kept: { ...design.kept, [key]: { rule, title, reason } } });
    }
    case 'reopen-finding': {
      if (!(operation.key in design.kept)) return fail(`no finding ${operation.key} was kept`);
      const { [operation.key]: _, ...kept } = design.kept;
      return succeed({ ...design, kept });
    }
    case 'sequence': {
      let current = design;
      for (const part of operation.operations) {
        const next = applyOperation(current, part);
        if (!next.ok) return next;
        current = next.value;
      }
      return succeed(current);
    }
  }
}

/** The operation that takes `operation` back, given the design before it. @throws when the operation does not fit that design. */
export function invertOperation(before: Design, operation: Operation): Operation {
  switch (operation.id) {
    case 'replace-rows':
      return { id: 'replace-rows', patches: invertPatches(operation.patches) };
    case 'set-target':
      return { id: 'set-target', target: before.target };
    case 'keep-finding': {
      const earlier = before.kept[operation.key];
      return earlier === undefined ? { id: 'reopen-finding', key: operation.key } : { id: 'keep-finding', key: operation.key, ...earlier };
    }
    case 'reopen-finding': {
      const kept = before.kept[operation.key];
      if (kept === undefined) throw new RangeError(`no finding ${operation.key} was kept`);
      return { id: 'keep-finding', key: operation.key, ...kept };
    }
    case 'sequence': {
      const inverses: SimpleOperation[] = [];
      let current = before;
      for (const part of operation.operations) {
        inverses.unshift(invertOperation(current, part) as SimpleOperation);
        const next = applyOperation(current, part);
        if (!next.ok) throw new RangeError(next.error);
        current = next.value;
      }
      return { id: 'sequence', operations: inverses };
    }
  }
}
