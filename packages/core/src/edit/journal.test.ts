import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { defaultTarget } from '../materials/shop.ts';
import type { Design } from '../model/design.ts';
import { replaceRows } from '../model/patch.ts';
import { isSameProgram, type Program } from '../model/program.ts';
import { startDesign } from '../plan/designOf.ts';
import { sewPath } from '../testing/programs.ts';
import { baseFromJson, baseToJson, historyFrom, makeBase, takeSnapshot } from './jobBase.ts';
import { extendHistory, type History, JournalEntry, nameStep, reachesFar, replayJournal, startHistory } from './journal.ts';
import type { Operation } from './operations/registry.ts';
import { operationsOfPatches } from './operationsOfPatches.ts';
import { branchesOf, partingOf, readStepTree } from './stepTree.ts';
import { runs, triesOf } from '../testing/runs.ts';

const target = defaultTarget();
const designOf = (program: Program): Design => startDesign(program, target);

let count = 0;
const uuid = (): string => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`;
const act = (operation: Operation): JournalEntry => ({ id: uuid(), kind: 'do', name: 'step', operation });
const undo = (): JournalEntry => ({ id: uuid(), kind: 'undo' });
const redo = (): JournalEntry => ({ id: uuid(), kind: 'redo' });

function historyAfter(start: History, entries: readonly JournalEntry[]): History {
  const replayed = replayJournal(start, entries);
  if (!replayed.ok) throw new Error(replayed.error);
  return replayed.value;
}

describe('a journal', () => {
  const program = sewPath([
    [0, 0],
    [3, 0],
    [6, 0],
    [9, 0],
  ]);

  test('undo, redo and a new step after undo leave the design that replaying it gives', () => {
    const design = designOf(program);
    const drop = (row: number): Operation => ({
      id: 'sequence',
      operations: operationsOfPatches(design.plan, [replaceRows(program, row, 1, [])]),
    });
    const keep: Operation = { id: 'keep-finding', places: ['k'], rule: 'tiny-stitch', title: 'a title', reason: 'wanted so' };
    const other = { ...target, quantity: 7 };
    const entries = [
      act(drop(4)),
      undo(),
      redo(),
      undo(),
      act(keep),
      act({ id: 'set-target', target: other }),
      undo(),
      act({ id: 'reopen-finding', places: ['k'] }),
      undo(),
    ];
    const replayed = replayJournal(startHistory(design), entries);
    if (!replayed.ok) throw new Error(replayed.error);
    const { done, undone } = replayed.value;
    expect(isSameProgram(replayed.value.design.program, program)).toBe(true);
    expect(replayed.value.design.kept).toEqual({ k: { rule: 'tiny-stitch', title: 'a title', reason: 'wanted so' } });
    expect(replayed.value.design.target).toBe(target);
    expect([done.length, undone.length]).toEqual([1, 1]);
    let step = startHistory(design);
    for (const entry of entries) {
      const next = extendHistory(step, entry);
      if (!next.ok) throw new Error(next.error);
      step = next.value;
    }
    expect(step.design.plan).toEqual(replayed.value.design.plan);
    expect(step.done.map((s) => s.name)).toEqual(done.map((s) => s.name));
  });

  test('goes on from a snapshot at any of its entries to where it would have come, as long as the steps before are not taken back', () => {
    const base = makeBase(program, target, []);
    if (!base.ok) throw new Error(base.error);
    const keep = (k: number) =>
      act({ id: 'keep-finding', places: [`p${k}`], rule: 'tiny-stitch', title: `title ${k}`, reason: 'wanted so' });
    const entries = [keep(0), keep(1), act({ id: 'set-target', target: { ...target, quantity: 3 } }), undo(), undo(), redo(), undo()];
    const more = [redo(), redo(), undo(), keep(2)];
    const whole = historyAfter(startHistory(base.value.design), [...entries, ...more]);
    for (let version = 1; version <= entries.length; version++) {
      const at = historyAfter(startHistory(base.value.design), entries.slice(0, version));
      const again = baseFromJson(baseToJson(takeSnapshot(base.value, at, version)), program);
      expect([again.version, again.far.length, again.undone.length]).toEqual([version, at.done.length, at.undone.length]);
      const rest = [...entries.slice(version), ...more];
      if (reachesFar(historyFrom(again), rest)) {
        expect(replayJournal(historyFrom(again), rest)).toMatchObject({ ok: false, error: expect.stringContaining('not in hand') });
        continue;
      }
      const { design, far, done, undone } = historyAfter(historyFrom(again), rest);
      expect([design.kept, design.target]).toEqual([whole.design.kept, whole.design.target]);
      expect(isSameProgram(design.program, whole.design.program)).toBe(true);
      expect([...far, ...done.map(nameStep)]).toEqual(whole.done.map(nameStep));
      expect(undone.map(nameStep)).toEqual(whole.undone.map(nameStep));
    }
    const last = historyFrom(baseFromJson(baseToJson(takeSnapshot(base.value, whole, 11)), program));
    expect([last.far.at(-1)!.reason, reachesFar(last, [undo()]), reachesFar(last, [keep(3), undo()])]).toEqual(['wanted so', true, false]);
  });

  /** What a digitizer does to a history: a step, one back, one forth, or to where the n-th of all steps (0: the start) had led. */
  type Act = 'do' | 'undo' | 'redo' | number;
  const acts = fc.array(fc.oneof(fc.constantFrom<Act>('do', 'do', 'undo', 'redo'), fc.nat(12)), { maxLength: 40 });

  /** Entries of such acts, with the names of all steps that are done after each: found by keeping all designs that ever were, by the names that led there. */
  function play(list: readonly Act[]): { entries: JournalEntry[]; done: string[][] } {
    const entries: JournalEntry[] = [];
    const states: string[][] = [[]];
    const ways = new Map<string | null, string[]>([[null, []]]);
    let [now, ahead]: [string[], string[][]] = [[], []];
    for (const kind of list) {
      if (kind === 'do') {
        const entry = act({ id: 'keep-finding', places: [`p${count}`], rule: 'r', title: 't', reason: 'wanted so' });
        entries.push(entry);
        [now, ahead] = [[...now, entry.id], []];
        ways.set(entry.id, now);
      } else if (kind === 'undo') {
        if (now.length === 0) continue;
        entries.push(undo());
        ahead.push(now);
        now = now.slice(0, -1);
      } else if (kind === 'redo') {
        if (ahead.length === 0) continue;
        entries.push(redo());
        now = ahead.pop()!;
      } else {
        const [to, way] = [...ways][kind % ways.size]!;
        entries.push({ id: uuid(), kind: 'go', to });
        const isBack = way.every((id, k) => id === now[k]);
        const at = ahead.findIndex((one) => one.join() === way.join());
        if (isBack) for (let n = now.length; n > way.length; n--) ahead.push(now.slice(0, n));
        else ahead = at < 0 ? [] : ahead.slice(0, at);
        now = way;
      }
      states.push(now);
    }
    return { entries, done: states };
  }

  test('goes wherever a step had led, on whichever branch, and loses none of them', () => {
    const design = designOf(program);
    fc.assert(
      fc.property(acts, (list) => {
        const { entries, done } = play(list);
        const designs = new Map<string | null, Design>([[null, design]]);
        const tree = readStepTree(entries);
        let history = startHistory(design);
        entries.forEach((entry, k) => {
          const next = extendHistory(history, entry);
          if (!next.ok) throw new Error(next.error);
          history = next.value;
          const way = done[k + 1]!;
          expect(history.done.map(({ id }) => id)).toEqual(way);
          expect(Object.keys(history.design.kept)).toHaveLength(way.length);
          const last = way.at(-1) ?? null;
          // Whatever way led there, it is the design that it was.
          expect(history.design.kept).toEqual((designs.get(last) ?? history.design).kept);
          designs.set(last, history.design);
          expect(tree.at[k + 1]).toBe(last);
        });
        const made = entries.filter(({ kind }) => kind === 'do').map(({ id }) => id);
        const { done: steps, undone, left } = history;
        expect([...steps, ...undone, ...left].map(({ id }) => id).sort()).toEqual([...made].sort());
        expect(tree.steps.map(({ id, parent }) => [id, parent])).toEqual(
          made.map((id) => [id, [...steps, ...undone, ...left].find((step) => step.id === id)!.parent]),
        );
        // Each step stands on one branch; branches are ways, and all but the first step of each stands on the one before.
        const branches = branchesOf(tree.steps);
        expect(branches.flatMap((branch) => branch.steps).sort()).toEqual([...made].sort());
        for (const { from, steps: chain } of branches)
          chain.forEach((id, k) => expect(tree.steps.find((step) => step.id === id)!.parent).toBe(k === 0 ? from : chain[k - 1]));
      }),
      runs(300, 22),
    );
  });

  test('opened at a snapshot says what it has not in hand, and leads to the same where it has', () => {
    const base = makeBase(program, target, []);
    if (!base.ok) throw new Error(base.error);
    const start = historyFrom(baseFromJson(baseToJson(base.value), program));
    let [near, far] = [0, 0];
    fc.assert(
      fc.property(acts, fc.nat(), (list, n) => {
        const { entries } = play(list);
        const at = n % (entries.length + 1);
        const kept = takeSnapshot(base.value, historyAfter(start, entries.slice(0, at)), at);
        const again = historyFrom(baseFromJson(baseToJson(kept), program));
        const rest = entries.slice(at);
        const later = replayJournal(again, rest);
        if (reachesFar(again, rest)) {
          far++;
          return;
        }
        near++;
        if (!later.ok) throw new Error(later.error);
        const whole = historyAfter(start, entries);
        expect(later.value.design.kept).toEqual(whole.design.kept);
        expect([...later.value.far, ...later.value.done].map(({ id }) => id)).toEqual(whole.done.map(({ id }) => id));
      }),
      runs(300, 23),
    );
    expect(Math.min(near, far)).toBeGreaterThan(triesOf(20));
  });

  test('says where two ways part', () => {
    const [a, b, c, d] = ['a', 'b', 'c', 'd'];
    const steps = [
      { id: a, parent: null, entry: 0 },
      { id: b, parent: a, entry: 1 },
      { id: c, parent: b, entry: 2 },
      { id: d, parent: a, entry: 4 },
    ];
    expect(branchesOf(steps)).toEqual([
      { from: null, steps: [a, b, c] },
      { from: a, steps: [d] },
    ]);
    expect([partingOf(steps, c, d), partingOf(steps, b, c), partingOf(steps, null, d), partingOf(steps, d, d)]).toEqual([a, b, null, d]);
  });

  test('that asks for what there is not says at which step', () => {
    const design = designOf(program);
    expect(replayJournal(startHistory(design), [undo()])).toEqual({ ok: false, error: 'there is no step to undo' });
    expect(replayJournal(startHistory(design), [redo()])).toMatchObject({ ok: false });
    expect(replayJournal(startHistory(design), [{ id: uuid(), kind: 'go', to: uuid() }])).toEqual({
      ok: false,
      error: 'there is no such step',
    });
    expect(replayJournal(startHistory(design), [act({ id: 'reopen-finding', places: ['none'] })])).toMatchObject({ ok: false });
    expect(JournalEntry.safeParse({ id: 'x', kind: 'do' }).success).toBe(false);
  });
});
