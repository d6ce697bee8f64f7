import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../generate/fill/fill.ts';
import { generateRun } from '../generate/line/run.ts';
import { generateSatin } from '../generate/column/satin.ts';
import { generateLock } from '../generate/line/tie.ts';
import { generateCenterRun, generateEdgeRun, generateTatamiUnderlay } from '../generate/underlay.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget, THREADS } from '../materials/shop.ts';
import { bandsOf, usualUnderlay } from '../materials/specBands.ts';
import { asKind, suggestSpec } from '../materials/suggestSpec.ts';
import { type Design, startDesign } from '../model/design.ts';
import { isSameProgram, type Program, ProgramBuilder, STITCH, TRIM } from '../model/program.ts';
import type { ObjectSpec } from '../model/objectSpec.ts';
import { type Recognition, recognizeProgram } from '../recognize/recognizeProgram.ts';
import { specOf } from '../recognize/read/specOf.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { startHistory, extendHistory, replayJournal, type JournalEntry } from './journal.ts';
import { applyOperation, invertOperation } from './operation.ts';
import { rebuildObjects } from './rebuildObjects.ts';

const thousandth = (v: number): number => Math.round(v * 1000) / 1000;

/** A fill on its underlay, a satin that it carries over to, a run after a cut: one thread, then a satin of another. */
function file(): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  let [x, y] = [0, 0];
  const sew = (path: ArrayLike<number>): void => {
    for (let k = 0; k < path.length; k += 2) {
      [x, y] = [thousandth(path[k]!), thousandth(path[k + 1]!)];
      builder.stitch(x, y);
    }
  };
  const start = (path: ArrayLike<number>): void => {
    builder.jump(thousandth(path[0]!), thousandth(path[1]!)).stitch(thousandth(path[0]!), thousandth(path[1]!));
    sew(generateLock(path[0]!, path[1]!, path[2]!, path[3]!));
    sew(Float64Array.from(path).subarray(2));
  };
  const cut = (): void => {
    sew(generateLock(x, y, x - 1, y));
    builder.trim();
  };
  const square = Float64Array.of(0, 0, 24, 0, 24, 24, 0, 24);
  start(generateTatamiUnderlay([square], 30)[0]!);
  sew(generateEdgeRun([square])[0]!);
  sew(generateFill([square], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 }, { from: { x, y }, to: { x: 24, y: 12 } })[0]!);
  const [left, right] = [Float64Array.of(25, 13.5, 45, 13.5), Float64Array.of(25, 10.5, 45, 10.5)];
  sew(generateCenterRun(left, right));
  sew(generateSatin(left, right, { spacing: 0.4, pull: 0, splitLength: 7 }));
  cut();
  start(generateRun(Float64Array.of(0, 40, 20, 44, 40, 40), { stitchLength: 2.5 }));
  cut();
  builder.color('#b8552f', 'Brick');
  start(generateSatin(Float64Array.of(0, 54, 20, 54), Float64Array.of(0, 50, 20, 50), { spacing: 0.4, pull: 0, splitLength: 7 }));
  cut();
  return builder.end().build();
}

const design = startDesign(file(), defaultTarget());
const recognition = recognizeProgram(design.program);
const [fill, satin, line] = recognition.objects.filter((o) => o.role === 'cover') as [StitchObject, StitchObject, StitchObject];

function specFor(object: StitchObject, change: Partial<ObjectSpec> = {}): ObjectSpec {
  const spec = specOf(design.program, object);
  if (!spec.ok) throw new Error(spec.error);
  return { ...spec.value, ...change };
}

function rebuilt(from: Design, known: Recognition, object: StitchObject, change: Partial<ObjectSpec>): Design {
  const { operations, refused } = rebuildObjects(from, known, [{ object: object.id, spec: specFor(object, change) }]);
  expect(refused).toEqual([]);
  const next = applyOperation(from, { id: 'sequence', operations: [...operations] });
  if (!next.ok) throw new Error(next.error);
  return next.value;
}

const rowsOf = ({ x, y, command }: Program, from: number, to: number) =>
  Array.from({ length: to - from }, (_, k) => [command[from + k], x[from + k], y[from + k]]);

describe('rebuilding an object', () => {
  test('changes what it is sewn like and nothing before or after it, to the last decimal', () => {
    const next = rebuilt(design, recognition, satin, { spacing: 0.6, underlay: [{ kind: 'edge-run' }] });
    const record = next.rebuilt[0]!;
    expect(rowsOf(next.program, 0, record.first)).toEqual(rowsOf(design.program, 0, record.first));
    const tail = design.program.rowCount - record.first - record.own.length;
    expect(rowsOf(next.program, next.program.rowCount - tail, next.program.rowCount)).toEqual(
      rowsOf(design.program, design.program.rowCount - tail, design.program.rowCount),
    );
    const [, again] = recognizeProgram(next.program, { rebuilt: next.rebuilt }).objects.filter((o) => o.role === 'cover');
    expect(again).toMatchObject({ kind: 'satin', spacing: 0.6, confidence: 1, underlay: [{ kind: 'edge-run' }] });
    // What the stitches themselves say agrees.
    const bare = recognizeProgram(next.program).objects.filter((o) => o.role === 'cover' && o.kind === 'satin')[0]!;
    expect(Math.abs(bare.spacing! / 0.6 - 1)).toBeLessThan(0.03);
  });

  test('keeps where the needle comes in and goes out, with locks only where the thread starts or is cut', () => {
    const next = rebuilt(design, recognition, fill, { angle: 100, spacing: 0.5 });
    const record = next.rebuilt[0]!;
    const ties = record.parts.filter((p) => p.role === 'tie');
    expect(ties).toHaveLength(1);
    expect(ties[0]!.first).toBeLessThan(record.first + 4);
    const { x, y, command } = next.program;
    // From its last penetration one stitch carries over to the satin.
    expect(command[record.last + 1]).toBe(STITCH);
    expect(Math.hypot(x[record.last + 1]! - x[record.last]!, y[record.last + 1]! - y[record.last]!)).toBeLessThan(3);
    for (let i = record.first; i <= record.last; i++) expect(command[i]).not.toBe(TRIM);
    const satinAlone = rebuilt(design, recognition, satin, {}).rebuilt[0]!;
    expect(satinAlone.parts.filter((p) => p.role === 'tie')).toHaveLength(1);
    expect(satinAlone.parts[satinAlone.parts.length - 1]!.role).toBe('tie');
  });

  test('walks inside to where the next object is sewn on from, if it ends elsewhere now', () => {
    const edged = rebuilt(design, recognition, fill, { kind: 'edge-stitch', spacing: 3, width: 3 });
    const record = edged.rebuilt[0]!;
    const walk = record.parts[record.parts.length - 1]!;
    expect(walk.role).toBe('travel');
    for (let i = walk.first; i <= walk.last; i++) {
      expect(edged.program.command[i]).toBe(STITCH);
      for (const at of [edged.program.x[i]!, edged.program.y[i]!]) expect(Math.abs(at - 12)).toBeLessThan(12.31);
    }
    expect([edged.program.x[walk.last], edged.program.y[walk.last]]).toEqual([fill.exit.x, fill.exit.y]);
  });

  test('leaves underlay that was sewn before another object where it is, and sews it no second time', () => {
    const square = Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20);
    const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
    const sew = (path: Float64Array): void => {
      builder.jump(thousandth(path[0]!), thousandth(path[1]!));
      for (let k = 0; k < path.length; k += 2) builder.stitch(thousandth(path[k]!), thousandth(path[k + 1]!));
      builder.trim();
    };
    sew(generateTatamiUnderlay([square], 30)[0]!);
    sew(generateSatin(Float64Array.of(40, 0, 40, 20), Float64Array.of(44, 0, 44, 20), { spacing: 0.4, pull: 0, splitLength: 7 }));
    sew(generateFill([square], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 })[0]!);
    const early = startDesign(builder.end().build(), defaultTarget());
    const known = recognizeProgram(early.program);
    const cover = known.objects.find((o) => o.role === 'cover' && o.kind === 'fill')!;
    expect(cover.underlay.map((layer) => layer.kind)).toEqual(['tatami']);
    const spec = specOf(early.program, cover);
    if (!spec.ok) throw new Error(spec.error);
    const underlay = [...spec.value.underlay, { kind: 'edge-run' as const }];
    const { operations, done } = rebuildObjects(early, known, [{ object: cover.id, spec: { ...spec.value, underlay } }]);
    const next = applyOperation(early, { id: 'sequence', operations: [...operations] });
    if (!next.ok) throw new Error(next.error);
    expect(done[0]!.notes.join()).toContain('underlay sewn before other objects stay');
    const [record] = next.value.rebuilt;
    expect(record!.parts.flatMap((p) => p.layer ?? [])).toEqual(['edge-run']);
    expect(rowsOf(next.value.program, 0, cover.underlay[0]!.last)).toEqual(rowsOf(early.program, 0, cover.underlay[0]!.last));
  });

  test('can be undone, replayed from its journal, done again on what was rebuilt, and given its own stitches back', () => {
    const entries: JournalEntry[] = [];
    let history = startHistory(design);
    const perform = (change: Partial<ObjectSpec> | null, which: number): void => {
      const known = recognizeProgram(history.design.program, { rebuilt: history.design.rebuilt });
      const object = known.objects.filter((o) => o.role === 'cover')[which]!;
      const spec = change === null ? null : { ...specFor([fill, satin, line][which]!), ...change };
      const { operations } = rebuildObjects(history.design, known, [{ object: object.id, spec }]);
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
    const kinds = recognizeProgram(history.design.program, { rebuilt: history.design.rebuilt }).objects.filter((o) => o.role === 'cover');
    expect(kinds.map((o) => o.pattern ?? o.kind)).toEqual(['contour', 'satin', 'satin', 'satin']);
    const replayed = replayJournal(design, entries);
    if (!replayed.ok) throw new Error(replayed.error);
    expect(isSameProgram(replayed.value.design.program, history.design.program)).toBe(true);
    expect(replayed.value.design.rebuilt).toEqual(history.design.rebuilt);
    perform(null, 1);
    perform(null, 0);
    perform(null, 2);
    expect(isSameProgram(history.design.program, design.program)).toBe(true);
    expect(history.design.rebuilt).toEqual([]);
    for (let k = 0; k < 7; k++) {
      const back = extendHistory(history, { id: crypto.randomUUID(), kind: 'undo' });
      if (!back.ok) throw new Error(back.error);
      history = back.value;
    }
    expect(isSameProgram(history.design.program, design.program)).toBe(true);
    expect(history.design.rebuilt).toEqual([]);
  });

  test('several at once are one step; an edit inside one of them moves it and can be taken back', () => {
    const edits = recognition.objects.filter((o) => o.role === 'cover').map((o) => ({ object: o.id, spec: specFor(o) }));
    const { operations, done } = rebuildObjects(design, recognition, edits);
    expect(done).toHaveLength(4);
    const next = applyOperation(design, { id: 'sequence', operations: [...operations] });
    if (!next.ok) throw new Error(next.error);
    const at = next.value.rebuilt[1]!.parts[0]!.first;
    const { x, y } = next.value.program;
    const cut = {
      id: 'replace-rows' as const,
      patches: [{ at, removed: [{ command: 'stitch' as const, x: x[at]!, y: y[at]! }], inserted: [] }],
    };
    const without = applyOperation(next.value, cut);
    if (!without.ok) throw new Error(without.error);
    expect(without.value.rebuilt[2]!.first).toBe(next.value.rebuilt[2]!.first - 1);
    const back = applyOperation(without.value, invertOperation(next.value, cut));
    if (!back.ok) throw new Error(back.error);
    expect(back.value.rebuilt).toEqual(next.value.rebuilt);
  });

  test('is refused with the reason for what has no spec, and for shapes that cannot be sewn so', () => {
    const tie = recognition.objects.find((o) => o.role === 'tie')!;
    const { operations, refused } = rebuildObjects(design, recognition, [
      { object: tie.id, spec: specFor(fill) },
      { object: 'o999', spec: specFor(fill) },
      { object: line.id, spec: specFor(line, { kind: 'fill' }) },
      { object: fill.id, spec: specFor(fill, { kind: 'satin' }) },
      { object: satin.id, spec: null },
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

describe('what a cloth wants', () => {
  const on = (id: string, threadId = 'rayon-40') => ({
    ...defaultTarget(),
    fabric: FABRICS.find((f) => f.id === id)!,
    thread: THREADS.find((t) => t.id === threadId)!,
  });

  test('pitches grow with the thread by the root of its tex (ISO 1144), as far as the cloth bears, and open fills have a band of their own', () => {
    const spec = specFor(fill);
    expect(bandsOf(spec, on('twill')).spacing!.best).toBeCloseTo(0.4, 9);
    // 12-weight thread: √(83.3 / 25) = 1.83 times.
    expect(bandsOf(spec, on('twill', 'cotton-12')).spacing!.best).toBeCloseTo(0.4 * 1.826, 2);
    expect(bandsOf(spec, on('organza')).spacing!.low).toBeGreaterThan(0.4);
    expect(bandsOf({ ...spec, spacing: 1.4 }, on('twill')).spacing).toMatchObject({ low: 1, high: 2 });
    for (const fabric of FABRICS)
      for (const band of Object.values(bandsOf(spec, on(fabric.id)))) {
        expect(band.low).toBeLessThanOrEqual(band.best);
        expect(band.best).toBeLessThanOrEqual(band.high);
      }
  });

  test('underlay goes by kind, width and cloth (common practice)', () => {
    const kinds = (spec: ObjectSpec, id: string, needs = {}): string[] => usualUnderlay(spec, on(id), needs).layers.map((l) => l.kind);
    const column = specFor(satin);
    expect(kinds(column, 'twill', { width: 1.6 })).toEqual(['center-run']);
    expect(kinds(column, 'twill', { width: 3 })).toEqual(['edge-run']);
    expect(kinds(column, 'twill', { width: 6 })).toEqual(['edge-run', 'zigzag']);
    expect(kinds(column, 'terry', { width: 3 })).toEqual(['edge-run', 'zigzag']);
    expect(kinds(specFor(fill), 'twill')).toEqual(['tatami', 'edge-run']);
    expect(kinds(specFor(fill), 'twill', { isOutlined: true })).toEqual(['tatami']);
    expect(kinds(specFor(fill, { spacing: 1.5 }), 'twill')).toEqual([]);
  });

  test('a spec is put right with a reason for each change, and one that is right is left alone', () => {
    const dense = specFor(fill, { spacing: 0.28, pull: 0, underlay: [] });
    const { spec, changes } = suggestSpec(dense, on('canvas'));
    expect(changes.map((c) => c.value).sort()).toEqual(['pull', 'spacing', 'underlay']);
    expect(changes.every((c) => c.why.length > 10)).toBe(true);
    expect(suggestSpec(spec, on('canvas')).changes).toEqual([]);
    const wide = suggestSpec(specFor(satin), on('canvas'), { width: 9 });
    expect(wide.spec.kind).toBe('fill');
    expect(asKind(specFor(fill), 'meander', on('canvas'))).toMatchObject({ kind: 'meander', spacing: 1.8, underlay: [] });
  });
});
