import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { auditDesign } from '../audit/auditDesign.ts';
import { defaultTarget } from '../materials/shop.ts';
import { type Design, startDesign } from '../model/design.ts';
import { isSameProgram, type Program } from '../model/program.ts';
import { anyProgram, anyProgramWithin, buildProgram, sewPath } from '../testing/programs.ts';
import { JournalEntry, replayJournal, startHistory, extendHistory } from './journal.ts';
import { applyOperation, invertOperation, type Operation, Operation as OperationSchema } from './operation.ts';
import { applyPatches, invertPatches, type Patch, replaceRows } from '../model/patch.ts';
import { repairFindings } from './repairFindings.ts';

const target = defaultTarget();
const designOf = (program: Program): Design => startDesign(program, target);

let count = 0;
const uuid = (): string => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`;
const act = (operation: Operation): JournalEntry => ({ id: uuid(), kind: 'do', name: 'step', operation });
const undo = (): JournalEntry => ({ id: uuid(), kind: 'undo' });
const redo = (): JournalEntry => ({ id: uuid(), kind: 'redo' });

/** Patches at random places of a program, in order and apart. */
function anyPatches(program: Program): fc.Arbitrary<Patch[]> {
  const row = fc.oneof(
    fc.record({ command: fc.constant('stitch' as const), x: fc.integer({ min: -99, max: 99 }), y: fc.constant(0.25) }),
    fc.record({ command: fc.constant('color' as const), color: fc.constant('#abcdef'), note: fc.constant('New') }),
    fc.record({ command: fc.constant('trim' as const) }),
  );
  return fc
    .array(fc.record({ skip: fc.nat(6), count: fc.nat(4), inserted: fc.array(row, { maxLength: 4 }) }), { maxLength: 6 })
    .map((parts) => {
      const patches: Patch[] = [];
      let at = 0;
      for (const { skip, count: wanted, inserted } of parts) {
        at += skip;
        const removed = Math.min(wanted, program.rowCount - 1 - at);
        if (removed < 0) break;
        patches.push(replaceRows(program, at, removed, inserted));
        at += removed + 1;
      }
      return patches;
    });
}

const programAndPatches = anyProgram.chain((program) => anyPatches(program).map((patches) => ({ program, patches })));

describe('operations', () => {
  test('applying and inverting gives the same program, bit for bit, also after a way through JSON', () => {
    fc.assert(
      fc.property(programAndPatches, ({ program, patches }) => {
        const stored = JSON.parse(JSON.stringify({ id: 'replace-rows', patches })) as Operation;
        const after = applyOperation(designOf(program), stored);
        if (!after.ok) throw new Error(after.error);
        const back = applyOperation(after.value, invertOperation(designOf(program), stored));
        expect(back.ok && isSameProgram(back.value.program, program)).toBe(true);
        expect(after.value.program.rowCount).toBe(
          program.rowCount + patches.reduce((sum, p) => sum + p.inserted.length - p.removed.length, 0),
        );
      }),
      { numRuns: 300, seed: 4 },
    );
  });

  test('decisions about objects move with their rows, and come back exactly when the rows do, also those whose rows were gone', () => {
    fc.assert(
      fc.property(programAndPatches, fc.array(fc.nat(400), { maxLength: 6 }), ({ program, patches }, rows) => {
        const decisions = rows.map((row, k) =>
          k % 2 === 0 ? { kind: 'split' as const, row } : { kind: 'join' as const, first: row, last: row + 5 },
        );
        const decided = applyOperation(designOf(program), { id: 'decide-objects', decisions });
        if (!decided.ok) throw new Error(decided.error);
        const before = decided.value;
        expect(before.decisions).toEqual(decisions);
        const edit: Operation = { id: 'sequence', operations: [{ id: 'replace-rows', patches }] };
        const after = applyOperation(before, edit);
        if (!after.ok) throw new Error(after.error);
        const last = patches[patches.length - 1];
        // A row behind the last patch has moved by what all patches added.
        const shift = after.value.program.rowCount - program.rowCount;
        decisions.forEach((decision, k) => {
          const moved = after.value.decisions[k]!;
          if (decision.kind !== 'split' || moved.kind !== 'split') return;
          if (last === undefined || decision.row >= last.at + last.removed.length) expect(moved.row).toBe(decision.row + shift);
        });
        const back = applyOperation(after.value, OperationSchema.parse(JSON.parse(JSON.stringify(invertOperation(before, edit)))));
        if (!back.ok) throw new Error(back.error);
        expect(back.value.decisions).toEqual(before.decisions);
        expect(isSameProgram(back.value.program, program)).toBe(true);
        const undecided = applyOperation(back.value, invertOperation(designOf(program), { id: 'decide-objects', decisions }));
        expect(undecided.ok && undecided.value.decisions).toEqual([]);
      }),
      { seed: 20261125, numRuns: 80 },
    );
  });

  test('a patch that does not fit its program is refused and changes nothing', () => {
    const program = sewPath([
      [0, 0],
      [3, 0],
      [6, 0],
    ]);
    const wrong: Patch = { at: 3, removed: [{ command: 'stitch', x: 3.001, y: 0 }], inserted: [] };
    expect(applyPatches(program, [wrong])).toMatchObject({ ok: false, error: 'row 3 is not the stitch that the edit expects there' });
    expect(applyPatches(program, [{ at: 99, removed: [], inserted: [] }]).ok).toBe(false);
    const [a, b] = [replaceRows(program, 3, 1, []), replaceRows(program, 2, 1, [])];
    expect(applyPatches(program, [a, b]).ok).toBe(false);
    expect(invertPatches([])).toEqual([]);
    expect(() => replaceRows(program, program.rowCount - 1, 1, [])).toThrow(/end row/);
  });

  test('undo, redo and a new step after undo leave the design that replaying the journal gives', () => {
    const program = sewPath([
      [0, 0],
      [3, 0],
      [6, 0],
      [9, 0],
    ]);
    const drop = (row: number): Operation => ({ id: 'replace-rows', patches: [replaceRows(program, row, 1, [])] });
    const keep: Operation = { id: 'keep-finding', key: 'k', rule: 'tiny-stitch', title: 'a title', reason: 'wanted so' };
    const other = { ...target, quantity: 7 };
    const entries = [
      act(drop(4)),
      undo(),
      redo(),
      undo(),
      act(keep),
      act({ id: 'set-target', target: other }),
      undo(),
      act({ id: 'reopen-finding', key: 'k' }),
      undo(),
    ];
    const replayed = replayJournal(designOf(program), entries);
    if (!replayed.ok) throw new Error(replayed.error);
    const { design, done, undone } = replayed.value;
    expect(isSameProgram(design.program, program)).toBe(true);
    expect(design.kept).toEqual({ k: { rule: 'tiny-stitch', title: 'a title', reason: 'wanted so' } });
    expect(design.target).toBe(target);
    expect([done.length, undone.length]).toEqual([1, 1]);
    let step = startHistory(designOf(program));
    for (const entry of entries) {
      const next = extendHistory(step, entry);
      if (!next.ok) throw new Error(next.error);
      step = next.value;
    }
    expect(step).toEqual(replayed.value);
  });

  test('a sequence is done and undone as one, in the right order', () => {
    const program = sewPath([
      [0, 0],
      [3, 0],
      [6, 0],
      [9, 0],
    ]);
    const first = applyPatches(program, [replaceRows(program, 2, 1, [])]);
    if (!first.ok) throw new Error(first.error);
    const sequence: Operation = {
      id: 'sequence',
      operations: [
        { id: 'replace-rows', patches: [replaceRows(program, 2, 1, [])] },
        { id: 'replace-rows', patches: [replaceRows(first.value, 2, 1, [{ command: 'stitch', x: 1, y: 1 }])] },
        { id: 'set-target', target: { ...target, goal: 'softest' } },
      ],
    };
    expect(OperationSchema.parse(JSON.parse(JSON.stringify(sequence)))).toEqual(sequence);
    const after = applyOperation(designOf(program), sequence);
    if (!after.ok) throw new Error(after.error);
    const back = applyOperation(after.value, invertOperation(designOf(program), sequence));
    expect(back.ok && isSameProgram(back.value.program, program) && back.value.target).toEqual(target);
  });

  test('a journal that asks for what there is not says at which step', () => {
    const design = designOf(
      sewPath([
        [0, 0],
        [1, 0],
      ]),
    );
    expect(replayJournal(design, [undo()])).toEqual({ ok: false, error: 'step 1: there is no step to undo' });
    expect(replayJournal(design, [redo()])).toMatchObject({ ok: false });
    expect(replayJournal(design, [act({ id: 'reopen-finding', key: 'none' })])).toMatchObject({ ok: false });
    expect(JournalEntry.safeParse({ id: 'x', kind: 'do' }).success).toBe(false);
  });
});

describe('repairs of what was picked', () => {
  /** Two parts that a needless trim parts where the first is not locked, and a second end without a lock. */
  const parts = buildProgram([
    { command: 'color', color: '#1f4e5f' },
    { command: 'jump', x: 0, y: 0 },
    ...[0, 0.7, 0, 0.7, 3, 6, 9].map((x) => ({ command: 'stitch' as const, x, y: 0 })),
    { command: 'trim' },
    { command: 'jump', x: 10, y: 0 },
    ...[10, 10.7, 10, 10.7, 13, 16, 19].map((x) => ({ command: 'stitch' as const, x, y: 0 })),
    { command: 'trim' },
  ]);

  test('picks by key go on holding when an earlier repair took the finding’s first place away', () => {
    const keys = new Set(auditDesign(designOf(parts)).map((f) => f.key));
    const { design, applied } = repairFindings(designOf(parts), (f) => keys.has(f.key));
    expect(applied.map((a) => a.rule)).toEqual(['needless-trim', 'missing-tie']);
    expect(auditDesign(design).filter((f) => f.fix !== undefined)).toEqual([]);
  });

  test('what was not picked stays, also where it lies beside what was', () => {
    const { design, applied } = repairFindings(designOf(parts), (f) => f.rule === 'needless-trim');
    expect(applied.map((a) => a.rule)).toEqual(['needless-trim']);
    expect(auditDesign(design).map((f) => f.rule)).toContain('missing-tie');
    expect(repairFindings(designOf(parts), () => false)).toMatchObject({ operations: [], applied: [], refused: [] });
  });

  test('whatever is picked, its operations give the repaired program again, and undone the one before', () => {
    fc.assert(
      fc.property(anyProgramWithin(30), fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }), (program, picks) => {
        const start = designOf(program);
        const order = new Map(auditDesign(start).map((f, k) => [f.key, picks[k % picks.length]!]));
        const { design, operations } = repairFindings(start, (f) => order.get(f.key) ?? false);
        let again = start;
        const states = [start];
        for (const operation of operations) {
          const next = applyOperation(again, OperationSchema.parse(JSON.parse(JSON.stringify(operation))));
          if (!next.ok) throw new Error(next.error);
          states.push((again = next.value));
        }
        expect(isSameProgram(again.program, design.program)).toBe(true);
        for (let k = operations.length - 1; k >= 0; k--) {
          const back = applyOperation(again, invertOperation(states[k]!, operations[k]!));
          if (!back.ok) throw new Error(back.error);
          again = back.value;
        }
        expect(isSameProgram(again.program, program)).toBe(true);
      }),
      { numRuns: 80 },
    );
  });
});
