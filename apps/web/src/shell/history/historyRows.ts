import type { HistoryStep } from '@isola/contract';

/** A step in the list: the last one done, one that is done, one that can be done again, or one on another branch. `id` null: what the steps begin with. */
export interface StepRow {
  readonly kind: 'step';
  readonly id: string | null;
  readonly step: HistoryStep | undefined;
  readonly state: 'now' | 'done' | 'ahead' | 'left';
  /** How many branches it is away from the one that is worked on. */
  readonly depth: number;
  /** The name of the branch that it begins. */
  readonly begins: string | undefined;
}

/** Another branch than the one that is worked on, folded or not. */
export interface BranchRow {
  readonly kind: 'branch';
  /** The step that begins it, and the one that was made last on it. */
  readonly id: string;
  readonly tip: HistoryStep;
  readonly name: string | undefined;
  /** Of its steps, those of branches from it included. */
  readonly count: number;
  readonly depth: number;
  readonly isOpen: boolean;
}

export type HistoryRow = StepRow | BranchRow;

export interface Tree {
  readonly steps: readonly HistoryStep[];
  readonly now: string | null;
  /** What can be done again, the next one first. */
  readonly ahead: readonly string[];
  /** Names of branches, by the step that begins each. */
  readonly names: ReadonlyMap<string, string>;
}

/** The list of a history, the newest first: the branch that is worked on, and where others leave it, those; `open` ones with their steps. O(n). */
export function historyRows({ steps, now, ahead, names }: Tree, open: ReadonlySet<string>): HistoryRow[] {
  const known = new Map(steps.map((step) => [step.id, step]));
  const next = new Map<string | null, HistoryStep[]>();
  for (const step of steps) next.set(step.parent, [...(next.get(step.parent) ?? []), step]);
  const rows: HistoryRow[] = [];

  function putBranches(from: string | null, but: string | undefined, depth: number): void {
    for (const first of [...(next.get(from) ?? [])].reverse()) {
      if (first.id === but) continue;
      const line = lineFrom(first);
      const isOpen = open.has(first.id);
      const count = countFrom(first, next);
      rows.push({ kind: 'branch', id: first.id, tip: line.at(-1)!, name: names.get(first.id), count, depth: depth + 1, isOpen });
      if (isOpen) putLine(line, depth + 1);
    }
  }

  function putLine(line: readonly HistoryStep[], depth: number): void {
    const last = line.at(-1);
    if (last !== undefined) putBranches(last.id, undefined, depth);
    for (let k = line.length - 1; k >= 0; k--) {
      const step = line[k]!;
      rows.push({ kind: 'step', id: step.id, step, state: stateOf(step.id, depth), depth, begins: names.get(step.id) });
      // Of a branch the others beside its first step stand where it does.
      if (k > 0 || depth === 0) putBranches(step.parent, step.id, depth);
    }
  }

  /** A step and those that were made last on it. */
  function lineFrom(first: HistoryStep): HistoryStep[] {
    const line = [first];
    for (let at = next.get(first.id)?.at(-1); at !== undefined; at = next.get(at.id)?.at(-1)) line.push(at);
    return line;
  }

  const isAhead = new Set(ahead);
  const stateOf = (id: string, depth: number): StepRow['state'] =>
    depth > 0 ? 'left' : id === now ? 'now' : isAhead.has(id) ? 'ahead' : 'done';

  const done: HistoryStep[] = [];
  for (let at = now === null ? undefined : known.get(now); at !== undefined; at = at.parent === null ? undefined : known.get(at.parent))
    done.push(at);
  const line = [...done.reverse(), ...ahead.flatMap((id) => known.get(id) ?? [])];
  if (line.length === 0) putBranches(null, undefined, 0);
  putLine(line, 0);
  rows.push({ kind: 'step', id: null, step: undefined, state: now === null ? 'now' : 'done', depth: 0, begins: undefined });
  return rows;
}

function countFrom(first: HistoryStep, next: ReadonlyMap<string | null, readonly HistoryStep[]>): number {
  let count = 0;
  const waiting = [first];
  for (let step = waiting.pop(); step !== undefined; step = waiting.pop()) {
    count++;
    waiting.push(...(next.get(step.id) ?? []));
  }
  return count;
}

/** When something was done, as short as it can be told: the time, before today with the day. */
export function sayWhen(at: string, today = new Date()): string {
  if (at === '') return 'not saved yet';
  const date = new Date(at);
  const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  return date.toDateString() === today.toDateString()
    ? time
    : `${date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })} ${time}`;
}
