import { z } from 'zod';
import type { Design } from '../model/design.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import { applyOperation, Operation } from './operations/registry.ts';

/**
 * What happened to a job, in order and never rewritten: steps done, taken back, done again. `id` is made by the writer, so that an entry sent
 * twice is known as one. Undoing is an entry like the others, which is why undo and redo outlive a reload.
 */
export const JournalEntry = z.discriminatedUnion('kind', [
  z.object({ id: z.uuid(), kind: z.literal('do'), name: z.string().trim().min(1).max(200), operation: Operation }),
  z.object({ id: z.uuid(), kind: z.literal('undo') }),
  z.object({ id: z.uuid(), kind: z.literal('redo') }),
]);
export type JournalEntry = z.infer<typeof JournalEntry>;

/** A step as the history holds it, with the design before it: taking it back is going back there. Plans share all that did not change. */
export interface Step {
  readonly name: string;
  readonly operation: Operation;
  readonly before: Design;
}

/** A design with the steps that led to it, oldest first, and those that could be done again, the next one last. */
export interface History {
  readonly design: Design;
  readonly done: readonly Step[];
  readonly undone: readonly Step[];
}

export function startHistory(design: Design): History {
  return { design, done: [], undone: [] };
}

/** The history after one entry, or the reason why it does not fit. */
export function extendHistory(history: History, entry: JournalEntry): Result<History, string> {
  const { design, done, undone } = history;
  switch (entry.kind) {
    case 'do': {
      const next = applyOperation(design, entry.operation);
      if (!next.ok) return next;
      const step = { name: entry.name, operation: entry.operation, before: design };
      return succeed({ design: next.value, done: [...done, step], undone: [] });
    }
    case 'undo': {
      const step = done[done.length - 1];
      if (step === undefined) return fail('there is no step to undo');
      return succeed({ design: step.before, done: done.slice(0, -1), undone: [...undone, step] });
    }
    case 'redo': {
      const step = undone[undone.length - 1];
      if (step === undefined) return fail('there is no step to do again');
      const next = applyOperation(design, step.operation);
      return next.ok ? succeed({ design: next.value, done: [...done, step], undone: undone.slice(0, -1) }) : next;
    }
  }
}

/** The history that a journal leads to from the stored original: always the same for the same entries. */
export function replayJournal(original: Design, entries: readonly JournalEntry[]): Result<History, string> {
  let history = startHistory(original);
  for (const [k, entry] of entries.entries()) {
    const next = extendHistory(history, entry);
    if (!next.ok) return fail(`step ${k + 1}: ${next.error}`);
    history = next.value;
  }
  return succeed(history);
}
