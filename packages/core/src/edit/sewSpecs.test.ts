import { describe, expect, test } from '@jest/globals';
import { generateContour } from '../generate/line/contour.ts';
import { generateFill } from '../generate/fill/fill.ts';
import { generateRun } from '../generate/line/run.ts';
import { generateSatin } from '../generate/column/satin.ts';
import { generateTatamiUnderlay } from '../generate/underlay.ts';
import type { Design } from '../model/design.ts';
import { isSameProgram, type Program, STITCH, TRIM } from '../model/program.ts';
import type { ObjectSpec } from '../model/objectSpec.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { assemble, placeOf } from '../plan/assemble.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { recognizeProgram } from '../recognize/recognizeProgram.ts';
import { applied, coversOf, designOfPaths, fourObjects, sewnAnew, specFor } from '../testing/designs.ts';
import { extendHistory, type JournalEntry, replayJournal, startHistory } from './journal.ts';
import { sewSpecs } from './sewSpecs.ts';

const design = fourObjects();
const [fill, satin, line, brick] = coversOf(design) as [StitchObject, StitchObject, StitchObject, StitchObject];
const specOf = (object: StitchObject, change: Partial<ObjectSpec> = {}): ObjectSpec => specFor(design, object.id, change);

const rowsOf = ({ x, y, command }: Program, from: number, to: number) =>
  Array.from({ length: to - from }, (_, k) => [command[from + k], x[from + k], y[from + k]]);
const lastRows = (program: Program, count: number) => rowsOf(program, program.rowCount - count, program.rowCount);

describe('an object sewn anew', () => {
  test('changes what it is sewn like and nothing before or after it, to the last decimal', () => {
    const next = sewnAnew(design, satin.id, { spacing: 0.6, underlay: [{ kind: 'edge-run' }] });
    const { first } = placeOf(design.plan, satin.id);
    expect(rowsOf(next.program, 0, first)).toEqual(rowsOf(design.program, 0, first));
    const after = design.program.rowCount - placeOf(design.plan, line.id).first;
    expect(lastRows(next.program, after)).toEqual(lastRows(design.program, after));
    expect(coversOf(next)[1]).toMatchObject({ id: satin.id, kind: 'satin', spacing: 0.6, confidence: 1, underlay: [{ kind: 'edge-run' }] });
    // What the stitches themselves say agrees.
    const bare = recognizeProgram(next.program).objects.filter((o) => o.role === 'cover' && o.kind === 'satin')[0]!;
    expect(Math.abs(bare.spacing! / 0.6 - 1)).toBeLessThan(0.03);
  });

  test('is as wide as its throws, whatever its edges are made of, and wider by what is added', () => {
    // A ring-shaped bend whose outer edge has many more points than its inner one.
    const arc = (radius: number, points: number): number[][] =>
      Array.from({ length: points }, (_, k) => [radius, (Math.PI * k) / (points - 1)]).map(([r, at]) => [
        r! * Math.cos(at!),
        r! * Math.sin(at!),
      ]);
    const bend = (inner: number, outer: number): Design =>
      designOfPaths(
        generateSatin(Float64Array.from(arc(9, inner).flat()), Float64Array.from(arc(14.43, outer).flat()), {
          spacing: 0.4,
          pull: 0,
          splitLength: 7,
        }),
      );
    for (const [inner, outer] of [
      [40, 40],
      [24, 120],
    ] as const) {
      const round = bend(inner, outer);
      const [column] = coversOf(round) as [StitchObject];
      const widthOf = (change: Partial<ObjectSpec>): number => coversOf(sewnAnew(round, column.id, change))[0]!.width!.mean;
      expect(Math.abs(column.width!.mean - 5.43)).toBeLessThan(0.04);
      expect(Math.abs(widthOf({ spacing: 0.5 }) - 5.43)).toBeLessThan(0.06);
      expect(widthOf({ pull: 0.2 }) - widthOf({ spacing: 0.5 })).toBeCloseTo(0.4, 2);
    }
  });

  test('keeps where the needle comes in and goes out, with locks only where the thread starts or is cut', () => {
    const next = sewnAnew(design, fill.id, { angle: 100, spacing: 0.5 });
    const { link, first, end } = placeOf(next.plan, fill.id);
    const { x, y, command } = next.program;
    const tiesIn = (a: number, b: number): number =>
      objectsOf(next.plan).objects.filter((o) => o.role === 'tie' && o.first >= a && o.last < b).length;
    expect([tiesIn(link, first), tiesIn(first, end)]).toEqual([1, 0]);
    // From its last penetration one stitch carries over to the satin.
    expect(command[end]).toBe(STITCH);
    expect(Math.hypot(x[end]! - x[end - 1]!, y[end]! - y[end - 1]!)).toBeLessThan(3);
    for (let i = first; i < end; i++) expect(command[i]).not.toBe(TRIM);
    // The satin is sewn into: its thread ends, but does not start there.
    const alone = sewnAnew(design, satin.id, {});
    const place = placeOf(alone.plan, satin.id);
    const ties = objectsOf(alone.plan).objects.filter((o) => o.role === 'tie');
    expect(ties.some((o) => o.last >= place.link && o.first < place.first)).toBe(false);
    expect(ties.some((o) => o.first === place.end)).toBe(true);
  });

  test('walks inside to where the next object is sewn on from, if it ends elsewhere now', () => {
    const edged = sewnAnew(design, fill.id, { kind: 'edge-stitch', spacing: 3, width: 3 });
    const walk = objectsOf(edged.plan).objects.find(
      (o) => o.role === 'travel' && o.parent === fill.id && o.first >= placeOf(edged.plan, satin.id).link,
    )!;
    const { x, y, command } = edged.program;
    for (let i = walk.first; i <= walk.last; i++) {
      expect(command[i]).toBe(STITCH);
      for (const at of [x[i]!, y[i]!]) expect(Math.abs(at - 12)).toBeLessThan(12.31);
    }
    expect([x[walk.last], y[walk.last]]).toEqual([fill.exit.x, fill.exit.y]);
  });

  test('leaves underlay that was sewn before another object where it is, and sews it no second time', () => {
    const square = Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20);
    const early = designOfPaths(
      generateTatamiUnderlay([square], 30)[0]!,
      generateSatin(Float64Array.of(40, 0, 40, 20), Float64Array.of(44, 0, 44, 20), { spacing: 0.4, pull: 0, splitLength: 7 }),
      generateFill([square], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 })[0]!,
    );
    const cover = coversOf(early).find((o) => o.kind === 'fill')!;
    expect(cover.underlay.map((layer) => layer.kind)).toEqual(['tatami']);
    const spec = specFor(early, cover.id);
    const { operations, done } = sewSpecs(early, [
      { object: cover.id, spec: { ...spec, underlay: [...spec.underlay, { kind: 'edge-run' }] } },
    ]);
    const next = applied(early, { id: 'sequence', operations: [...operations] });
    expect(done[0]!.notes.join()).toContain('underlay sewn before other objects stay');
    expect(next.plan.objects[cover.id]!.sewn.parts.flatMap((p) => p.layer ?? [])).toEqual(['edge-run']);
    const last = cover.underlay[0]!.last;
    expect(rowsOf(next.program, 0, last)).toEqual(rowsOf(early.program, 0, last));
  });

  test('can be undone, replayed from its journal, done again on what was made, and given its own stitches back', () => {
    const entries: JournalEntry[] = [];
    let history = startHistory(design);
    const ids = [fill.id, satin.id, line.id];
    const perform = (change: Partial<ObjectSpec> | null, which: number): void => {
      const spec = change === null ? null : { ...specOf([fill, satin, line][which]!), ...change };
      const { operations } = sewSpecs(history.design, [{ object: ids[which]!, spec }]);
      const entry: JournalEntry = {
        id: crypto.randomUUID(),
        kind: 'do',
        name: 'step',
        operation: { id: 'sequence', operations: [...operations] },
      };
      const next = extendHistory(history, entry);
      if (!next.ok) throw new Error(next.error);
      entries.push(entry);
      history = next.value;
    };
    perform({ kind: 'contour', spacing: 1.5, stitchLength: 2.5, underlay: [] }, 0);
    perform({ kind: 'run', stitchLength: 2, underlay: [] }, 1);
    perform({ spacing: 0.35, underlay: [{ kind: 'center-run' }] }, 1);
    perform({ kind: 'satin', width: 2.5, underlay: [{ kind: 'center-run' }] }, 2);
    expect(coversOf(history.design).map((o) => o.pattern ?? o.kind)).toEqual(['contour', 'satin', 'satin', 'satin']);
    const replayed = replayJournal(startHistory(design), JSON.parse(JSON.stringify(entries)) as JournalEntry[]);
    if (!replayed.ok) throw new Error(replayed.error);
    expect(isSameProgram(replayed.value.design.program, history.design.program)).toBe(true);
    expect(objectsOf(replayed.value.design.plan)).toEqual(objectsOf(history.design.plan));
    for (const which of [1, 0, 2]) perform(null, which);
    expect(isSameProgram(history.design.program, design.program)).toBe(true);
    expect(coversOf(history.design)).toEqual(coversOf(design));
    for (let k = 0; k < 7; k++) {
      const back = extendHistory(history, { id: crypto.randomUUID(), kind: 'undo' });
      if (!back.ok) throw new Error(back.error);
      history = back.value;
    }
    expect(history.design).toBe(design);
  });

  test('several at once are one step; what was changed singly since is said when it gives way', () => {
    const edits = coversOf(design).map((o) => ({ object: o.id, spec: specOf(o) }));
    const { operations, done } = sewSpecs(design, edits);
    expect(done).toHaveLength(4);
    const next = applied(design, { id: 'sequence', operations: [...operations] });
    const { first } = placeOf(next.plan, satin.id);
    const { x, y } = next.program;
    const removed = [{ command: 'stitch' as const, x: x[first]!, y: y[first]! }];
    const without = applied(next, {
      id: 'edit-rows',
      edits: [{ object: satin.id, part: 'rows', patches: [{ at: 0, removed, inserted: [] }] }],
    });
    expect(placeOf(without.plan, line.id).first).toBe(placeOf(next.plan, line.id).first - 1);
    expect(coversOf(without)[1]).toMatchObject({ edited: 1, made: { spec: { kind: 'satin' } } });
    const again = sewSpecs(without, [{ object: satin.id, spec: specOf(satin, { spacing: 0.5 }) }]);
    expect(again.done[0]!.notes.join()).toContain('1 stitch changed by hand or by repairs gave way');
  });

  test('is refused with the reason for what has no spec, and for shapes that cannot be sewn so', () => {
    const tie = objectsOf(design.plan).objects.find((o) => o.role === 'tie')!;
    const { operations, refused } = sewSpecs(design, [
      { object: tie.id, spec: specOf(fill) },
      { object: 'o999', spec: specOf(fill) },
      { object: line.id, spec: specOf(line, { kind: 'fill' }) },
      { object: fill.id, spec: specOf(fill, { kind: 'satin' }) },
      { object: brick.id, spec: null },
    ]);
    expect(operations).toEqual([]);
    expect(refused.map((r) => r.why)).toEqual([
      expect.stringMatching(/is no cover/),
      expect.stringMatching(/no object o999/),
      expect.stringMatching(/encloses nothing/),
      expect.stringMatching(/12 mm|as wide as/),
      expect.stringMatching(/own stitches already/),
    ]);
  });
});

describe('what was made', () => {
  const SQUARE = Float64Array.of(0, 0, 24, 0, 24, 20, 0, 20);
  const whole = (): Design =>
    designOfPaths(
      generateFill([SQUARE], { angle: 40, spacing: 0.4, stitchLength: 4, offset: 0.25 })[0]!,
      generateFill([SQUARE.map((v, k) => (k % 2 === 0 ? v + 24.3 : v))], { angle: 110, spacing: 0.4, stitchLength: 4, offset: 0.25 })[0]!,
      generateRun(Float64Array.of(0, 30, 40, 34), { stitchLength: 2.5 }),
    );
  const first = (of: Design): string => coversOf(of)[0]!.id;

  test('is known for what it is, exactly, and what lies beside it is what it was', () => {
    const before = coversOf(whole());
    const after = coversOf(
      sewnAnew(whole(), first(whole()), { spacing: 0.55, underlay: [{ kind: 'tatami', spacing: 3 }, { kind: 'edge-run' }] }),
    );
    expect(after).toHaveLength(before.length);
    expect(after[0]).toMatchObject({
      ...{ kind: 'fill', spacing: 0.55, confidence: 1 },
      underlay: [{ kind: 'tatami', spacing: 3 }, { kind: 'edge-run' }],
    });
    expect(after.slice(1).map(({ id, kind, stitches }) => [id, kind, stitches])).toEqual(
      before.slice(1).map(({ id, kind, stitches }) => [id, kind, stitches]),
    );
  });

  test('does not drift: sewn a second time with another pitch and back it is what it was', () => {
    const once = sewnAnew(whole(), first(whole()), { spacing: 0.5, pull: 0.3 });
    const back = sewnAnew(sewnAnew(once, first(once), { spacing: 0.9 }), first(once), { spacing: 0.5 });
    expect(isSameProgram(back.program, once.program)).toBe(true);
  });

  test('owns each of its rows once, whatever it was made', () => {
    for (const change of [
      { kind: 'contour' as const, spacing: 1.5, stitchLength: 2.5, underlay: [] },
      { kind: 'meander' as const, spacing: 1.5, stitchLength: 2.5, underlay: [] },
      { kind: 'run' as const, passes: 2, underlay: [] },
      { kind: 'edge-stitch' as const, spacing: 2.5, width: 2, underlay: [] },
      { underlay: [{ kind: 'edge-run' as const }, { kind: 'zigzag' as const, spacing: 2 }], tie: 'triangle' as const },
    ]) {
      const next = sewnAnew(whole(), first(whole()), change);
      const { ownerOfRow } = objectsOf(next.plan);
      const { first: from, end } = placeOf(next.plan, first(whole()));
      let free = 0;
      for (let i = from; i < end; i++) if (next.program.command[i] === STITCH && ownerOfRow[i]! < 0) free++;
      // Where it goes over to another part the needle comes down once.
      expect(free).toBeLessThanOrEqual(2);
      const cover = coversOf(next)[0]!;
      expect(cover.pattern ?? cover.kind).toBe('kind' in change ? change.kind : 'fill');
      expect(cover.underlay.map((l) => l.kind)).toEqual(change.underlay.map((l) => l.kind));
      expect(assemble(next.plan).places).toHaveLength(3);
    }
  });

  test('a line that fills an area of a file is sewn with another spacing', () => {
    const lines = designOfPaths(...generateContour([SQUARE], { spacing: 1.5, stitchLength: 2.5 }));
    const [object] = coversOf(lines);
    expect(['contour', 'meander']).toContain(object!.pattern);
    expect(coversOf(sewnAnew(lines, object!.id, { spacing: 2.5 }))[0]!.stitches).toBeLessThan(0.75 * object!.stitches);
  });
});
