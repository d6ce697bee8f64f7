import { z } from 'zod';
import type { Design } from '../model/design.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import { isTouched, moveRebuilt, moveRow, RebuiltObject } from '../model/rebuilt.ts';
import { Target } from '../model/target.ts';
import { ObjectDecision } from '../model/objectDecision.ts';
import { applyPatches, invertPatches, Patch } from '../model/patch.ts';

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
/** All that is decided about objects from here on. */
const DecideObjects = z.object({ id: z.literal('decide-objects'), decisions: z.array(ObjectDecision).max(2000) });
/** What is known of a rebuilt object from here on; nothing where it has its own stitches again. */
const SetRebuilt = z.object({ id: z.literal('set-rebuilt'), key: z.string().min(1).max(80), object: RebuiltObject.nullable() });
const SimpleOperation = z.discriminatedUnion('id', [ReplaceRows, SetTarget, KeepFinding, ReopenFinding, DecideObjects, SetRebuilt]);
const Sequence = z.object({ id: z.literal('sequence'), operations: z.array(SimpleOperation).max(4000) });

/** An edit as data. A sequence is several simple ones that are done and undone as one step. */
export const Operation = z.discriminatedUnion('id', [
  ReplaceRows,
  SetTarget,
  KeepFinding,
  ReopenFinding,
  DecideObjects,
  SetRebuilt,
  Sequence,
]);
export type Operation = z.infer<typeof Operation>;
export type SimpleOperation = z.infer<typeof SimpleOperation>;

/** The design after an operation, or the reason why it does not fit. Never changes the design it is given. */
export function applyOperation(design: Design, operation: Operation): Result<Design, string> {
  switch (operation.id) {
    case 'replace-rows': {
      const program = applyPatches(design.program, operation.patches);
      if (!program.ok) return program;
      const { patches } = operation;
      return succeed({
        ...design,
        program: program.value,
        decisions: moveDecisions(design.decisions, patches),
        rebuilt: design.rebuilt.map((object) => moveRebuilt(object, patches)),
      });
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
    case 'decide-objects':
      return succeed({ ...design, decisions: operation.decisions });
    case 'set-rebuilt': {
      const others = design.rebuilt.filter((o) => o.key !== operation.key);
      const { object } = operation;
      return succeed({ ...design, rebuilt: object === null ? others : [...others, object].sort((a, b) => a.first - b.first) });
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
      return invertRows(before, operation.patches);
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
    case 'decide-objects':
      return { id: 'decide-objects', decisions: [...before.decisions] };
    case 'set-rebuilt':
      return { ...operation, object: before.rebuilt.find((o) => o.key === operation.key) ?? null };
    case 'sequence': {
      const inverses: SimpleOperation[] = [];
      let current = before;
      for (const part of operation.operations) {
        const inverse = invertOperation(current, part);
        inverses.unshift(...(inverse.id === 'sequence' ? inverse.operations : [inverse]));
        const next = applyOperation(current, part);
        if (!next.ok) throw new RangeError(next.error);
        current = next.value;
      }
      return { id: 'sequence', operations: inverses };
    }
  }
}

/** Taking rows back gives decisions and rebuilt objects their old rows too, even those whose rows were gone in between. */
function invertRows({ decisions, rebuilt }: Design, patches: readonly Patch[]): Operation {
  const back = { id: 'replace-rows' as const, patches: invertPatches(patches) };
  const touched = rebuilt.filter((object) => isTouched(object, patches));
  if (decisions.length === 0 && touched.length === 0) return back;
  return {
    id: 'sequence',
    operations: [
      back,
      ...(decisions.length === 0 ? [] : [{ id: 'decide-objects' as const, decisions: [...decisions] }]),
      ...touched.map((object) => ({ id: 'set-rebuilt' as const, key: object.key, object })),
    ],
  };
}

/** Decisions with their rows counted as after patches. */
function moveDecisions(decisions: readonly ObjectDecision[], patches: readonly Patch[]): readonly ObjectDecision[] {
  const move = (row: number): number => moveRow(row, patches);
  return decisions.map((d) => (d.kind === 'join' ? { ...d, first: move(d.first), last: move(d.last) } : { ...d, row: move(d.row) }));
}
