import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { z } from 'zod';
import { auditDesign } from '../audit/auditDesign.ts';
import { defaultTarget } from '../materials/shop.ts';
import type { Design } from '../model/design.ts';
import { packRows, unpackRows } from '../model/packedRows.ts';
import { applyPatches, type Patch, replaceRows } from '../model/patch.ts';
import { orderOf } from '../model/plan.ts';
import { isSameProgram, type Program, ProgramBuilder } from '../model/program.ts';
import { assemble } from '../plan/assemble.ts';
import { startDesign } from '../plan/designOf.ts';
import { applied, fourObjects, specFor } from '../testing/designs.ts';
import { anyProgram, anyProgramWithin, buildProgram, sewPath } from '../testing/programs.ts';
import type { OperationKind } from './operations/kind.ts';
import type { Operation } from './operations/registry.ts';
import { applyOperation, registerKinds } from './operations/registry.ts';
import { setTarget } from './operations/setTarget.ts';
import { operationsOfPatches } from './operationsOfPatches.ts';
import { joinObjects } from './regroup.ts';
import { repairFindings } from './repairFindings.ts';
import { sewSpecs } from './sewSpecs.ts';
import { runs } from '../testing/runs.ts';

const target = defaultTarget();
const designOf = (program: Program): Design => startDesign(program, target);

/** Patches at random places of a program, in order and apart; threads and the end stay. */
function anyPatches(program: Program): fc.Arbitrary<Patch[]> {
  const row = fc.oneof(
    fc.record({ command: fc.constant('stitch' as const), x: fc.integer({ min: -99, max: 99 }), y: fc.constant(0.25) }),
    fc.record({ command: fc.constant('jump' as const), x: fc.integer({ min: -99, max: 99 }), y: fc.constant(7) }),
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

describe('rows that change', () => {
  test('said of whose they are, they give what patches of the whole program give, bit for bit, also after a way through JSON', () => {
    fc.assert(
      fc.property(programAndPatches, ({ program, patches }) => {
        const wanted = applyPatches(program, patches);
        if (!wanted.ok) throw new Error(wanted.error);
        const design = designOf(program);
        const after = applied(design, { id: 'sequence', operations: operationsOfPatches(design.plan, patches) });
        expect(isSameProgram(after.program, wanted.value)).toBe(true);
      }),
      runs(300, 4),
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
    expect(() => replaceRows(program, program.rowCount - 1, 1, [])).toThrow(/end row/);
    const design = designOf(program);
    const [id] = orderOf(design.plan);
    const edit: Operation = { id: 'edit-rows', edits: [{ object: id!, part: 'rows', patches: [{ ...wrong, at: 0 }] }] };
    expect(applyOperation(design, edit)).toMatchObject({ ok: false, error: expect.stringContaining('row 0 is not the stitch') });
    const gone: Operation = { id: 'edit-rows', edits: [{ object: 'gone', part: 'way', patches: [{ ...wrong, at: 0 }] }] };
    expect(applyOperation(design, gone)).toMatchObject({ ok: false, error: expect.stringContaining('no object gone') });
  });

  test('packed they are the same, thousandth by thousandth, in some five characters a stitch; what is no such text is refused', () => {
    const step = fc.integer({ min: -6000, max: 6000 });
    const row = fc.tuple(fc.constantFrom(...(['stitch', 'stitch', 'stitch', 'jump', 'trim'] as const)), step, step);
    fc.assert(
      fc.property(fc.array(row, { maxLength: 300 }), (rows) => {
        const out = new ProgramBuilder();
        let [x, y] = [0, 0];
        for (const [command, dx, dy] of rows) {
          [x, y] = [x + dx, y + dy];
          out.row({ command, x: x / 1000, y: y / 1000 });
        }
        const program = out.build();
        const text = packRows(program);
        expect(isSameProgram(unpackRows(text), program)).toBe(true);
        expect(text.length).toBeLessThan(9 * rows.length + 4);
        expect(() => unpackRows(`${text}A`)).toThrow(/go on after/);
        if (rows.length > 0) expect(() => unpackRows(text.slice(0, -1))).toThrow(/do not read/);
      }),
      runs(100, 53),
    );
    expect(() => unpackRows('!')).toThrow(/character 0: got !/);
  });
});

describe('operations', () => {
  test('say what they expect to find, and refuse where it is not so instead of fitting anywhere', () => {
    const design = fourObjects();
    const [fill, satin] = orderOf(design.plan);
    const wide = sewSpecs(design, [{ object: fill!, spec: specFor(design, fill!, { spacing: 0.8 }) }]).operations[0]!;
    const closer = sewSpecs(design, [{ object: fill!, spec: specFor(design, fill!, { spacing: 0.3 }) }]).operations[0]!;
    const join = joinObjects(design, [fill!, satin!]);
    if (!join.ok) throw new Error(join.error);
    const after = applied(design, wide);
    for (const late of [closer, join.value, wide])
      expect(applyOperation(after, late)).toMatchObject({ ok: false, error: expect.stringContaining('was changed since') });
    const joined = applied(design, join.value);
    expect(applyOperation(joined, closer).ok).toBe(false);
    expect(applyOperation(joined, { id: 'rename-object', object: satin!, name: 'x' })).toEqual({
      ok: false,
      error: `there is no object ${satin} any more`,
    });
    expect(applyOperation(design, { ...wide, rows: '!' } as Operation)).toMatchObject({
      ok: false,
      error: expect.stringContaining('do not read'),
    });
  });

  test('two of one id are a mistake of who lists them', () => {
    const kind = setTarget as unknown as OperationKind<z.ZodObject>;
    expect(() => registerKinds([kind, kind])).toThrow('two operations are called set-target');
  });

  test('an entry of one object is some kilobytes at most', () => {
    const design = fourObjects();
    const sizes = orderOf(design.plan).map((id) => {
      const { operations } = sewSpecs(design, [{ object: id, spec: specFor(design, id, { stitchLength: 3 }) }]);
      return JSON.stringify(operations).length;
    });
    expect(Math.max(...sizes)).toBeLessThan(8192);
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
    const { design, applied: done } = repairFindings(designOf(parts), (f) => keys.has(f.key));
    expect(done.map((a) => a.rule)).toEqual(['needless-trim', 'missing-tie']);
    expect(auditDesign(design).filter((f) => f.fix !== undefined)).toEqual([]);
  });

  test('what was not picked stays, also where it lies beside what was', () => {
    const { design, applied: done } = repairFindings(designOf(parts), (f) => f.rule === 'needless-trim');
    expect(done.map((a) => a.rule)).toEqual(['needless-trim']);
    expect(auditDesign(design).map((f) => f.rule)).toContain('missing-tie');
    expect(repairFindings(designOf(parts), () => false)).toMatchObject({ operations: [], applied: [], refused: [] });
  });

  test('whatever is picked, its operations give the repaired program again', () => {
    fc.assert(
      fc.property(anyProgramWithin(30), fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }), (program, picks) => {
        const start = designOf(program);
        const order = new Map(auditDesign(start).map((f, k) => [f.key, picks[k % picks.length]!]));
        const { design, operations } = repairFindings(start, (f) => order.get(f.key) ?? false);
        const again = operations.reduce((current, operation) => applied(current, operation), start);
        expect(isSameProgram(again.program, design.program)).toBe(true);
        expect(isSameProgram(assemble(start.plan).program, program)).toBe(true);
      }),
      runs(80, 7),
    );
  });
});
