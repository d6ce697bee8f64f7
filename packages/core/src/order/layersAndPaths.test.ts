import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { generateSatin } from '../generate/column/satin.ts';
import { generateFill } from '../generate/fill/fill.ts';
import { generateRun } from '../generate/line/run.ts';
import { threadThickness } from '../model/thread.ts';
import { adoptProgram } from '../plan/adoptProgram.ts';
import { blocksOfPaths } from '../testing/designs.ts';
import { CELL, cellAt, middleOf, solidCells } from './cells.ts';
import { CoverStack } from './coverStack.ts';
import { HiddenWays } from './hiddenWays.ts';
import { findSeenLayers } from './seenLayers.ts';
import { changedPicture, topPicture } from './topPicture.ts';
import { runs } from '../testing/runs.ts';

// A general path finder, to check against only; it brings no types.
interface PathFinder {
  Grid: new (columns: number, rows: number, isWall: number[][]) => unknown;
  AStarFinder: new (options: object) => { findPath(x0: number, y0: number, x1: number, y1: number, grid: unknown): [number, number][] };
}
let pathfinding: PathFinder;
beforeAll(async () => {
  const name = 'pathfinding';
  ({ default: pathfinding } = (await import(name)) as { default: PathFinder });
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
    const ways = new HiddenWays(new CoverStack(hiders, thread));
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
    const ways = new HiddenWays(new CoverStack(hiders, thread));
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
    expect(new HiddenWays(new CoverStack(open, thread)).find({ x: 4, y: 4 }, { x: 25, y: 15 }, 0)).toMatch(/does not lead/);
    expect(ways.find({ x: 4, y: 14 }, { x: 90, y: 14 }, 0)).toMatch(/beside all/);
    // What was sewn before hides nothing, but for its own thread a short way on top of it.
    const under = objectsOf([BLUE, fill(square(0, 0, 30))], [RED, fill(square(2, 2, 3))], [RED, fill(square(24, 14, 3))]);
    expect(new HiddenWays(new CoverStack(under, thread)).find({ x: 4, y: 4 }, { x: 25, y: 15 }, 1)).toMatch(/does not lead/);
    const own = objectsOf(
      [RED, fill(square(0, 0, 30))],
      [RED, generateSatin(Float64Array.of(9, 9, 14, 9), Float64Array.of(9, 11, 14, 11), { spacing: 0.4, pull: 0, splitLength: 7 })],
    );
    const onTop = new HiddenWays(new CoverStack(own, thread)).find({ x: 2, y: 10 }, { x: 9, y: 10 }, 0);
    expect(typeof onTop === 'string' ? onTop : onTop.onTop).toBeGreaterThan(4);
  });

  test('cells are numbered over the whole field, and their middles lie in them', () => {
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), fc.double({ min: -1000, max: 1000, noNaN: true }), (x, y) => {
        const at = middleOf(cellAt(x, y));
        expect(Math.max(Math.abs(at.x - x), Math.abs(at.y - y))).toBeLessThanOrEqual(CELL / 2 + 1e-9);
      }),
      runs(100, 60),
    );
    expect(objectsOf([RED, generateRun(Float64Array.of(0, 0, 20, 0), { stitchLength: 2.5 })])).toHaveLength(1);
  });
});
