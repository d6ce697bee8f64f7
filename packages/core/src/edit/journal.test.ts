import { describe, expect, test } from '@jest/globals';
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

  test('that asks for what there is not says at which step', () => {
    const design = designOf(program);
    expect(replayJournal(startHistory(design), [undo()])).toEqual({ ok: false, error: 'there is no step to undo' });
    expect(replayJournal(startHistory(design), [redo()])).toMatchObject({ ok: false });
    expect(replayJournal(startHistory(design), [act({ id: 'reopen-finding', places: ['none'] })])).toMatchObject({ ok: false });
    expect(JournalEntry.safeParse({ id: 'x', kind: 'do' }).success).toBe(false);
  });
});
