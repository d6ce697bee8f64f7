import { describe, expect, test } from '@jest/globals';
import { lengthOfPath } from '../geometry/path.ts';
import { generateFill } from './fill.ts';
import { findShorter, type Order, type Sewn, shorter } from './tryOrders.ts';

describe('orders of the sections of an open fill', () => {
  const sewn = (order: Order, count: number, paths = 1): Sewn => ({
    paths: Array.from({ length: paths }, () => new Float64Array(2)),
    choices: 5,
    shown: 0,
    ...{ count, order },
  });
  const usual: Order = { passOver: [], isFree: false };

  test('are passed over one after another as long as that helps, and no longer', () => {
    const asked: Order[] = [];
    // Passing over 2, then 4, helps; 2 alone helps more than 4 alone; no third one does.
    const count = ({ passOver }: Order): number =>
      300 - (passOver.includes(2) ? 30 : 0) - (passOver.includes(4) ? 20 : 0) + passOver.length;
    const sew = (order: Order): Sewn => {
      asked.push(order);
      return sewn(order, count(order));
    };
    const best = findShorter(sewn(usual, 300), sew, false);
    expect([...best.order.passOver].sort()).toEqual([2, 4]);
    expect(asked.filter(({ isFree }) => isFree)).toEqual([]);
    expect(asked.length).toBeLessThanOrEqual(5 + 4 + 3);
    // Of a fill as large as any the first one stands: there is no time for others.
    asked.length = 0;
    expect(findShorter(sewn(usual, 100_000), sew, true).order).toEqual(usual);
    expect(asked).toEqual([]);
  });

  test('with fewer paths are better, then those that show less, however many penetrations they take', () => {
    const [one, two] = [sewn(usual, 500, 1), sewn(usual, 400, 2)];
    expect(shorter(one, two)).toBe(one);
    expect(shorter(two, one)).toBe(one);
    expect(shorter(one, sewn(usual, 500, 1))).toBe(one);
    // A way on top of the rows shows, and saves nothing that is worth it.
    expect(shorter(one, { ...sewn(usual, 450), shown: 4 })).toBe(one);
    expect(shorter({ ...one, shown: 4 }, sewn(usual, 520)).count).toBe(520);
  });

  test('keep rows where they are, and end where asked, with no more way than the usual order takes', () => {
    // A comb of five teeth, sewn across its teeth.
    const comb: number[] = [0, 0, 50, 0, 50, 30];
    for (let k = 4; k >= 0; k--) comb.push(k * 10 + 10, 30, k * 10 + 4, 30, k * 10 + 4, 8, k * 10, 8);
    const ring = Float64Array.from(comb.slice(0, -2));
    const spec = { angle: 0, spacing: 2, stitchLength: 3, offset: 0.5 };
    const to = { x: 50, y: 20 };
    const paths = generateFill([ring], spec, { from: { x: 0, y: 4 }, to });
    expect(paths).toHaveLength(1);
    const end = paths[0]!.subarray(-2);
    expect(Math.hypot(end[0]! - to.x, end[1]! - to.y)).toBeLessThan(0.5);
    // Rows across the teeth and below them, a turn between each two, and ways of no more than three teeth's depth.
    const rows = 22 * (5 * 6) + 8 * 50;
    expect(lengthOfPath(paths[0]!)).toBeLessThan(rows + 30 * 5 + 50 + 3 * 22 + 50);
  });
});
