import { describe, expect, test } from '@jest/globals';
import { generateSatin } from '../../generate/column/satin.ts';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateRun } from '../../generate/line/run.ts';
import { defaultTarget } from '../../materials/shop.ts';
import { runClock } from '../../measure/runClock.ts';
import type { Design } from '../../model/design.ts';
import { exitOf, orderOf } from '../../model/plan.ts';
import { isSameProgram, type Program, STITCH, TRIM } from '../../model/program.ts';
import { findSeenLayers } from '../../order/seenLayers.ts';
import { startDesign } from '../../plan/designOf.ts';
import { placeOf } from '../../plan/assemble.ts';
import { applied, blocksOfPaths, demoFile, fourObjects } from '../../testing/designs.ts';
import { replayJournal, startHistory } from '../journal.ts';
import { brokenBy, keepBlock, mergeBlocks, recolorBlock, sewBefore, splitBlockBefore } from './arrange.ts';
import { moveEnds } from './moveEnds.ts';
import { listStops } from '../../plan/stops.ts';
import { proposeWay } from './bestWay.ts';
import { listConnectors } from './connector.ts';
import { proposeOrder } from './proposeOrder.ts';

const [RED, BLUE, GREEN] = ['#aa2222', '#2222aa', '#22aa22'];
type Path = [string, Float64Array];
const designFrom = (...paths: Path[]): Design => startDesign(blocksOfPaths(...paths), defaultTarget());
const cutsIn = ({ command }: Program): number => command.filter((c) => c === TRIM).length;
const column = (x0: number, y0: number, x1: number, y1: number, width: number): Float64Array => {
  const length = Math.hypot(x1 - x0, y1 - y0);
  const [nx, ny] = [(-(y1 - y0) / length) * (width / 2), ((x1 - x0) / length) * (width / 2)];
  const rail = (by: number): Float64Array => Float64Array.of(x0 + by * nx, y0 + by * ny, x1 + by * nx, y1 + by * ny);
  return generateSatin(rail(1), rail(-1), { spacing: 0.4, pull: 0, splitLength: 7 });
};
const square = (x: number, y: number, size: number, angle = 0): Float64Array =>
  generateFill(
    [Float64Array.of(x, y, x + size, y, x + size, y + size, x, y + size)],
    { angle, spacing: 0.4, stitchLength: 4, offset: 0.3 },
    {},
  )[0]!;
const colorsOf = ({ plan }: Design): string[] => plan.blocks.map(({ thread }) => thread!.color);
const must = <T>(result: { ok: true; value: T } | { ok: false; error: string }): T => {
  if (!result.ok) throw new Error(result.error);
  return result.value;
};

describe('a proposed order', () => {
  test('of a ring of dots with a band sewn over them later walks under the band: 31 cuts become none (common practice)', () => {
    const dots = Array.from({ length: 32 }, (_, k): Path => {
      const at = (2 * Math.PI * k) / 32;
      const [c, s] = [Math.cos(at), Math.sin(at)];
      return [RED, column(27 * c, 27 * s, 31.5 * c, 31.5 * s, 2.4)];
    });
    // Every second dot first: the worst that a hasty hand does.
    const hasty = [...dots.filter((_, k) => k % 2 === 0), ...dots.filter((_, k) => k % 2 === 1)];
    const ring = (radius: number): Float64Array =>
      Float64Array.from({ length: 2 * 181 }, (_, k) => radius * (k % 2 === 0 ? Math.cos : Math.sin)((Math.PI * (k >> 1)) / 90));
    const band: Path = [BLUE, generateSatin(ring(27.5), ring(22.5), { spacing: 0.4, pull: 0, splitLength: 7 })];
    const design = designFrom(...hasty, band);
    expect(orderOf(design.plan)).toHaveLength(33);
    const { design: better, connectors, changed, before, after } = proposeOrder(design);
    expect(cutsIn(design.program) - cutsIn(better.program)).toBe(31);
    expect(connectors.map((c) => c.how).filter((how) => how === 'trim')).toEqual([]);
    expect(changed).toBeLessThan(0.002);
    // A cut costs as much as 120 stitches (common practice): 31 of them some four minutes at 850 a minute.
    expect(before.seconds - after.seconds).toBeGreaterThan((31 * 120 * 60) / 850 - 20);
    expect(runClock(better.program, better.target.machine).totals.seconds).toBeCloseTo(after.seconds, 6);
  });

  test('sews covers later that two ends need in turn, whatever their threads are, so that the way between is walked under both', () => {
    const ends = (thread: string): [Path, Path] => [
      [thread, column(0, 5, 7, 5, 3)],
      [thread, column(33, 5, 40, 5, 3)],
    ];
    const covers = (one: string, other: string): [Path, Path] => [
      [one, square(4, 0, 17)],
      [other, square(19, 0, 17, 90)],
    ];
    for (const [one, other] of [
      [BLUE, GREEN],
      [BLUE, BLUE],
      [RED, BLUE],
      [RED, RED],
    ] as const) {
      const [left, right] = ends(RED);
      const [first, second] = covers(one, other);
      // The first cover is sewn before there is the end that the way under it leads to.
      const design = designFrom(left, first, right, second);
      expect(cutsIn(design.program)).toBe(4);
      const found = proposeOrder(design);
      const threads = new Set([RED, one, other]).size;
      expect([cutsIn(found.design.program), colorsOf(found.design).length]).toEqual([threads, threads]);
      expect(found.changed).toBeLessThan(0.002);
      // One that shares their thread is sewn on the way instead.
      const [a, cover, b] = orderOf(design.plan).map((id) => orderOf(found.design.plan).indexOf(id));
      expect(one === RED || Math.max(a!, b!) < cover!).toBe(true);
    }
  });

  test('carries over what lies no more than 2 mm apart, the rivets of the heron among them, and adds no cut anywhere', () => {
    const heron = startDesign(demoFile('heron.csv'), defaultTarget());
    const found = proposeOrder(heron);
    expect(cutsIn(heron.program)).toBe(44);
    expect(cutsIn(found.design.program)).toBeLessThanOrEqual(19);
    const brass = found.connectors.filter((c) => c.how === 'carry');
    expect(brass.length).toBeGreaterThanOrEqual(24);
    for (const { length } of brass) expect(length).toBeLessThanOrEqual(2.001);
    // Who asks for threads alone, of which there are as few as can be, moves nothing; nor does who holds everything.
    expect(proposeOrder(heron, { parts: ['colors'] }).operations).toEqual([]);
    const kept = proposeOrder(heron, { parts: ['objects'], hold: new Set(orderOf(heron.plan)) });
    expect(kept.moved).toEqual([]);
    // One operation after the other gives the design that was promised, also from a stored journal.
    const made = applied(heron, { id: 'sequence', operations: [...found.operations] });
    expect(isSameProgram(made.program, found.design.program)).toBe(true);
    const operation = { id: 'sequence' as const, operations: [...found.operations] };
    const entry = JSON.parse(JSON.stringify({ id: crypto.randomUUID(), kind: 'do', name: 'order', operation })) as never;
    expect(isSameProgram(must(replayJournal(startHistory(heron), [entry])).design.program, made.program)).toBe(true);
  });

  test('has the fewest thread changes that what lies on what allows, keeps blocks apart that are to be, and stops where they are', () => {
    const paths: Path[] = [
      [RED, square(0, 0, 10)],
      [BLUE, square(20, 0, 10)],
      [RED, square(40, 0, 10)],
      [BLUE, square(42, 2, 5, 90)],
      [RED, square(60, 0, 10)],
    ];
    const design = designFrom(...paths);
    const { design: better, isFewest } = proposeOrder(design);
    expect([colorsOf(design).length, colorsOf(better), isFewest]).toEqual([5, [RED, BLUE], true]);
    const kept = applied(design, must(keepBlock(design.plan, design.plan.blocks[4]!.id, true)));
    expect(colorsOf(proposeOrder(kept).design)).toEqual(expect.arrayContaining([RED, BLUE, RED]));
    const last = orderOf(design.plan)[4]!;
    const stopped = applied(design, { id: 'set-stop', object: last, note: 'lay the badge' });
    expect(listStops(stopped.plan)).toEqual([{ object: last, note: 'lay the badge' }]);
    const after = proposeOrder(stopped).design;
    expect(orderOf(after.plan).at(-1)).toBe(last);
    expect([...after.program.notes.values()]).toContain('lay the badge');
    const locked = applied(design, { id: 'lock-object', object: last, isLocked: true });
    expect(orderOf(proposeOrder(locked).design.plan).at(-1)).toBe(last);
  });

  test('walks nowhere in the open unless a cut is forbidden, cuts where it is wanted, and says why it cuts', () => {
    const design = designFrom([RED, square(0, 0, 8)], [RED, square(30, 0, 8)]);
    const found = proposeOrder(design);
    expect(found.operations).toEqual([]);
    const [, second] = orderOf(design.plan) as [string, string];
    expect(listConnectors(design)).toMatchObject([{ to: second, how: 'trim' }]);
    expect(proposeWay(design, second, false)).toMatchObject({ ok: false, error: expect.stringMatching(/beside all|does not lead/) });
    const open = applied(design, must(proposeWay(design, second, true)).operation);
    expect(listConnectors(open)).toMatchObject([{ how: 'open', wish: 'uncut' }]);
    const { link, first } = placeOf(open.plan, second);
    for (let i = link; i < first; i++) expect(open.program.command[i]).toBe(STITCH);
    const near = designFrom([RED, square(0, 0, 8)], [RED, square(9, 0, 8)]);
    const id = orderOf(near.plan)[1]!;
    const wished = applied(near, { id: 'set-link', object: id, wish: 'cut', way: 'trim' });
    expect(listConnectors(proposeOrder(wished).design)).toMatchObject([{ how: 'trim', wish: 'cut' }]);
    expect(proposeWay(near, orderOf(near.plan)[0]!, false)).toEqual({ ok: false, error: 'another thread is put on before it' });
  });

  test('of one object, of one color and of eight hundred objects ends, with nothing worse than before', () => {
    expect(proposeOrder(designFrom([RED, square(0, 0, 8)])).operations).toEqual([]);
    const many = designFrom(
      ...Array.from({ length: 800 }, (_, k): Path => [
        k % 2 === 0 ? RED : BLUE,
        generateRun(Float64Array.of((k % 50) * 9, Math.floor(k / 50) * 9, (k % 50) * 9 + 7, Math.floor(k / 50) * 9 + 1), {
          stitchLength: 1,
        }),
      ]),
    );
    const { before, after, design } = proposeOrder(many, { parts: ['colors', 'objects'] });
    expect(design.plan.blocks).toHaveLength(2);
    expect(after.seconds).toBeLessThan(0.6 * before.seconds);
  });
});

describe('an order by hand', () => {
  const design = designFrom([RED, square(0, 0, 10)], [BLUE, square(2, 2, 5, 90)], [RED, square(20, 0, 10)], [GREEN, square(40, 0, 10)]);
  const [a, b, c, d] = orderOf(design.plan) as [string, string, string, string];

  test('parts blocks around what comes between, and merges those of one thread that come to follow each other', () => {
    const moved = applied(design, must(sewBefore(design.plan, [c], b)));
    expect([orderOf(moved.plan), colorsOf(moved)]).toEqual([
      [a, c, b, d],
      [RED, BLUE, GREEN],
    ]);
    const last = applied(design, must(sewBefore(design.plan, [b], null)));
    expect([orderOf(last.plan), colorsOf(last)]).toEqual([
      [a, c, d, b],
      [RED, GREEN, BLUE],
    ]);
    const between = applied(moved, must(sewBefore(moved.plan, [d], c)));
    expect(colorsOf(between)).toEqual([RED, GREEN, RED, BLUE]);
    expect(sewBefore(design.plan, [a], a)).toMatchObject({ ok: false });
    expect(sewBefore(design.plan, ['gone'], a)).toMatchObject({ ok: false });
    // What nobody moved leaves as it came.
    const { first, end } = placeOf(last.plan, d);
    const old = placeOf(design.plan, d);
    expect([...last.program.x.subarray(first, end)]).toEqual([...design.program.x.subarray(old.first, old.end)]);
  });

  test('says what would come out on top of what, before it is done', () => {
    const seen = findSeenLayers(design.plan);
    expect(brokenBy(seen, [a, b, c, d])).toEqual([]);
    expect(brokenBy(seen, [b, a, c, d])).toMatchObject([{ over: 1, under: 0 }]);
    expect(brokenBy(seen, [b, a, c, d])[0]!.area).toBeGreaterThan(20);
  });

  test('recolors, parts, merges and keeps blocks; an order that was thought of on another one is refused', () => {
    const recolored = applied(design, must(recolorBlock(design.plan, design.plan.blocks[3]!.id, { color: RED, name: RED })));
    expect(recolored.program.threads.map((t) => t.color)).toEqual([RED, BLUE, RED, RED]);
    const merged = applied(recolored, must(mergeBlocks(recolored.plan, recolored.plan.blocks[3]!.id, recolored.plan.blocks[2]!.id)));
    expect(merged.program.threads.map((t) => t.color)).toEqual([RED, BLUE, RED]);
    const parted = applied(merged, must(splitBlockBefore(merged.plan, d)));
    expect([colorsOf(parted), parted.plan.blocks.at(-1)!.keep]).toEqual([[RED, BLUE, RED, RED], true]);
    expect(splitBlockBefore(parted.plan, d)).toMatchObject({ ok: false });
    const stale = must(sewBefore(design.plan, [c], b));
    expect(() => applied(parted, stale)).toThrow(/was changed since/);
    const order = must(sewBefore(design.plan, [c], b)) as { blocks: { objects: string[] }[] };
    expect(() => applied(design, { ...order, blocks: order.blocks.slice(1) } as never)).toThrow(/left out/);
  });
});

describe('where an object begins and ends', () => {
  test('a run in one go is turned, a ring begun elsewhere, without moving a stitch', () => {
    const line = generateRun(Float64Array.of(0, 0, 20, 4, 40, 0), { stitchLength: 2.5 });
    const ring = generateRun(
      Float64Array.from({ length: 2 * 41 }, (_, k) => 60 + 8 * (k % 2 === 0 ? Math.cos : Math.sin)((Math.PI * (k >> 1)) / 20)),
      { stitchLength: 2 },
    );
    const design = designFrom([RED, line], [BLUE, ring]);
    const [a, b] = orderOf(design.plan) as [string, string];
    const places = (of: Design, id: string): string[] => {
      const { first, end } = placeOf(of.plan, id);
      return Array.from({ length: end - first + 1 }, (_, k) => `${of.program.x[first - 1 + k]} ${of.program.y[first - 1 + k]}`).sort();
    };
    const turned = must(moveEnds(design, a, { from: { x: 40, y: 0 } }));
    expect(turned).toMatchObject({ isTurned: true, from: { x: 40, y: 0 }, to: { x: 0, y: 0 } });
    const next = applied(design, { id: 'sequence', operations: [...turned.operations] });
    expect(places(next, a)).toEqual(places(design, a));
    const begun = must(moveEnds(design, b, { from: { x: 60, y: 68 } }));
    expect(Math.hypot(begun.from.x - 60, begun.from.y - 68)).toBeLessThan(3);
    const round = applied(design, { id: 'sequence', operations: [...begun.operations] });
    expect(new Set(places(round, b))).toEqual(new Set(places(design, b)));
    expect(moveEnds(design, a, { from: { x: 1, y: 1 } })).toMatchObject({
      ok: false,
      error: expect.stringMatching(/none that it could begin with/),
    });
    expect(() => applied(design, { id: 'turn-object', object: a, was: '', from: 3, isReversed: false })).toThrow(/was changed since/);
  });

  test('a fill is sewn anew from where it is wanted to where it is wanted, its spec kept, and the way to the next one follows', () => {
    const design = fourObjects();
    const [fill] = orderOf(design.plan) as [string];
    const moved = must(moveEnds(design, fill, { to: { x: 0, y: 24 } }));
    expect(moved.isTurned).toBe(false);
    expect(Math.hypot(moved.to.x, moved.to.y - 24)).toBeLessThan(2.5);
    const next = applied(design, { id: 'sequence', operations: [...moved.operations] });
    const { sewn } = next.plan.objects[fill]!;
    expect(exitOf(next.plan.source, sewn)).toEqual(moved.to);
    expect(sewn.made!.spec).toMatchObject({ kind: 'fill', spacing: expect.closeTo(0.4, 1) });
    expect(moved.connectors[0]!.from).toBe(fill);
  });
});
