/** @jest-environment node */
import { describe, expect, test } from '@jest/globals';
import type { JournalEntry } from '@isola/core';
import fc from 'fast-check';
import { stepsBackTo } from './stepsBackTo.ts';

type Act = 'do' | 'undo' | 'redo';

/** Entries as a bench makes them: nothing is taken back where nothing is done. What is done in the end is known by its names. */
function play(acts: readonly Act[]): { entries: JournalEntry[]; done: string[][] } {
  const entries: JournalEntry[] = [];
  const [done, undone]: [string[], string[]] = [[], []];
  const states: string[][] = [[]];
  acts.forEach((kind, k) => {
    const id = crypto.randomUUID();
    if (kind === 'do') {
      const name = `step ${k}`;
      entries.push({ id, kind, name, operation: { id: 'keep-finding', places: [name], rule: 'r', title: name, reason: name } });
      done.push(name);
      undone.length = 0;
    } else {
      const [from, to] = kind === 'undo' ? [done, undone] : [undone, done];
      const step = from.pop();
      if (step === undefined) return;
      entries.push({ id, kind });
      to.push(step);
    }
    states.push([...done]);
  });
  return { entries, done: states };
}

describe('going back to an earlier state', () => {
  test('leads there from any other, whatever was done, taken back and done again between, and leaves all that is there', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom<Act>('do', 'do', 'undo', 'redo'), { maxLength: 30 }), fc.nat(30), (acts, at) => {
        const { entries, done } = play(acts);
        const count = Math.min(at, entries.length);
        const more = stepsBackTo(entries, count);
        const names = new Map(entries.flatMap((e) => (e.kind === 'do' ? [[e.id, e.name] as const] : [])));
        const now = [...done[entries.length]!];
        for (const entry of more) {
          if (entry.kind === 'undo') expect(now.pop()).toBe(names.get(entry.step!));
          else if (entry.kind === 'do') now.push(entry.name);
        }
        expect(now).toEqual(done[count]);
        expect(new Set([...entries, ...more].map((e) => e.id)).size).toBe(entries.length + more.length);
      }),
      { seed: 18, numRuns: 500 },
    );
    expect(stepsBackTo([], 0)).toEqual([]);
  });
});
