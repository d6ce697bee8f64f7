import type { KeptFinding } from '../../model/design.ts';
import { applyPatches, type Patch } from '../../model/patch.ts';
import type { Program } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { Target } from '../../model/target.ts';
import type { RebuiltRows, RowDecision, RowEntry, RowOperation } from './rowEntry.ts';

/** Where a journal of rows leads: rows, and what was noted by them. */
export interface RowDesign {
  readonly program: Program;
  readonly target: Target;
  readonly kept: Readonly<Record<string, KeptFinding>>;
  readonly decisions: readonly RowDecision[];
  readonly rebuilt: readonly RebuiltRows[];
}

/** A step of such a journal by its name, and what was said with it. */
export interface EarlierStep {
  readonly name: string;
  readonly reason?: string;
}

/** Replays a journal of rows to its last state, with the names of the steps that led there. */
export function replayRowJournal(
  program: Program,
  target: Target,
  entries: readonly RowEntry[],
): Result<{ readonly design: RowDesign; readonly steps: readonly EarlierStep[] }, string> {
  const states: RowDesign[] = [{ program, target, kept: {}, decisions: [], rebuilt: [] }];
  const steps: EarlierStep[] = [];
  let undone: { state: RowDesign; step: EarlierStep }[] = [];
  for (const [k, entry] of entries.entries()) {
    if (entry.kind === 'do') {
      let state = states[states.length - 1]!;
      const { operation } = entry;
      for (const part of operation.id === 'sequence' ? operation.operations : [operation]) {
        const next = apply(state, part);
        if (!next.ok) return fail(`step ${k + 1}: ${next.error}`);
        state = next.value;
      }
      states.push(state);
      steps.push({ name: entry.name, ...(operation.id === 'keep-finding' ? { reason: operation.reason } : {}) });
      undone = [];
    } else if (entry.kind === 'undo') {
      if (steps.length === 0) return fail(`step ${k + 1}: there is no step to undo`);
      undone.push({ state: states.pop()!, step: steps.pop()! });
    } else {
      const again = undone.pop();
      if (again === undefined) return fail(`step ${k + 1}: there is no step to do again`);
      states.push(again.state);
      steps.push(again.step);
    }
  }
  return succeed({ design: states[states.length - 1]!, steps });
}

function apply(design: RowDesign, operation: RowOperation): Result<RowDesign, string> {
  switch (operation.id) {
    case 'replace-rows': {
      const program = applyPatches(design.program, operation.patches);
      if (!program.ok) return program;
      const move = (row: number): number => moveRow(row, operation.patches);
      return succeed({
        ...design,
        program: program.value,
        decisions: design.decisions.map((d) =>
          d.kind === 'join' ? { ...d, first: move(d.first), last: move(d.last) } : { ...d, row: move(d.row) },
        ),
        rebuilt: design.rebuilt.map((object) => ({ ...object, first: move(object.first), last: move(object.last) })),
      });
    }
    case 'set-target':
      return succeed({ ...design, target: operation.target });
    case 'keep-finding': {
      const { key, rule, title, reason } = operation;
      return succeed({ ...design, kept: { ...design.kept, [key]: { rule, title, reason } } });
    }
    case 'reopen-finding': {
      const { [operation.key]: _, ...kept } = design.kept;
      return succeed({ ...design, kept });
    }
    case 'decide-objects':
      return succeed({ ...design, decisions: operation.decisions });
    case 'set-rebuilt': {
      const others = design.rebuilt.filter((o) => o.key !== operation.key);
      return succeed({ ...design, rebuilt: operation.object === null ? others : [...others, operation.object] });
    }
  }
}

/** Where a row is after patches; a row that is gone becomes the one in its place. */
function moveRow(row: number, patches: readonly Patch[]): number {
  let shift = 0;
  for (const { at, removed, inserted } of patches) {
    if (row < at) break;
    if (row < at + removed.length) return at + shift + Math.min(row - at, Math.max(0, inserted.length - 1));
    shift += inserted.length - removed.length;
  }
  return row + shift;
}
