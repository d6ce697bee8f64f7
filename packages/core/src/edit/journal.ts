import { z } from 'zod';
import type { Design } from '../model/design.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import { applyOperation, Operation } from './operations/registry.ts';

/**
 * What happened to a job, in order and never rewritten: steps done, taken back, done again. `id` is made by the writer, so that an entry sent
 * twice is known as one. Undoing is an entry like the others, which is why undo and redo outlive a reload; `step` is the
 * entry that they expect to take back or to do again (earlier ones do not say it), so that nobody takes back what another one did.
 */
export const JournalEntry = z.discriminatedUnion('kind', [
  z.object({ id: z.uuid(), kind: z.literal('do'), name: z.string().trim().min(1).max(200), operation: Operation }),
  z.object({ id: z.uuid(), kind: z.literal('undo'), step: z.uuid().optional() }),
  z.object({ id: z.uuid(), kind: z.literal('redo'), step: z.uuid().optional() }),
]);
export type JournalEntry = z.infer<typeof JournalEntry>;

/** A step by its name, and what was said with it. */
export interface NamedStep {
  /** Of the entry that did it. */
  readonly id: string;
  readonly name: string;
  readonly reason?: string | undefined;
  readonly isTarget: boolean;
}

/** A step that was taken back and can be done again. */
export interface UndoneStep {
  readonly id: string;
  readonly name: string;
  readonly operation: Operation;
}

/** A step as the history holds it, with the design before it: taking it back is going back there. Plans share all that did not change. */
export interface Step extends UndoneStep {
  readonly before: Design;
}

/** A design with the steps that led to it, oldest first, and those that could be done again, the next one last. */
export interface History {
  readonly design: Design;
  /** Steps before `done` whose designs are not in hand: taking one of them back takes the journal from its start. */
  readonly far: readonly NamedStep[];
  readonly done: readonly Step[];
  readonly undone: readonly UndoneStep[];
}

export function startHistory(design: Design): History {
  return { design, far: [], done: [], undone: [] };
}

/** The history after one entry, or the reason why it does not fit. */
export function extendHistory(history: History, entry: JournalEntry): Result<History, string> {
  const { design, far, done, undone } = history;
  switch (entry.kind) {
    case 'do': {
      const next = applyOperation(design, entry.operation);
      if (!next.ok) return next;
      const step = { id: entry.id, name: entry.name, operation: entry.operation, before: design };
      return succeed({ design: next.value, far, done: [...done, step], undone: [] });
    }
    case 'undo': {
      const step = done[done.length - 1];
      if (step === undefined) return fail(far.length > 0 ? 'the step is not in hand' : 'there is no step to undo');
      if (entry.step !== undefined && entry.step !== step.id)
        return fail(`${step.name} was done since, which is not what was to be taken back`);
      return succeed({ design: step.before, far, done: done.slice(0, -1), undone: [...undone, step] });
    }
    case 'redo': {
      const step = undone[undone.length - 1];
      if (step === undefined) return fail('there is no step to do again');
      if (entry.step !== undefined && entry.step !== step.id) return fail(`${step.name} would be done again, which is not what was meant`);
      const next = applyOperation(design, step.operation);
      if (!next.ok) return next;
      return succeed({ design: next.value, far, done: [...done, { ...step, before: design }], undone: undone.slice(0, -1) });
    }
  }
}

/** Whether entries take back a step that is not in hand, so that the journal is needed from its start. */
export function reachesFar({ far, done }: History, entries: readonly JournalEntry[]): boolean {
  let inHand = done.length;
  return far.length > 0 && entries.some(({ kind }) => (inHand += kind === 'undo' ? -1 : 1) < 0);
}

/**
 * The history that a journal leads to from where it starts: always the same for the same entries. Fails where one does not fit, and says which of
 * several. `each` hears what every entry led to.
 */
export function replayJournal(
  start: History,
  entries: readonly JournalEntry[],
  each: (history: History) => void = () => undefined,
): Result<History, string> {
  let history = start;
  for (const [k, entry] of entries.entries()) {
    const next = extendHistory(history, entry);
    if (!next.ok) return entries.length === 1 ? next : fail(`step ${k + 1}: ${next.error}`);
    history = next.value;
    each(history);
  }
  return succeed(history);
}

export function nameStep({ id, name, operation }: UndoneStep): NamedStep {
  const isTarget = operation.id === 'set-target';
  return operation.id === 'keep-finding' ? { id, name, reason: operation.reason, isTarget } : { id, name, isTarget };
}
