import type { JournalEntry } from '@isola/core';

type Done = Extract<JournalEntry, { readonly kind: 'do' }>;

/** The steps that are done after entries, oldest first; taken back ones are not among them. */
function doneAfter(entries: readonly JournalEntry[]): Done[] {
  const done: Done[] = [];
  let undone: Done[] = [];
  for (const entry of entries) {
    if (entry.kind === 'do') {
      done.push(entry);
      undone = [];
    } else {
      const [from, to] = entry.kind === 'undo' ? [done, undone] : [undone, done];
      const step = from.pop();
      if (step !== undefined) to.push(step);
    }
  }
  return done;
}

/**
 * The entries that bring a job back to what it was after the first `count` of its entries: what was done since is taken back, what was taken back since
 * is done again, under new ids. Nothing of its history goes.
 */
export function stepsBackTo(entries: readonly JournalEntry[], count: number): JournalEntry[] {
  const [now, then] = [doneAfter(entries), doneAfter(entries.slice(0, count))];
  let same = 0;
  while (same < now.length && same < then.length && now[same]!.id === then[same]!.id) same++;
  return [
    ...now
      .slice(same)
      .reverse()
      .map(({ id }): JournalEntry => ({ id: crypto.randomUUID(), kind: 'undo', step: id })),
    ...then.slice(same).map((step): JournalEntry => ({ ...step, id: crypto.randomUUID() })),
  ];
}
