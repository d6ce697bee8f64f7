import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { drawShapes, readShapeAsk } from '../edit/shapes/drawShapes.ts';
import { moveObjects } from '../edit/operations/moveObjects.ts';
import { repairFindings } from '../edit/repairFindings.ts';
import { joinObjects, splitObject } from '../edit/regroup.ts';
import { defaultTarget } from '../materials/shop.ts';
import type { Design } from '../model/design.ts';
import { orderOf, type Plan } from '../model/plan.ts';
import { COLOR, isSameProgram, STITCH } from '../model/program.ts';
import { anyProgram } from '../testing/programs.ts';
import { applied, coversOf, demoFile, designOfPaths, filesAtHand, fourObjects, sewnAnew } from '../testing/designs.ts';
import { recognizePlainly } from '../recognize/recognizePlainly.ts';
import { adoptProgram } from './adoptProgram.ts';
import { assemble, placeOf } from './assemble.ts';
import { startDesign } from './designOf.ts';
import { objectsOf } from './objectsOf.ts';
import { planFromJson, planToJson } from './planJson.ts';
import { runs, someOf, triesOf } from '../testing/runs.ts';

const target = defaultTarget();

/** The same plan as other values, so that nothing that was worked out before is found again. */
const fromScratch = (plan: Plan): Plan => planFromJson(planToJson(plan), plan.source);

describe('a file as a plan', () => {
  test('assembled again it is the file, bit for bit, whoever stitched it; so it is after a way through JSON', () => {
    let files = 0;
    for (const { name, program } of someOf([...filesAtHand()])) {
      const plan = adoptProgram(program);
      expect([name, isSameProgram(assemble(plan).program, program)]).toEqual([name, true]);
      expect([name, isSameProgram(assemble(fromScratch(plan)).program, program)]).toEqual([name, true]);
      // Taken as it is, without being recognized, it is the same file.
      expect([name, isSameProgram(assemble(adoptProgram(program, recognizePlainly(program))).program, program)]).toEqual([name, true]);
      files++;
    }
    expect(files).toBeGreaterThan(triesOf(80) - 1);
  }, 120_000);

  test('so are programs of any shape, and each stitch is somebody’s or on a way', () => {
    fc.assert(
      fc.property(anyProgram, (program) => {
        const plan = adoptProgram(program);
        const { program: again, places, ending } = assemble(plan);
        expect(isSameProgram(again, program)).toBe(true);
        let row = 0;
        for (const { link, first, end } of places) {
          expect(link).toBe(row);
          expect(first).toBeGreaterThanOrEqual(link);
          for (let i = first; i < end; i++) expect(program.command[i]).not.toBe(COLOR);
          row = end;
        }
        expect(ending.first).toBe(row);
      }),
      runs(1200, 16),
    );
  }, 240_000);

  test('objects are what was recognized, with its ids, rows and owners; underlay and travel are parts of theirs', () => {
    const design = startDesign(demoFile('heron.csv'), target);
    const { objects, ownerOfRow } = objectsOf(design.plan);
    const covers = objects.filter((o) => o.role === 'cover');
    expect(covers).toHaveLength(46);
    expect(orderOf(design.plan)).toEqual(covers.map((o) => o.id));
    for (const o of objects) for (const span of o.spans) expect(ownerOfRow[span.last]).toBeGreaterThanOrEqual(0);
    const wing = covers.find((o) => o.underlay.length === 2)!;
    for (const layer of wing.underlay)
      expect(objects.find((o) => o.id === layer.object)).toMatchObject({ parent: wing.id, first: layer.first });
    expect(design.plan.blocks.map((b) => b.thread?.name)).toContain('Deep water');
  });
});

describe('objects last', () => {
  const heron = startDesign(demoFile('heron.csv'), target);

  test('one that is renamed stays what it is while its neighbours are sewn anew, joined and moved, and all of that is undone', () => {
    const block = heron.plan.blocks.find((b) => b.objects.length >= 6)!;
    const [a, b, c, d] = block.objects;
    const named = applied(heron, { id: 'rename-object', object: c!, name: 'third rivet' });
    const me = (design: Design) => {
      const { first, end } = placeOf(design.plan, c!);
      const { program } = design;
      const found = objectsOf(design.plan).objects.find((o) => o.id === c)!;
      return { name: found.name, kind: found.kind, stitches: found.stitches, rows: [...program.x.slice(first, end)] };
    };
    const before = me(named);
    const beside = sewnAnew(named, b!, { spacing: 0.6 });
    const other = sewnAnew(beside, d!, { spacing: 0.5 });
    const join = joinObjects(other, [a!, b!]);
    if (!join.ok) throw new Error(join.error);
    const joined = applied(other, join.value);
    const moved = applied(joined, { id: 'move-objects', objects: [c!], block: block.id, before: a! });
    for (const design of [beside, other, joined, moved]) expect(me(design)).toEqual(before);
    expect(orderOf(moved.plan).indexOf(c!)).toBe(orderOf(moved.plan).indexOf(a!) - 1);
    expect(moved.plan.objects[b!]).toBeUndefined();
    expect(before.name).toBe('third rivet');
    // What was derived step by step is what is derived from scratch.
    expect(objectsOf(moved.plan)).toEqual(objectsOf(fromScratch(moved.plan)));
    expect(isSameProgram(moved.program, assemble(fromScratch(moved.plan)).program)).toBe(true);
  });

  test('moved to the other end of its thread and back, all is as it was, to the last decimal', () => {
    const block = heron.plan.blocks.find((b) => b.objects.length >= 6)!;
    const [first, second] = block.objects;
    const there = applied(heron, { id: 'move-objects', objects: [first!], block: block.id, before: null });
    expect(isSameProgram(there.program, heron.program)).toBe(false);
    expect(there.program.threads).toEqual(heron.program.threads);
    const back = applied(there, { id: 'move-objects', objects: [first!], block: block.id, before: second! });
    expect(isSameProgram(back.program, heron.program)).toBe(true);
  });

  test('moved to another block they take its thread, and no thread is put on twice in a row', () => {
    const design = fourObjects();
    const [fill, satin, , brick] = orderOf(design.plan);
    const [harbor, other] = design.plan.blocks;
    const moved = applied(design, { id: 'move-objects', objects: [satin!], block: other!.id, before: null });
    expect(moved.program.threads.map((t) => t.name)).toEqual(['Harbor', 'Brick']);
    expect(objectsOf(moved.plan).objects.find((o) => o.id === satin)!.color).toBe('#b8552f');
    const all = applied(moved, { id: 'move-objects', objects: [brick!, satin!], block: harbor!.id, before: fill! });
    expect(all.program.threads.map((t) => t.name)).toEqual(['Harbor']);
    const count = (of: Design): number => of.program.command.filter((c) => c === STITCH).length;
    expect(Math.abs(count(all) - count(design))).toBeLessThan(40);
    expect(moveObjects.apply(design, { id: 'move-objects', objects: ['gone'], block: harbor!.id, before: null })).toMatchObject({
      ok: false,
    });
    expect(moveObjects.apply(design, { id: 'move-objects', objects: [fill!], block: 'gone', before: null })).toMatchObject({ ok: false });
    expect(moveObjects.apply(design, { id: 'move-objects', objects: [fill!, fill!], block: harbor!.id, before: null })).toMatchObject({
      ok: false,
    });
  });

  test('whatever is done in whatever order, what follows from the plan is what follows from it from scratch', () => {
    const step = fc.record({
      what: fc.constantFrom('spec', 'move', 'join', 'split', 'repair', 'rename', 'place', 'remove'),
      at: fc.nat(40),
      by: fc.nat(40),
    });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
        let design = fourObjects();
        steps.forEach(({ what, at, by }, k) => {
          const order = orderOf(design.plan);
          const id = order[at % order.length]!;
          const block = design.plan.blocks.find((b) => b.objects.includes(id))!;
          if (what === 'rename') design = applied(design, { id: 'rename-object', object: id, name: `step ${k}` });
          if (what === 'spec') design = sewnAnew(design, id, { spacing: 0.4 + (by % 5) / 10, stitchLength: 2 + (by % 3) });
          if (what === 'move') {
            const others = block.objects.filter((o) => o !== id);
            design = applied(design, {
              id: 'move-objects',
              objects: [id],
              block: block.id,
              before: others[by % (others.length + 1)] ?? null,
            });
          }
          const next = block.objects[block.objects.indexOf(id) + 1];
          const { first, end } = placeOf(design.plan, id);
          const proposal =
            what === 'join' && next !== undefined
              ? joinObjects(design, [id, next])
              : what === 'split' && end - first > 8
                ? splitObject(design, id, first + 1 + (by % (end - first - 1)), `n${k}`)
                : undefined;
          if (proposal?.ok === true) {
            const same = applied(design, proposal.value);
            expect(isSameProgram(same.program, design.program)).toBe(true);
            design = same;
          }
          if (what === 'place' || what === 'remove') {
            const ask = readShapeAsk(what, { objects: [id], ...(what === 'place' ? { turn: 30 * (by % 12), dx: by % 7, dy: 1 } : {}) });
            const drawn = ask.ok ? drawShapes(design, ask.value, () => `drawn ${k}`) : ask;
            if (drawn.ok) design = drawn.value.design;
          }
          if (what === 'repair') design = repairFindings(design, (f) => f.fix !== undefined && by % 2 === 0).design;
        });
        const again = fromScratch(design.plan);
        expect(isSameProgram(assemble(again).program, design.program)).toBe(true);
        expect(objectsOf(again)).toEqual(objectsOf(design.plan));
      }),
      runs(25, 20261128),
    );
  }, 120_000);
});

describe('ways between objects', () => {
  const rows = (design: Design, id: string): string[] => {
    const { link, first } = placeOf(design.plan, id);
    return Array.from(design.program.command.slice(link, first), (c) => ['stitch', 'jump', 'trim', 'color', 'stop', 'end'][c]!);
  };

  test('are as chosen: carried over, jumped, or cut with locks on both sides; as found they are what the file had', () => {
    const square = (x: number): Float64Array => Float64Array.of(x, 0, x + 9, 0, x + 9, 9, x, 9, x, 0.5);
    const design = designOfPaths(square(0), square(1.5 + 9));
    const [, b] = orderOf(design.plan);
    expect(rows(design, b!)).toEqual(['trim', 'jump', 'stitch']);
    const way = (how: 'carry' | 'jump' | 'trim' | 'as-found'): Design => applied(design, { id: 'set-link', object: b!, way: how });
    expect(rows(way('carry'), b!)).toEqual(['stitch']);
    expect(rows(way('jump'), b!)).toEqual(['jump', 'stitch']);
    expect(rows(way('trim'), b!).filter((r) => r !== 'stitch')).toEqual(['trim', 'jump']);
    expect(rows(way('trim'), b!).length).toBeGreaterThan(8);
    expect(isSameProgram(way('as-found').program, design.program)).toBe(true);
  });

  test('follow an object that is sewn anew: the jump leads to where it begins now, and what leads on leaves from where it ends', () => {
    const design = fourObjects();
    const brick = orderOf(design.plan)[3]!;
    const turned = sewnAnew(design, brick, { kind: 'fill', angle: 90, underlay: [] });
    const { first } = placeOf(turned.plan, brick);
    const { start } = turned.plan.objects[brick]!.sewn;
    expect([turned.program.x[first - 1], turned.program.y[first - 1]]).toEqual([start.x, start.y]);
    expect(rows(turned, brick).slice(0, 2)).toEqual(['stitch', 'stitch']);
    expect(rows(turned, brick).filter((r) => r !== 'stitch')).toEqual(['trim', 'color', 'jump']);
    expect(coversOf(turned)).toHaveLength(4);
  });
});
