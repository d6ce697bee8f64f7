import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { applyPatches, type Patch, replaceRows } from '../model/patch.ts';
import { countRows, isSourceRows, orderOf, readRows } from '../model/plan.ts';
import { isSameProgram, ProgramBuilder, STITCH } from '../model/program.ts';
import { readingFromJson, ReadingJson, readingToJson } from '../model/readingJson.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { applied, demoFile, designOfPaths, fourObjects, sewnAnew } from '../testing/designs.ts';
import { defaultTarget } from '../materials/shop.ts';
import { baseFromJson, baseToJson, makeBase } from '../edit/jobBase.ts';
import { adoptProgram } from './adoptProgram.ts';
import { assemble, placeOf } from './assemble.ts';
import { movedBy } from './movedBy.ts';
import { objectsOf } from './objectsOf.ts';
import { planFromJson, planToJson } from './planJson.ts';
import { sewObject } from './sewObject.ts';
import { sliceRows } from './sliceRows.ts';
import { runs } from '../testing/runs.ts';

describe('records', () => {
  test('readings go through JSON and come back but for the last digits of their rings; what is none is refused by field', () => {
    for (const { reading, parts } of Object.values(adoptProgram(demoFile('heron.csv')).objects).map((o) => o.sewn)) {
      for (const one of [reading, ...parts]) {
        const again = readingFromJson(ReadingJson.parse(JSON.parse(JSON.stringify(readingToJson(one)))));
        expect({ ...again, outline: 0, holes: 0, rails: 0, path: 0 }).toEqual({ ...one, outline: 0, holes: 0, rails: 0, path: 0 });
        expect(again.outline.length).toBe(one.outline.length);
        again.outline.forEach((v, k) => expect(Math.abs(v - one.outline[k]!)).toBeLessThan(1e-4));
      }
    }
    const [one] = Object.values(fourObjects().plan.objects);
    const bad = { ...readingToJson(one!.sewn.reading), kind: 'ribbon' };
    const read = ReadingJson.safeParse(bad);
    expect(read.success || read.error.issues[0]!.path).toEqual(['kind']);
  });

  test('a plan is stored without its file, and refused for another file or from a later version', () => {
    const { plan } = sewnAnew(fourObjects(), orderOf(fourObjects().plan)[1]!, { spacing: 0.7 });
    const json = planToJson(plan);
    expect(planFromJson(json, plan.source)).toEqual(plan);
    expect(json.length).toBeLessThan(250_000);
    const other = new ProgramBuilder().stitch(0, 0).stitch(1, 0).end().build();
    expect(() => planFromJson(json, other)).toThrow(/does not fit a file of 3/);
    expect(() => planFromJson(json.replace('"schema":1', '"schema":99'), plan.source)).toThrow();
    const base = makeBase(plan.source, defaultTarget(), []);
    if (!base.ok) throw new Error(base.error);
    expect(() => baseFromJson(baseToJson(base.value), other)).toThrow(/does not fit/);
    expect(() => baseFromJson('{}', plan.source)).toThrow();
  });

  test('rows of an object are those of the file while nobody touched them, and rows of their own after that', () => {
    const design = fourObjects();
    const [fill] = orderOf(design.plan);
    const { rows } = design.plan.objects[fill!]!.sewn;
    expect(isSourceRows(rows)).toBe(true);
    const { first, end } = placeOf(design.plan, fill!);
    expect(countRows(rows)).toBe(end - first);
    const made = sewnAnew(design, fill!, { spacing: 0.6 });
    expect(isSourceRows(made.plan.objects[fill!]!.sewn.rows)).toBe(false);
    // A slice of what was assembled is the file's own where it stands there just so.
    expect(isSourceRows(sliceRows(design.plan, first, end))).toBe(true);
    const place = placeOf(made.plan, fill!);
    expect(isSourceRows(sliceRows(made.plan, place.first, place.end))).toBe(false);
    const slice = readRows(made.plan.source, sliceRows(made.plan, place.first, place.end));
    expect([...slice.program.x.slice(slice.first, slice.end)]).toEqual([...made.program.x.slice(place.first, place.end)]);
    expect(() => placeOf(design.plan, 'gone')).toThrow('no object gone');
  });

  test('objects that nobody moved are the same values after a step, so that nothing is worked out for them again', () => {
    const design = fourObjects();
    const [fill, , line, brick] = orderOf(design.plan);
    const renamed = applied(design, { id: 'rename-object', object: brick!, name: 'last' });
    const of = (plan: typeof design.plan, id: string): StitchObject => objectsOf(plan).objects.find((o) => o.id === id)!;
    expect(of(renamed.plan, fill!)).toBe(of(design.plan, fill!));
    expect(of(renamed.plan, brick!)).not.toBe(of(design.plan, brick!));
    const shorter = sewnAnew(design, fill!, { spacing: 0.8 });
    expect(of(shorter.plan, line!).first).toBeLessThan(of(design.plan, line!).first);
    expect(of(shorter.plan, line!).path).toBe(of(design.plan, line!).path);
  });

  test('an object of several parts is sewn with the thread cut and locked between them where they lie apart', () => {
    const ring = (x: number): number[] => [x, 0, x + 8, 0, x + 8, 8, x, 8];
    const spec = {
      ...{ kind: 'run' as const, spacing: 0.4, stitchLength: 2, angle: 0, angleLines: [], offset: 0.3, rowEnds: 'slanted' as const },
      ...{ passes: 1, pull: 0, width: 2, splitLength: 7, underlay: [], tie: 'to-and-fro' as const },
    };
    const sewn = sewObject({ kind: 'area', rings: [ring(0), ring(20)] }, spec, { x: 0, y: 0 }, { x: 28, y: 8 });
    if (!sewn.ok) throw new Error(sewn.error);
    const { rows, parts, start } = sewn.value;
    expect([start.x, start.y]).toEqual([0, 0]);
    expect([...rows.command].filter((c) => c !== STITCH)).toEqual([2, 1]);
    expect(parts.map((p) => p.role)).toEqual(['cover', 'tie', 'tie', 'cover']);
    expect(sewObject({ kind: 'line', path: [0, 0, 0, 0] }, spec, { x: 0, y: 0 }, { x: 0, y: 0 })).toMatchObject({ ok: false });
  });
});

describe('spans of rows that change', () => {
  test('go with their rows: what stays of a span is in it still, and what came in between is, too (brute force)', () => {
    const [object] = Object.values(
      designOfPaths(Float64Array.from({ length: 80 }, (_, k) => (k % 2 === 0 ? k : (k * 7) % 13))).plan.objects,
    );
    const builder = new ProgramBuilder();
    for (let k = 0; k < 40; k++) builder.stitch(k, 0);
    const program = builder.build();
    const part = fc.record({ skip: fc.nat(9), count: fc.nat(5), added: fc.nat(3) });
    fc.assert(
      fc.property(fc.array(part, { maxLength: 5 }), fc.nat(38), fc.nat(38), (parts, a, b) => {
        const patches: Patch[] = [];
        let at = 0;
        for (const { skip, count, added } of parts) {
          at += skip;
          if (at + count > 40) break;
          const inserted = Array.from({ length: added }, (_, k) => ({ command: 'stitch' as const, x: 100 + k, y: 1 }));
          if (count + added > 0) patches.push(replaceRows(program, at, count, inserted));
          at += count + 1;
        }
        const after = applyPatches(program, patches);
        if (!after.ok) throw new Error(after.error);
        const span = { first: Math.min(a, b), last: Math.max(a, b) };
        const reading: StitchObject = { ...object!.sewn.reading, ...span, spans: [span], underlay: [] };
        const moved = movedBy(reading, patches, after.value);
        const { x, rowCount } = after.value;
        const kept = Array.from({ length: rowCount }, (_, k) => k).filter((k) => x[k]! >= span.first && x[k]! <= span.last);
        const [now] = moved.spans;
        for (const row of kept) expect(now !== undefined && now.first <= row && row <= now.last).toBe(true);
        for (let row = now?.first ?? 0; row <= (now?.last ?? -1); row++) expect(x[row]! >= 100 || kept.includes(row)).toBe(true);
        expect(moved.stitches).toBe(now === undefined ? 0 : now.last - now.first + 1);
      }),
      runs(400, 16),
    );
  });
});

test('a program that holds no stitch at all is a plan of nothing but its ending', () => {
  const program = new ProgramBuilder().color('#123456', 'A').stop('wait').jump(3, 4).end('nothing').build();
  const { places, ending } = assemble(adoptProgram(program));
  expect([places, ending]).toEqual([[], { first: 0, isFound: true }]);
});

test('an object whose thread is changed in its midst, as no recognition should find it, is two, and the file comes back all the same', () => {
  const builder = new ProgramBuilder().color('#111111');
  for (let k = 0; k < 20; k++) builder.stitch(k, k % 3);
  builder.color('#222222');
  for (let k = 0; k < 20; k++) builder.stitch(20 - k, 9 - (k % 3));
  const program = builder.end().build();
  const [one] = Object.values(designOfPaths(Float64Array.of(0, 0, 1, 0, 2, 0, 3, 0)).plan.objects);
  const { reading } = one!.sewn;
  const object = {
    ...reading,
    first: 1,
    last: 40,
    spans: [
      { first: 1, last: 20 },
      { first: 22, last: 40 },
    ],
  };
  const ownerOfRow = Int32Array.from({ length: program.rowCount }, (_, row) => (program.command[row] === STITCH ? 0 : -1));
  const plan = adoptProgram(program, { objects: [object], ownerOfRow });
  expect(orderOf(plan)).toEqual([object.id, `${object.id}.22`]);
  expect(plan.blocks).toHaveLength(2);
  expect(isSameProgram(assemble(plan).program, program)).toBe(true);
});
