import { wayTo } from './journal.ts';

/** What of an entry says where it leads; `name` of steps, as people read it. */
export type EntryStub =
  { readonly id: string; readonly kind: 'do' | 'undo' | 'redo' } | { readonly id: string; readonly kind: 'go'; readonly to: string | null };

/** A step that was ever made, whether it is done at present or not. */
export interface TreeStep {
  readonly id: string;
  /** The step that it was made on; null: the start. */
  readonly parent: string | null;
  /** The place of its entry, counted from 0. */
  readonly entry: number;
}

export interface StepTree {
  /** In the order in which they were made. */
  readonly steps: readonly TreeStep[];
  /** The step that was the last one done after each entry; `at[0]` is before all of them, so that there is one more than entries. */
  readonly at: readonly (string | null)[];
}

/** Steps one on top of the other, of which each but the first was the first to be made on the one before. */
export interface Branch {
  /** The step that it leaves; null: the start. */
  readonly from: string | null;
  /** Oldest first; at least one. */
  readonly steps: readonly string[];
}

/** The steps that a journal speaks of as the tree that they are, without working out a design. Entries that do not fit lead nowhere. O(n), goings O(depth). */
export function readStepTree(entries: readonly EntryStub[]): StepTree {
  const known = new Map<string, TreeStep>();
  const at: (string | null)[] = [null];
  let undone: string[] = [];
  let last: string | null = null;
  entries.forEach((entry, k) => {
    if (entry.kind === 'do') {
      known.set(entry.id, { id: entry.id, parent: last, entry: k });
      [last, undone] = [entry.id, []];
    } else if (entry.kind === 'undo') {
      if (last !== null) undone.push(last);
      last = last === null ? null : known.get(last)!.parent;
    } else if (entry.kind === 'redo') last = undone.pop() ?? last;
    else if (entry.kind === 'go' && (entry.to === null || known.has(entry.to))) {
      undone = aheadOf(known, undone, last, entry.to);
      last = entry.to;
    }
    at.push(last);
  });
  return { steps: [...known.values()], at };
}

/** What can be done again, the next one last, after going from one step to another. */
function aheadOf(known: ReadonlyMap<string, TreeStep>, undone: readonly string[], from: string | null, to: string | null): string[] {
  const back = wayTo(to, known, from);
  if (back !== undefined) return [...undone, ...back.map(({ id }) => id).reverse()];
  const forth = wayTo(from, known, to)?.map(({ id }) => id);
  if (forth === undefined || !forth.every((id, k) => undone.at(-1 - k) === id)) return [];
  return undone.slice(0, undone.length - forth.length);
}

/** The branches of a tree, in the order in which they were begun: where a step follows another that has a step on it already, a new one begins. O(n). */
export function branchesOf(steps: readonly TreeStep[]): Branch[] {
  const branches: { from: string | null; steps: string[] }[] = [];
  const branchOf = new Map<string, (typeof branches)[number]>();
  const isGoneOn = new Set<string | null>();
  for (const { id, parent } of steps) {
    let branch = parent === null || isGoneOn.has(parent) ? undefined : branchOf.get(parent);
    if (branch === undefined) branches.push((branch = { from: parent, steps: [] }));
    branch.steps.push(id);
    branchOf.set(id, branch);
    isGoneOn.add(parent);
  }
  return branches;
}

/** The last step that two have before them, or that one of them is; null: the start. */
export function partingOf(steps: readonly Pick<TreeStep, 'id' | 'parent'>[], one: string | null, other: string | null): string | null {
  const known = new Map(steps.map((step) => [step.id, step]));
  const above = new Set<string | null>([null]);
  for (let at = one; at !== null; at = known.get(at)?.parent ?? null) above.add(at);
  let at = other;
  while (!above.has(at)) at = known.get(at!)?.parent ?? null;
  return at;
}
