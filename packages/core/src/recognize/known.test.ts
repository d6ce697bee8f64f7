import { describe, expect, test } from '@jest/globals';
import { applyOperation } from '../edit/operation.ts';
import { rebuildObjects } from '../edit/rebuildObjects.ts';
import { generateEdgeStitch } from '../generate/line/edgeStitch.ts';
import { generateContour } from '../generate/line/contour.ts';
import { generateFill } from '../generate/fill/fill.ts';
import { generateRun } from '../generate/line/run.ts';
import { generateSatin } from '../generate/column/satin.ts';
import { defaultTarget } from '../materials/shop.ts';
import { type Design, startDesign } from '../model/design.ts';
import type { ObjectSpec } from '../model/objectSpec.ts';
import { JUMP, ProgramBuilder, STITCH, TRIM } from '../model/program.ts';
import { recognizeProgram } from './recognizeProgram.ts';
import { shapeOf, specOf } from './read/specOf.ts';

const SQUARE = Float64Array.of(0, 0, 24, 0, 24, 20, 0, 20);

function design(...paths: readonly Float64Array[]): Design {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const path of paths) {
    builder.trim().jump(path[0]!, path[1]!);
    for (let k = 0; k < path.length; k += 2) builder.stitch(Math.round(path[k]! * 1000) / 1000, Math.round(path[k + 1]! * 1000) / 1000);
  }
  return startDesign(builder.trim().end().build(), defaultTarget());
}

const coversOf = (of: Design) => recognizeProgram(of.program, { rebuilt: of.rebuilt }).objects.filter((o) => o.role === 'cover');

function rebuild(from: Design, at: number, change: Partial<ObjectSpec>): Design {
  const recognition = recognizeProgram(from.program, { rebuilt: from.rebuilt });
  const object = recognition.objects.filter((o) => o.role === 'cover')[at]!;
  const spec = specOf(from.program, object);
  if (!spec.ok) throw new Error(spec.error);
  const { operations, refused } = rebuildObjects(from, recognition, [{ object: object.id, spec: { ...spec.value, ...change } }]);
  expect(refused).toEqual([]);
  const next = applyOperation(from, { id: 'sequence', operations: [...operations] });
  if (!next.ok) throw new Error(next.error);
  return next.value;
}

describe('what lies under a rebuilt column', () => {
  test('is told by where it lies across the column, though nobody looks at its throws any more', () => {
    const column = [Float64Array.of(0, 4, 30, 4), Float64Array.of(0, 0, 30, 0)] as const;
    const satin = generateSatin(...column, { spacing: 0.4, pull: 0, splitLength: 12 });
    const rebuilt = rebuild(design(satin), 0, { spacing: 0.6 });
    const runs = {
      'center-run': generateRun(Float64Array.of(1, 2, 29, 2), { stitchLength: 2.5 }),
      'edge-run': generateRun(Float64Array.of(1, 3.6, 29, 3.6, 29, 0.4, 1, 0.4), { stitchLength: 2.5 }),
    };
    for (const [kind, run] of Object.entries(runs)) {
      // The run is sewn before, in the same thread: the rebuilt column's rows come after it.
      const before = design(run);
      const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
      for (const { program } of [before, rebuilt])
        for (let i = 0; i < program.rowCount; i++) {
          if (program.command[i] === STITCH) builder.stitch(program.x[i]!, program.y[i]!);
          else if (program.command[i] === TRIM) builder.trim();
          else if (program.command[i] === JUMP) builder.jump(program.x[i]!, program.y[i]!);
        }
      // Of the run's program its color and end rows are gone, of the column's its color row.
      const shift = before.program.rowCount - 2;
      const moved = rebuilt.rebuilt.map((object) => ({
        ...object,
        first: object.first + shift,
        last: object.last + shift,
        parts: object.parts.map((part) => ({ ...part, first: part.first + shift, last: part.last + shift })),
      }));
      const { objects } = recognizeProgram(builder.end().build(), { rebuilt: moved });
      expect(objects.find((o) => o.kind === 'satin')!.underlay.map((layer) => layer.kind)).toEqual([kind]);
    }
  });
});

describe('specs as recognized', () => {
  test('say what a fill, a satin and a run were made with', () => {
    const drawn = design(
      generateFill([SQUARE], { angle: 40, spacing: 0.5, stitchLength: 3.5, offset: 0.25, rowEnds: 'square' })[0]!,
      generateSatin(Float64Array.of(0, 36, 30, 36), Float64Array.of(0, 27, 30, 27), { spacing: 0.4, pull: 0, splitLength: 12 }),
      generateRun(Float64Array.of(0, 45, 30, 45), { stitchLength: 2.2 }),
    );
    const [fill, satin, run] = coversOf(drawn);
    const { program } = drawn;
    const specs = [fill!, satin!, run!].map((o) => specOf(program, o));
    expect(specs[0]).toMatchObject({ ok: true, value: { kind: 'fill', underlay: [] } });
    const of = specs.map((s) => (s.ok ? s.value : undefined));
    expect(of[0]!.spacing).toBeCloseTo(0.5, 2);
    expect(of[0]!.angle).toBeCloseTo(40, 0);
    expect(of[0]!.stitchLength).toBeCloseTo(3.5, 1);
    expect(of[1]!.spacing).toBeCloseTo(0.4, 2);
    expect(of[1]!.width).toBeCloseTo(9, 0);
  });

  test('split throws are told by the longest of them; an edge stitch by its prongs, whichever side they are on', () => {
    const wide = design(
      generateSatin(Float64Array.of(0, 9, 30, 9), Float64Array.of(0, 0, 30, 0), { spacing: 0.4, pull: 0, splitLength: 12 }),
    );
    const spec = specOf(wide.program, coversOf(wide)[0]!);
    expect(spec.ok && spec.value.splitLength).toBeGreaterThan(8.9);
    for (const prong of [3, -3]) {
      const line = Float64Array.of(0, 0, 30, 0, 30, 24);
      const edge = design(generateEdgeStitch(line, { spacing: 2, prong }));
      const object = coversOf(edge).find((o) => o.pattern === 'edge-stitch')!;
      const read = specOf(edge.program, object);
      if (!read.ok) throw new Error(read.error);
      expect(read.value.kind).toBe('edge-stitch');
      expect(read.value.width).toBeCloseTo(3, 0);
      expect(read.value.spacing).toBeCloseTo(2, 0);
      const shape = shapeOf(edge.program, object);
      if (!shape.ok || shape.value.kind !== 'line') throw new Error('no line');
      // Prongs lie to the left of the line as it is read.
      expect(shape.value.path[0]! < 5 === prong > 0).toBe(true);
    }
  });
});

describe('rebuilt objects', () => {
  const whole = () =>
    design(
      generateFill([SQUARE], { angle: 40, spacing: 0.4, stitchLength: 4, offset: 0.25 })[0]!,
      generateFill([SQUARE.map((v, k) => (k % 2 === 0 ? v + 24.3 : v))], { angle: 110, spacing: 0.4, stitchLength: 4, offset: 0.25 })[0]!,
      generateRun(Float64Array.of(0, 30, 40, 34), { stitchLength: 2.5 }),
    );

  test('are known for what they are, exactly, and what lies beside them is recognized as before', () => {
    const before = coversOf(whole());
    const next = rebuild(whole(), 0, { spacing: 0.55, underlay: [{ kind: 'tatami', spacing: 3 }, { kind: 'edge-run' }] });
    const after = coversOf(next);
    expect(after).toHaveLength(before.length);
    expect(after[0]).toMatchObject({
      ...{ kind: 'fill', spacing: 0.55, confidence: 1 },
      underlay: [{ kind: 'tatami', spacing: 3 }, { kind: 'edge-run' }],
    });
    expect(after[1]).toMatchObject({ kind: 'fill', stitches: before[1]!.stitches });
    expect(after[2]).toMatchObject({ kind: 'run', stitches: before[2]!.stitches });
  });

  test('do not drift: rebuilt a second time with another pitch and back they are what they were', () => {
    const first = rebuild(whole(), 0, { spacing: 0.5, pull: 0.3 });
    const there = rebuild(first, 0, { spacing: 0.9 });
    const back = rebuild(there, 0, { spacing: 0.5 });
    expect([...back.program.x]).toEqual([...first.program.x]);
    expect([...back.program.y]).toEqual([...first.program.y]);
  });

  test('own each of their rows once, whatever they were made', () => {
    for (const change of [
      { kind: 'contour' as const, spacing: 1.5, stitchLength: 2.5, underlay: [] },
      { kind: 'meander' as const, spacing: 1.5, stitchLength: 2.5, underlay: [] },
      { kind: 'run' as const, passes: 2, underlay: [] },
      { kind: 'edge-stitch' as const, spacing: 2.5, width: 2, underlay: [] },
      { underlay: [{ kind: 'edge-run' as const }, { kind: 'zigzag' as const, spacing: 2 }], tie: 'triangle' as const },
    ]) {
      const next = rebuild(whole(), 0, change);
      const { objects, ownerOfRow } = recognizeProgram(next.program, { rebuilt: next.rebuilt });
      const [record] = next.rebuilt;
      let owned = 0;
      for (let i = record!.first; i <= record!.last; i++) {
        if (next.program.command[i] !== STITCH) continue;
        if (ownerOfRow[i]! >= 0) owned++;
      }
      const stitches = next.program.command
        .slice(record!.first, record!.last + 1)
        .reduce((sum, command) => sum + (command === STITCH ? 1 : 0), 0);
      // The first penetration of a thread lays none.
      expect(stitches - owned).toBeLessThanOrEqual(4);
      const cover = objects.find((o) => o.rebuilt !== undefined)!;
      expect(cover.pattern ?? cover.kind).toBe('kind' in change ? change.kind : 'fill');
      expect(cover.underlay.map((l) => l.kind)).toEqual(change.underlay.map((l) => l.kind));
    }
  });

  test('a line that fills an area of a file is rebuilt with another spacing', () => {
    const lines = generateContour([SQUARE], { spacing: 1.5, stitchLength: 2.5 });
    const [object] = coversOf(design(...lines));
    expect(['contour', 'meander']).toContain(object!.pattern);
    const wider = rebuild(design(...lines), 0, { spacing: 2.5 });
    expect(coversOf(wider)[0]!.stitches).toBeLessThan(0.75 * object!.stitches);
  });
});
