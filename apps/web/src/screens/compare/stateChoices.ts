import type { HistoryStep, RevisionSummary } from '@isola/contract';
import type { StateName } from '@isola/core';

interface Known {
  readonly steps: readonly HistoryStep[];
  readonly now: string | null;
  readonly names: ReadonlyMap<string, string>;
  /** The step that each revision shows, by its number. */
  readonly revisions: ReadonlyMap<number, string | null>;
}

export type Choice = readonly [state: StateName, words: string];

/** What can be chosen as a side of a comparison: the file, what is on the bench, what was kept, the ends of branches; and `also`, whatever step that is. */
export function stateChoices(
  { steps, now, names, revisions }: Known,
  kept: readonly RevisionSummary[],
  also: readonly StateName[],
): Choice[] {
  const choices: Choice[] = [
    ['file', 'As it came'],
    ['now', 'Now'],
  ];
  const isThere = (state: StateName): boolean => choices.some(([one]) => one === state);
  for (const { number, name } of kept.slice(1)) {
    const step = revisions.get(number);
    choices.push([step === undefined ? `kept ${number}` : (step ?? 'start'), `Revision ${number}: ${name}`]);
  }
  const known = new Map(steps.map((step) => [step.id, step]));
  const hasNext = new Set(steps.map(({ parent }) => parent));
  for (const step of steps) {
    if (hasNext.has(step.id) || step.id === now || isThere(step.id)) continue;
    choices.push([step.id, `Branch: ${branchNameOf(step, known, names) ?? `ends with “${shorten(step.name)}”`}`]);
  }
  for (const state of also) {
    if (isThere(state)) continue;
    choices.push([state, state === 'start' ? 'As its steps begin' : `After “${shorten(known.get(state)?.name ?? 'a step')}”`]);
  }
  // Of revisions that show the same the last one stands.
  return choices.filter(([state], k) => choices.findLastIndex(([one]) => one === state) === k);
}

const LONGEST = 44;
const shorten = (name: string): string => (name.length > LONGEST ? `${name.slice(0, LONGEST - 1).trimEnd()}…` : name);

/** The name of the branch that a step is on: that of the nearest step before it that begins one by name. */
function branchNameOf(step: HistoryStep, known: ReadonlyMap<string, HistoryStep>, names: ReadonlyMap<string, string>): string | undefined {
  for (let at: HistoryStep | undefined = step; at !== undefined; at = at.parent === null ? undefined : known.get(at.parent)) {
    const name = names.get(at.id);
    if (name !== undefined) return name;
  }
  return undefined;
}

/** A state as the head of a column or of a picture: short. */
export function sayState(state: StateName, choices: readonly Choice[]): string {
  const words = choices.find(([one]) => one === state)?.[1] ?? 'a step';
  if (state === 'file' || state === 'now') return words.toLowerCase();
  return words.replace(/^Branch: /, '').replace(/^Revision (\d+): .*/, 'revision $1');
}
