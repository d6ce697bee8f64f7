import { describe, expect, test } from '@jest/globals';
import { AuditContext } from '../../audit/AuditContext.ts';
import { auditDesign } from '../../audit/auditDesign.ts';
import { defaultTarget } from '../../materials/shop.ts';
import type { Design } from '../../model/design.ts';
import { replaceRows } from '../../model/patch.ts';
import { isSameProgram, STITCH } from '../../model/program.ts';
import { placeOf } from '../../plan/assemble.ts';
import { coversOf, fourObjects, specFor } from '../../testing/designs.ts';
import { baseFromJson, baseToJson, makeBase } from '../jobBase.ts';
import { sewSpecs } from '../sewSpecs.ts';
import { RowEntry } from './rowEntry.ts';

const target = defaultTarget();
const start = fourObjects();
const { program } = start;
const [fill, satin, line] = coversOf(start);

let count = 0;
const entry = (name: string, operation: unknown): RowEntry =>
  RowEntry.parse({ id: `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`, kind: 'do', name, operation });
const back = (kind: 'undo' | 'redo'): RowEntry => RowEntry.parse({ id: crypto.randomUUID(), kind });

/** The middle stitch of an object merged away, as an edit of rows. */
function without(first: number, last: number): unknown {
  const at = (first + last) >> 1;
  return { id: 'replace-rows', patches: [replaceRows(program, at, 1, [])] };
}

describe('a job from before objects lasted', () => {
  const spec = specFor(start, satin!.id, { spacing: 0.41 });
  const entries = [
    entry('merge', without(fill!.first, fill!.last)),
    entry('a second thought', { id: 'set-target', target: { ...target, quantity: 9 } }),
    back('undo'),
    entry('told', { id: 'decide-objects', decisions: [{ kind: 'tell', row: line!.last - 2, as: 'run', role: 'travel' }] }),
    entry('sewn', {
      id: 'set-rebuilt',
      key: 'rows',
      // Notes about objects had more fields than are needed now.
      object: {
        ...{ key: 'rows', first: satin!.first - 1, last: satin!.last - 1, parts: [], own: [] },
        ...{ spec, shape: { kind: 'column', left: [25, 13.5, 45, 13.5], right: [25, 10.5, 45, 10.5] } },
      },
    }),
    entry('kept', { id: 'keep-finding', key: 'too-dense #1f4e5f 1.0 2.0', rule: 'too-dense', title: 'dense', reason: 'sewed well' }),
  ];
  const base = makeBase(program, target, entries);
  if (!base.ok) throw new Error(base.error);
  const { design, steps, version } = base.value;

  test('opens at its last state: the same rows, told as they were told, with the specs that they were sewn from', () => {
    expect(version).toBe(6);
    expect(steps).toEqual([{ name: 'merge' }, { name: 'told' }, { name: 'sewn' }, { name: 'kept', reason: 'sewed well' }]);
    expect(design.target.quantity).toBe(target.quantity);
    expect(design.program.rowCount).toBe(program.rowCount - 1);
    expect(coversOf(design).map((o) => o.kind)).toEqual(['fill', 'satin', 'satin']);
    expect(coversOf(design)[1]!.made!.spec.spacing).toBe(0.41);
    const told = Object.values(design.plan.objects).find((o) => o.sewn.reading.role === 'travel');
    expect(told!.sewn.reading.confidence).toBe(1);
  });

  test('is worked on from there like any other, and comes back from what is stored of it', () => {
    const again = baseFromJson(baseToJson(base.value), program);
    expect(isSameProgram(again.design.program, design.program)).toBe(true);
    expect(again).toMatchObject({ version, steps, recognizer: base.value.recognizer });
    const id = coversOf(again.design)[0]!.id;
    const { done } = sewSpecs(again.design, [{ object: id, spec: specFor(again.design, id) }]);
    expect(done).toHaveLength(1);
    const { first, end } = placeOf(again.design.plan, id);
    expect(again.design.program.command.slice(first, end).every((c) => c === STITCH)).toBe(true);
  });

  test('keeps what was kept at the places that there are now', () => {
    const dense = { ...target, fabric: { ...target.fabric, maxCover: 0.9 } };
    const open = makeBase(program, dense, []);
    const kept = makeBase(program, dense, [entries[5]!]);
    if (!open.ok || !kept.ok) throw new Error('no base');
    const threadsOf = ({ design: found }: { design: Design }): Set<string> => {
      const context = new AuditContext(found);
      return new Set(
        auditDesign(found, context).flatMap((f) => (f.rule === 'too-dense' ? f.rows.map((row) => context.threadAt(row).color) : [])),
      );
    };
    expect(threadsOf(open.value)).toContain('#1f4e5f');
    expect(threadsOf(kept.value)).not.toContain('#1f4e5f');
  });

  test('whose journal does not replay says at which step', () => {
    expect(makeBase(program, target, [back('redo')])).toEqual({ ok: false, error: 'step 1: there is no step to do again' });
    expect(
      makeBase(program, target, [
        entry('wrong', { id: 'replace-rows', patches: [{ at: 3, removed: [{ command: 'trim' }], inserted: [] }] }),
      ]),
    ).toMatchObject({
      ok: false,
      error: expect.stringContaining('row 3'),
    });
  });
});
