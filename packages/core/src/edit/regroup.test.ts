import { describe, expect, test } from '@jest/globals';
import { orderOf } from '../model/plan.ts';
import { isSameProgram } from '../model/program.ts';
import { placeOf } from '../plan/assemble.ts';
import { startDesign } from '../plan/designOf.ts';
import { defaultTarget } from '../materials/shop.ts';
import { applied, coversOf, demoFile, fourObjects, sewnAnew, specFor } from '../testing/designs.ts';
import { sewSpecs } from './sewSpecs.ts';
import { joinObjects, readAnew, splitObject, tellObject } from './regroup.ts';

const design = fourObjects();
const [fill, satin, line, brick] = orderOf(design.plan);

function made<T>(result: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: string }): T {
  if (!result.ok) throw new Error(result.error);
  return result.value;
}

describe('objects taken for others', () => {
  test('one is parted at a stitch and joined again; it keeps its name, and no stitch changes', () => {
    const { first, end } = placeOf(design.plan, satin!);
    const split = applied(design, made(splitObject(design, satin!, first + 50, 'second')));
    expect(isSameProgram(split.program, design.program)).toBe(true);
    const parts = coversOf(split).filter((o) => o.id === satin || o.id === 'second');
    expect(parts.map((o) => [o.id, o.first, o.last, o.kind, o.confidence])).toEqual([
      [satin, expect.any(Number), first + 49, 'satin', 1],
      ['second', first + 50, end - 1, 'satin', 1],
    ]);
    const whole = applied(split, made(joinObjects(split, [satin!, 'second'])));
    const again = coversOf(whole).find((o) => o.id === satin)!;
    expect(again).toMatchObject({ name: coversOf(design)[1]!.name, kind: 'satin', confidence: 1 });
    expect(again.spacing).toBeCloseTo(0.4, 2);
    expect(isSameProgram(whole.program, design.program)).toBe(true);
    // What is one again can be sewn anew as one.
    expect(coversOf(sewnAnew(whole, satin!, { spacing: 0.8 }))[1]!.stitches).toBeLessThan(0.7 * again.stitches);
  });

  test('one is told what it is: another kind of cover, or none', () => {
    const told = applied(design, made(tellObject(design, satin!, 'run', 'travel')));
    expect(told.plan.objects[satin!]!.sewn.reading).toMatchObject({ kind: 'run', role: 'travel', confidence: 1 });
    expect(coversOf(told)).toHaveLength(3);
    const filled = applied(design, made(tellObject(design, satin!, 'fill', 'cover')));
    expect(coversOf(filled)[1]).toMatchObject({ id: satin, kind: 'fill', role: 'cover' });
    expect(specFor(filled, satin!)).toMatchObject({ kind: 'fill' });
    expect(isSameProgram(told.program, design.program) && isSameProgram(filled.program, design.program)).toBe(true);
  });

  test('one that was repaired and is told otherwise can have the stitches back that the file had; one that was made is known', () => {
    const { first } = placeOf(design.plan, satin!);
    const { x, y } = design.program;
    const removed = [{ command: 'stitch' as const, x: x[first + 9]!, y: y[first + 9]! }];
    const edited = applied(design, {
      id: 'edit-rows',
      edits: [{ object: satin!, part: 'rows', patches: [{ at: 9, removed, inserted: [] }] }],
    });
    const told = applied(edited, made(tellObject(edited, satin!, 'fill', 'cover')));
    expect(isSameProgram(told.program, edited.program)).toBe(true);
    expect(coversOf(told)[1]).toMatchObject({ id: satin, kind: 'fill', hasOwn: true, edited: 1 });
    const { operations } = sewSpecs(told, [{ object: satin!, spec: null }]);
    const back = applied(told, { id: 'sequence', operations: [...operations] });
    expect(isSameProgram(back.program, design.program)).toBe(true);
    expect(coversOf(back)[1]!.hasOwn).toBeUndefined();
    const known = tellObject(sewnAnew(design, satin!, { spacing: 0.6 }), satin!, 'fill', 'cover');
    expect(known).toMatchObject({ ok: false, error: expect.stringContaining('sewn from its spec') });
  });

  test('what does not lie together, is of two threads, or is not there is refused with the reason', () => {
    const why = (result: ReturnType<typeof joinObjects>): string => (result.ok ? '' : result.error);
    expect(why(joinObjects(design, [fill!, line!]))).toMatch(/one right after the other/);
    expect(why(joinObjects(design, [line!, brick!]))).toMatch(/different threads/);
    expect(why(splitObject(design, satin!, 0, 'x'))).toMatch(/part it between them/);
    expect(why(tellObject(design, 'gone', 'fill', 'cover'))).toMatch(/no object gone/);
  });

  test('read anew a file is told as it was; what somebody told otherwise comes back, in words first', () => {
    const heron = startDesign(demoFile('heron.csv'), defaultTarget());
    expect(readAnew(heron, orderOf(heron.plan), () => 'new').changes).toEqual([]);
    const told = applied(design, made(tellObject(design, satin!, 'fill', 'cover')));
    const { operations, changes } = readAnew(told, [satin!], () => 'new');
    expect(changes).toEqual([expect.stringContaining('fill, would be told as satin')]);
    const back = applied(told, { id: 'sequence', operations: [...operations] });
    expect(coversOf(back)[1]).toMatchObject({ id: satin, kind: 'satin' });
    expect(isSameProgram(back.program, design.program)).toBe(true);
    // What was sewn from a spec is known, and not read.
    const made2 = sewnAnew(design, satin!, { spacing: 0.7 });
    expect(readAnew(made2, [satin!], () => 'new')).toEqual({ operations: [], changes: [] });
  });
});
