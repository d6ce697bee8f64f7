import { z } from 'zod';
import type { Design } from '../model/design.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import { applyOperation, Operation } from './operations/registry.ts';

/**
 * What happened to a job, in order and never rewritten: steps done, taken back, done again, and goings to where an earlier step had led (`to`; null:
 * the start). `id` is made by the writer, so that an entry sent twice is known as one. Undoing is an entry like the others, which is why undo and redo
 * outlive a reload; `step` is the entry that they expect to take back or to do again (earlier ones do not say it), so that nobody takes back what another
 * one did.
 */
export const JournalEntry = z.discriminatedUnion('kind', [
  z.object({ id: z.uuid(), kind: z.literal('do'), name: z.string().trim().min(1).max(200), operation: Operation }),
  z.object({ id: z.uuid(), kind: z.literal('undo'), step: z.uuid().optional() }),
  z.object({ id: z.uuid(), kind: z.literal('redo'), step: z.uuid().optional() }),
  z.object({ id: z.uuid(), kind: z.literal('go'), to: z.uuid().nullable() }),
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

/** A step that is not done at present: it was taken back, or left for another way. */
export interface KnownStep {
  readonly id: string;
  readonly name: string;
  readonly operation: Operation;
  /** The step that it was made on; null: the start. */
  readonly parent: string | null;
  /** The designs before and after it, where it was made since the journal was opened. Plans share all that did not change. */
  readonly before?: Design;
  readonly after?: Design;
}

/** A step as the history holds it: taking it back is going back to the design before it. */
export type Step = KnownStep & { readonly before: Design; readonly after: Design };

/** A design with the steps that led to it, oldest first, and all others that were made: a step on top of an earlier one begins another way, and none goes. */
export interface History {
  readonly design: Design;
  /** Steps before `done` whose designs are not in hand: taking one of them back takes the journal from its start. */
  readonly far: readonly NamedStep[];
  readonly done: readonly Step[];
  /** Those that can be done again, the next one last. */
  readonly undone: readonly KnownStep[];
  /** Those on other ways. */
  readonly left: readonly KnownStep[];
  /** Whether all steps that were ever made are in hand. */
  readonly isWhole: boolean;
}

export function startHistory(design: Design): History {
  return { design, far: [], done: [], undone: [], left: [], isWhole: true };
}

const NOT_IN_HAND = 'the step is not in hand';

/** The history after one entry, or the reason why it does not fit. */
export function extendHistory(history: History, entry: JournalEntry): Result<History, string> {
  const { design, far, done, undone, left } = history;
  switch (entry.kind) {
    case 'do': {
      const step = make(design, { id: entry.id, name: entry.name, operation: entry.operation, parent: done.at(-1)?.id ?? rootOf(history) });
      if (!step.ok) return step;
      const others = undone.length > 0 ? [...left, ...undone] : left;
      return succeed({ ...history, design: step.value.after, done: [...done, step.value], undone: [], left: others });
    }
    case 'undo': {
      const step = done[done.length - 1];
      if (step === undefined) return fail(far.length > 0 ? NOT_IN_HAND : 'there is no step to undo');
      if (entry.step !== undefined && entry.step !== step.id)
        return fail(`${step.name} was done since, which is not what was to be taken back`);
      return succeed({ ...history, design: step.before, done: done.slice(0, -1), undone: [...undone, step] });
    }
    case 'redo': {
      const step = undone[undone.length - 1];
      if (step === undefined) return fail('there is no step to do again');
      if (entry.step !== undefined && entry.step !== step.id) return fail(`${step.name} would be done again, which is not what was meant`);
      const next = make(design, step);
      if (!next.ok) return next;
      return succeed({ ...history, design: next.value.after, done: [...done, next.value], undone: undone.slice(0, -1) });
    }
    case 'go':
      return goTo(history, entry.to);
  }
}

/** The step that the first in hand was made on. */
const rootOf = ({ far }: Pick<History, 'far'>): string | null => far.at(-1)?.id ?? null;

/** A step made on a design; where it was made on that very one before, as it came out then. */
function make(design: Design, step: KnownStep): Result<Step, string> {
  if (step.before === design && step.after !== undefined) return succeed(step as Step);
  const after = applyOperation(design, step.operation);
  return after.ok ? succeed({ ...step, before: design, after: after.value }) : after;
}

/** The history where a step has just been made, whichever way that is on; null: at the start. Nothing that was done since goes. */
function goTo(history: History, to: string | null): Result<History, string> {
  const { done, undone, left } = history;
  const known = new Map([...done, ...undone, ...left].map((step) => [step.id, step]));
  const way = wayTo(rootOf(history), known, to);
  if (way === undefined) return fail(history.isWhole ? 'there is no such step' : NOT_IN_HAND);
  let common = 0;
  while (common < done.length && done[common]!.id === way[common]?.id) common++;
  let design = done[common]?.before ?? history.design;
  const steps = done.slice(0, common);
  for (const step of way.slice(common)) {
    const next = make(design, step);
    if (!next.ok) return next;
    steps.push(next.value);
    design = next.value.after;
  }
  const ahead = aheadAfter(history, way, common);
  const held = new Set([...steps, ...ahead].map(({ id }) => id));
  return succeed({ ...history, design, done: steps, undone: ahead, left: [...known.values()].filter(({ id }) => !held.has(id)) });
}

/** What can be done again where a way was gone on to: what was done past there, or what is ahead there already. */
function aheadAfter({ done, undone }: History, way: readonly KnownStep[], common: number): readonly KnownStep[] {
  if (way.length === common) return [...undone, ...done.slice(common).reverse()];
  const next = undone.slice(common - way.length);
  const isAhead = common === done.length && next.length === way.length - common && next.every(({ id }, k) => way.at(-1 - k)!.id === id);
  return isAhead ? undone.slice(0, common - way.length) : [];
}

/**
 * A state of a job: the present one, what its steps begin with, its file as it came (the same, but for jobs whose steps began as rows), after a step by its id, or
 * as a revision kept the rows, by its number, where no step leads to it.
 */
export type StateName = 'now' | 'start' | 'file' | `kept ${number}` | (string & {});

/** The design of a state; nothing where it is not in hand, or a file's. */
export function stateOf(history: History, name: StateName): Design | undefined {
  if (name === 'now') return history.design;
  if (name === 'file' || name.startsWith('kept ')) return undefined;
  const to = name === 'start' ? null : name;
  // The start of a history that goes on from a snapshot is not what its steps begin with.
  if (to === null && !history.isWhole) return undefined;
  const gone = goTo(history, to);
  return gone.ok ? gone.value.design : undefined;
}

/** The steps from a root to one of them, oldest first; nothing where that is not known. */
export function wayTo<S extends { readonly id: string; readonly parent: string | null }>(
  root: string | null,
  known: ReadonlyMap<string, S>,
  to: string | null,
): S[] | undefined {
  const way: S[] = [];
  for (let at = to; at !== root;) {
    const step = at === null ? undefined : known.get(at);
    if (step === undefined) return undefined;
    way.push(step);
    at = step.parent;
  }
  return way.reverse();
}

/** Whether entries take back a step, or go to one, that is not in hand, so that the journal is needed from its start. */
export function reachesFar(history: History, entries: readonly JournalEntry[]): boolean {
  if (history.isWhole) return false;
  const root = rootOf(history);
  const known = new Map([...history.done, ...history.undone, ...history.left].map(({ id, parent }) => [id, { id, parent }]));
  let at = history.done.at(-1)?.id ?? root;
  let undone = history.undone.map(({ id }) => id);
  for (const entry of entries) {
    if (entry.kind === 'do') {
      known.set(entry.id, { id: entry.id, parent: at });
      [at, undone] = [entry.id, []];
    } else if (entry.kind === 'undo') {
      if (at === root) return history.far.length > 0;
      if (at !== null) undone.push(at);
      at = known.get(at!)?.parent ?? root;
    } else if (entry.kind === 'redo') at = undone.pop() ?? at;
    else {
      if (wayTo(root, known, entry.to) === undefined) return true;
      // What is ahead there matters to no more than what can be done again, which is in hand.
      [at, undone] = [entry.to, []];
    }
  }
  return false;
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

export function nameStep({ id, name, operation }: Pick<KnownStep, 'id' | 'name' | 'operation'>): NamedStep {
  const isTarget = operation.id === 'set-target';
  return operation.id === 'keep-finding' ? { id, name, reason: operation.reason, isTarget } : { id, name, isTarget };
}
