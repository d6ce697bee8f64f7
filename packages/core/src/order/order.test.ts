import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { LegacyHighs } from 'highs';
import { generateSatin } from '../generate/column/satin.ts';
import { generateFill } from '../generate/fill/fill.ts';
import { generateRun } from '../generate/line/run.ts';
import { threadThickness } from '../model/thread.ts';
import { adoptProgram } from '../plan/adoptProgram.ts';
import { blocksOfPaths } from '../testing/designs.ts';
import { CELL, cellAt, middleOf, solidCells } from './cells.ts';
import { type ColorInstance, findColorOrder } from './colorOrder.ts';
import { HiddenWays } from './hiddenWays.ts';
import { findSeenLayers } from './seenLayers.ts';
import { changedPicture, topPicture } from './topPicture.ts';
import { costOfTour, findTour, type TourInstance } from './tour.ts';

// The solver (HiGHS in WebAssembly) and the path finder are there to check against only; the latter brings no types.
let highs: LegacyHighs;
interface PathFinder {
  Grid: new (columns: number, rows: number, isWall: number[][]) => unknown;
  AStarFinder: new (options: object) => { findPath(x0: number, y0: number, x1: number, y1: number, grid: unknown): [number, number][] };
  Util: { pathLength?: unknown };
}
let pathfinding: PathFinder;
beforeAll(async () => {
  const { default: load } = await import('highs');
  highs = await load();
  const name = 'pathfinding';
  ({ default: pathfinding } = (await import(name)) as { default: PathFinder });
});

/** TSPLIB (G. Reinelt 1991): coordinates and optimal lengths of berlin52 and eil51, from memory. A coordinate that is wrong would show in the length. */
const BERLIN52 =
  '565 575 25 185 345 750 945 685 845 655 880 660 25 230 525 1000 580 1175 650 1130 1605 620 1220 580 1465 200 1530 5 845 680 725 370 145 665 415 635 510 875 560 365 300 465 520 585 480 415 835 625 975 580 1215 245 1320 315 1250 400 660 180 410 250 420 555 575 665 1150 1160 700 580 685 595 685 610 770 610 795 645 720 635 760 650 475 960 95 260 875 920 700 500 555 815 830 485 1170 65 830 610 605 625 595 360 1340 725 1740 245';
const EIL51 =
  '37 52 49 49 52 64 20 26 40 30 21 47 17 63 31 62 52 33 51 21 42 41 31 32 5 25 12 42 36 16 52 41 27 23 17 33 13 13 57 58 62 42 42 57 16 57 8 52 7 38 27 68 30 48 43 67 58 48 58 27 37 69 38 46 46 10 61 33 62 63 63 69 32 22 45 35 59 15 5 6 10 17 21 10 5 64 30 15 39 10 32 39 25 32 25 55 48 28 56 37 30 40';

/** A round trip as a way that begins at the first stop and ends at a copy of it. */
function roundTrip(text: string): TourInstance {
  const c = text.split(' ').map(Number);
  const n = c.length / 2;
  const at = (k: number): number => (k === n ? 0 : k);
  return {
    count: n + 1,
    cost: (a, b) => Math.round(Math.hypot(c[2 * at(a)]! - c[2 * at(b)]!, c[2 * at(a) + 1]! - c[2 * at(b) + 1]!)),
    before: Array.from({ length: n + 1 }, (_, k) => (k === 0 ? [] : k < n ? [0] : Array.from({ length: n }, (__, j) => j))),
  };
}

/** The cost of the cheapest way by a mixed-integer program (places as in C. Miller, A. Tucker, R. Zemlin 1960). */
function cheapestByMilp({ count, cost, before }: TourInstance): number {
  const x = (a: number, b: number): string => `x_${a}_${b}`;
  const pairs = Array.from({ length: count }, (_, a) => Array.from({ length: count }, (__, b) => [a, b] as const))
    .flat()
    .filter(([a, b]) => a !== b);
  const all = Array.from({ length: count }, (_, k) => k);
  const model = [
    'Minimize',
    ` obj: ${pairs.map(([a, b]) => `${cost(a, b)} ${x(a, b)}`).join(' + ')}`,
    'Subject To',
    // One stop is the first and one the last: s and e.
    ` first: ${all.map((k) => `s_${k}`).join(' + ')} = 1`,
    ` last: ${all.map((k) => `e_${k}`).join(' + ')} = 1`,
    ...all.map(
      (b) =>
        ` in${b}: ${all
          .filter((a) => a !== b)
          .map((a) => x(a, b))
          .join(' + ')} + s_${b} = 1`,
    ),
    ...all.map(
      (a) =>
        ` out${a}: ${all
          .filter((b) => a !== b)
          .map((b) => x(a, b))
          .join(' + ')} + e_${a} = 1`,
    ),
    ...pairs.map(([a, b]) => ` u${a}_${b}: u_${a} - u_${b} + ${count} ${x(a, b)} <= ${count - 1}`),
    ...(before ?? []).flatMap((list, k) => list.map((b) => ` p${b}_${k}: u_${k} - u_${b} >= 1`)),
    'Bounds',
    ...all.map((k) => ` 0 <= u_${k} <= ${count - 1}`),
    'Binary',
    ` ${[...pairs.map(([a, b]) => x(a, b)), ...all.flatMap((k) => [`s_${k}`, `e_${k}`])].join(' ')}`,
    'End',
  ].join('\n');
  const solution = highs.solve(model);
  if (solution.Status !== 'Optimal') throw new Error(solution.Status);
  return solution.ObjectiveValue;
}

/** Which stops come before which: pairs along a hidden order, so that an order exists. */
const precedence = (count: number): fc.Arbitrary<number[][]> =>
  fc
    .tuple(
      fc.shuffledSubarray(
        Array.from({ length: count }, (_, k) => k),
        { minLength: count },
      ),
      fc.array(fc.tuple(fc.nat(count - 1), fc.nat(count - 1)), { maxLength: count }),
    )
    .map(([order, pairs]) => {
      const before = Array.from({ length: count }, (): number[] => []);
      for (const [a, b] of pairs) if (a < b && !before[order[b]!]!.includes(order[a]!)) before[order[b]!]!.push(order[a]!);
      return before;
    });

describe('tours', () => {
  test('of two published round trips are as short as the published optimum, and of one with the best known length within its promise', () => {
    for (const [text, optimum] of [
      [BERLIN52, 7542],
      [EIL51, 426],
    ] as const) {
      const trip = roundTrip(text);
      const order = findTour(trip);
      expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: trip.count }, (_, k) => k));
      expect(costOfTour(trip, order) / optimum - 1).toBeLessThanOrEqual(0.005);
    }
  });

  test('keep precedence, and are as cheap as a mixed-integer solver finds them (HiGHS)', () => {
    fc.assert(
      fc.property(
        precedence(7),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 99 }), fc.integer({ min: 0, max: 99 })), { minLength: 7, maxLength: 7 }),
        (before, at) => {
          // Going one way may cost more than going back.
          const cost = (a: number, b: number): number =>
            Math.round(Math.hypot(at[a]![0] - at[b]![0], at[a]![1] - at[b]![1]) + (a < b ? 5 : 0));
          const instance = { count: 7, cost, before };
          const start = topological(before);
          const order = findTour(instance, start);
          order.forEach((k, place) => before[k]!.forEach((b) => expect(order.indexOf(b)).toBeLessThan(place)));
          expect(costOfTour(instance, order)).toBe(Math.round(cheapestByMilp(instance)));
        },
      ),
      { numRuns: 12, seed: 19 },
    );
  });

  test('of none, one, two and of very many stops end', () => {
    expect([0, 1, 2].map((count) => findTour({ count, cost: () => 1 }).length)).toEqual([0, 1, 2]);
    const many = findTour({ count: 2600, cost: (a, b) => Math.abs(a - b), begin: (a) => a });
    expect(many).toHaveLength(2600);
    expect(many[0]).toBe(0);
  });
});

function topological(before: readonly (readonly number[])[]): number[] {
  const order: number[] = [];
  while (order.length < before.length)
    order.push(before.findIndex((list, k) => !order.includes(k) && list.every((b) => order.includes(b))));
  return order;
}

describe('color orders', () => {
  /** The fewest blocks by trying every order. */
  function fewest({ colors, before, stages }: ColorInstance): number {
    let best = Infinity;
    const go = (done: number[], blocks: number): void => {
      if (blocks >= best) return;
      if (done.length === colors.length) best = blocks;
      for (let k = 0; k < colors.length; k++) {
        if (done.includes(k) || before[k]!.some((b) => !done.includes(b))) continue;
        if (stages.some((stage, n) => stage < stages[k]! && !done.includes(n))) continue;
        go([...done, k], blocks + (done.length > 0 && colors[done.at(-1)!] === colors[k] ? 0 : 1));
      }
    };
    go([], 0);
    return best;
  }

  test('have as few blocks as the best of all orders, and keep what has to come before what (brute force)', () => {
    fc.assert(
      fc.property(precedence(7), fc.array(fc.nat(2), { minLength: 7, maxLength: 7 }), fc.nat(6), (before, colors, cut) => {
        const stages = colors.map((_, k) =>
          cut > 0 && k >= cut && before.every((list, n) => n >= cut || list.every((b) => b < cut)) ? 1 : 0,
        );
        const found = findColorOrder({ colors, before, stages })!;
        expect(found.isFewest).toBe(true);
        expect(found.blocks).toHaveLength(fewest({ colors, before, stages }));
        const order = found.blocks.flatMap((block) => block.objects);
        expect(new Set(order).size).toBe(7);
        // Within a block objects may stand in any order that keeps precedence.
        found.blocks.forEach(({ objects, color }, at) => {
          for (const k of objects) {
            expect(colors[k]).toBe(color);
            for (const b of before[k]!) expect(found.blocks.findIndex((block) => block.objects.includes(b))).toBeLessThanOrEqual(at);
          }
        });
      }),
      { numRuns: 150, seed: 3 },
    );
  });

  test('with something before itself there are none; twelve colors in three layers of three hundred objects are found for sure', () => {
    expect(findColorOrder({ colors: [0, 1], before: [[1], [0]], stages: [0, 0] })).toBeUndefined();
    const colors = Array.from({ length: 300 }, (_, k) => (k * 7) % 12);
    const before = colors.map((_, k) => (k >= 100 ? [k - 100] : []));
    const found = findColorOrder({ colors, before, stages: colors.map(() => 0) })!;
    expect(found.blocks.length).toBeLessThan(30);
  });
});

const thread = threadThickness({ weight: 40, fiber: 'rayon' });
const square = (x: number, y: number, size: number): Float64Array => Float64Array.of(x, y, x + size, y, x + size, y + size, x, y + size);
const fill = (ring: Float64Array, angle = 0, spacing = 0.4): Float64Array =>
  generateFill([ring], { angle, spacing, stitchLength: 4, offset: 0.3 }, {})[0]!;
const [RED, BLUE] = ['#aa2222', '#2222aa'];

describe('what is seen on what', () => {
  const layersOf = (...paths: readonly (readonly [string, Float64Array])[]) => {
    const plan = adoptProgram(blocksOfPaths(...paths));
    const { layers, ids } = findSeenLayers(plan);
    return { ids, pairs: layers.map(({ over, under }) => [over, under]), layers };
  };

  test('binds where colors tell it, by the area, and where a detail of one color stands out by its direction', () => {
    const on = layersOf([RED, fill(square(0, 0, 20))], [BLUE, fill(square(5, 5, 6), 90)]);
    expect(on.pairs).toEqual([[1, 0]]);
    expect(on.layers[0]!.area).toBeGreaterThan(30);
    expect(Math.hypot(on.layers[0]!.at.x - 8, on.layers[0]!.at.y - 8)).toBeLessThan(0.5);
    const relief = layersOf([RED, fill(square(0, 0, 20))], [RED, fill(square(5, 5, 6), 90)]);
    expect(relief.pairs).toEqual([[1, 0]]);
  });

  test('binds nobody where it cannot be told: beside each other, one color that meets, or what a third one hides', () => {
    expect(layersOf([RED, fill(square(0, 0, 8))], [BLUE, fill(square(9, 0, 8))]).pairs).toEqual([]);
    // Two strokes of one color that overlap at their ends.
    expect(layersOf([RED, fill(square(0, 0, 12), 20)], [RED, fill(square(11, 0, 12), 100)]).pairs).toEqual([]);
    const hidden = layersOf([RED, fill(square(4, 4, 5))], [BLUE, fill(square(6, 4, 5))], ['#22aa22', fill(square(0, 0, 20), 45)]);
    expect(hidden.pairs).toEqual([
      [2, 0],
      [2, 1],
    ]);
  });

  test('a picture is the same however it is sewn that leaves the top on top, and another one otherwise', () => {
    const a: [string, Float64Array] = [RED, fill(square(0, 0, 20))];
    const b: [string, Float64Array] = [BLUE, fill(square(5, 5, 6), 90)];
    const c: [string, Float64Array] = [BLUE, fill(square(30, 0, 6), 90)];
    const pictureOf = (...paths: [string, Float64Array][]) => topPicture(blocksOfPaths(...paths));
    expect(changedPicture(pictureOf(a, b, c), pictureOf(c, a, b))).toBe(0);
    expect(changedPicture(pictureOf(a, b, c), pictureOf(b, a, c))).toBeGreaterThan(0.05);
    expect(changedPicture(pictureOf(), pictureOf())).toBe(0);
  });
});

describe('hidden paths', () => {
  /** A fill, then a band over both dots: the dots are what a path leads between. */
  const objectsOf = (...paths: readonly (readonly [string, Float64Array])[]) => {
    const plan = adoptProgram(blocksOfPaths(...paths));
    return plan.blocks.flatMap((block) =>
      block.objects.map((id) => ({ object: plan.objects[id]!.sewn.reading, color: block.thread!.color })),
    );
  };

  test('lie 0.3 mm inside what is sewn later, in steps of 4 mm, along its rows rather than across (common practice)', () => {
    const hiders = objectsOf([RED, fill(square(2, 2, 3))], [RED, fill(square(24, 14, 3))], [BLUE, fill(square(0, 0, 30))]);
    const ways = new HiddenWays(hiders, thread);
    const found = ways.find({ x: 4, y: 4 }, { x: 25, y: 15 }, 0);
    if (typeof found === 'string') throw new Error(found);
    const straight = Math.hypot(21, 11);
    expect(found.length).toBeGreaterThanOrEqual(straight - 1e-6);
    expect(found.length).toBeLessThan(1.06 * straight);
    expect(found.onTop).toBeLessThan(0.5);
    expect(found.under).toContain(2);
    let [x, y] = [4, 4];
    for (let k = 0; k <= found.points.length; k += 2) {
      const [nx, ny] = k < found.points.length ? [found.points[k]!, found.points[k + 1]!] : [25, 15];
      expect(Math.hypot(nx - x, ny - y)).toBeLessThanOrEqual(4 + 1e-9);
      for (const v of [nx, ny]) expect(Math.min(v, 30 - v)).toBeGreaterThanOrEqual(0.3);
      [x, y] = [nx, ny];
    }
  });

  test('go round what must stay free, about as short as a general path finder on the same cells, and are refused with a reason', () => {
    // A band with a hole: nothing may be seen in the hole.
    const [outer, hole] = [square(0, 0, 30), square(8, 8, 14)];
    const [band] = generateFill([outer, hole], { angle: 0, spacing: 0.4, stitchLength: 4, offset: 0.3 }, {});
    const hiders = objectsOf([RED, fill(square(2, 13, 3))], [RED, fill(square(25, 13, 3))], [BLUE, band!]);
    const ways = new HiddenWays(hiders, thread);
    const [from, to] = [
      { x: 4, y: 14.5 },
      { x: 26, y: 14.5 },
    ];
    const found = ways.find(from, to, 0);
    if (typeof found === 'string') throw new Error(found);
    for (let k = 0; k < found.points.length; k += 2) {
      const [x, y] = [found.points[k]!, found.points[k + 1]!];
      expect(x > 8 - 0.25 && x < 22 + 0.25 && y > 8 - 0.25 && y < 22 + 0.25).toBe(false);
    }
    const cells = new Set(solidCells(hiders[2]!.object));
    const count = Math.round(30 / CELL);
    const isWall = Array.from({ length: count }, (_, row) =>
      Array.from({ length: count }, (__, column) => {
        const [x, y] = [(column + 0.5) * CELL, (row + 0.5) * CELL];
        const isIn = [-2, 0, 2].every((dx) => [-2, 0, 2].every((dy) => cells.has(cellAt(x + dx * CELL, y + dy * CELL))));
        return isIn ? 0 : 1;
      }),
    );
    const at = (v: number): number => Math.floor(v / CELL);
    const path = new pathfinding.AStarFinder({ allowDiagonal: true }).findPath(
      at(from.x),
      at(from.y),
      at(to.x),
      at(to.y),
      new pathfinding.Grid(count, count, isWall),
    );
    let byCells = 0;
    for (let k = 1; k < path.length; k++) byCells += Math.hypot(path[k]![0] - path[k - 1]![0], path[k]![1] - path[k - 1]![1]) * CELL;
    expect(found.length).toBeLessThan(1.05 * byCells);
    expect(found.length).toBeGreaterThan(0.85 * byCells);
    // Under an open fill, or beside all covers, a path would be seen.
    const open = objectsOf([RED, fill(square(2, 2, 3))], [RED, fill(square(24, 14, 3))], [BLUE, fill(square(0, 0, 30), 0, 1.5)]);
    expect(new HiddenWays(open, thread).find({ x: 4, y: 4 }, { x: 25, y: 15 }, 0)).toMatch(/does not lead/);
    expect(ways.find({ x: 4, y: 14 }, { x: 90, y: 14 }, 0)).toMatch(/beside all/);
    // What was sewn before hides nothing, but for its own thread a short way on top of it.
    const under = objectsOf([BLUE, fill(square(0, 0, 30))], [RED, fill(square(2, 2, 3))], [RED, fill(square(24, 14, 3))]);
    expect(new HiddenWays(under, thread).find({ x: 4, y: 4 }, { x: 25, y: 15 }, 1)).toMatch(/does not lead/);
    const own = objectsOf(
      [RED, fill(square(0, 0, 30))],
      [RED, generateSatin(Float64Array.of(9, 9, 14, 9), Float64Array.of(9, 11, 14, 11), { spacing: 0.4, pull: 0, splitLength: 7 })],
    );
    const onTop = new HiddenWays(own, thread).find({ x: 2, y: 10 }, { x: 9, y: 10 }, 0);
    expect(typeof onTop === 'string' ? onTop : onTop.onTop).toBeGreaterThan(4);
  });

  test('cells are numbered over the whole field, and their middles lie in them', () => {
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), fc.double({ min: -1000, max: 1000, noNaN: true }), (x, y) => {
        const at = middleOf(cellAt(x, y));
        expect(Math.max(Math.abs(at.x - x), Math.abs(at.y - y))).toBeLessThanOrEqual(CELL / 2 + 1e-9);
      }),
    );
    expect(objectsOf([RED, generateRun(Float64Array.of(0, 0, 20, 0), { stitchLength: 2.5 })])).toHaveLength(1);
  });
});
