import { describe, expect, test } from '@jest/globals';
import { lengthOfPath } from '../../geometry/path.ts';
import { generateFill } from './fill.ts';
import { orderVisits, OUTSIDE } from './orderVisits.ts';
import { EdgeWays } from '../line/ringWay.ts';
import { type Sewn, shorter } from '../sew/shorter.ts';
import { xorshift } from './xorshift.ts';

describe('orders of visits', () => {
  /** Visits at random places, `ways` to make each; the cost of going from where one ends to where another begins. */
  function draw(seed: number, groups: number, ways: number) {
    const chance = xorshift(seed);
    const place = (): [number, number] => [chance() * 40, chance() * 40];
    const visits = Array.from({ length: groups * ways }, () => ({ start: place(), end: place() }));
    const [start, end] = [place(), place()];
    const cost = (a: number, b: number): number => {
      const [p, q] = [a === OUTSIDE ? start : visits[a]!.end, b === OUTSIDE ? end : visits[b]!.start];
      return Math.hypot(p[0] - q[0], p[1] - q[1]);
    };
    return { cost, groups: Array.from({ length: groups }, (_, k) => Array.from({ length: ways }, (_, n) => k * ways + n)) };
  }

  const costOf = (order: readonly number[], cost: (a: number, b: number) => number): number =>
    [OUTSIDE, ...order].reduce((sum, at, k) => sum + cost(at, order[k] ?? OUTSIDE), 0);

  /** All orders, by trying each. */
  function least(groups: readonly (readonly number[])[], cost: (a: number, b: number) => number, at = OUTSIDE): number {
    if (groups.length === 0) return cost(at, OUTSIDE);
    return Math.min(
      ...groups.flatMap((group, k) =>
        group.map((visit) => cost(at, visit) + least([...groups.slice(0, k), ...groups.slice(k + 1)], cost, visit)),
      ),
    );
  }

  test('cost what the best of all orders costs, where all can be tried, and never more than the nearest next', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const { groups, cost } = draw(seed, 5, 4);
      const found = orderVisits(groups, cost);
      expect(new Set(found.map((visit) => Math.floor(visit / 4))).size).toBe(5);
      expect(costOf(found, cost)).toBeCloseTo(least(groups, cost), 9);
    }
    const { groups, cost } = draw(3, 40, 2);
    const many = orderVisits(groups, cost);
    expect([...many].map((visit) => Math.floor(visit / 2)).sort((a, b) => a - b)).toEqual(groups.map((_, k) => k));
    const nearest: number[] = [];
    for (const left = new Set(groups); left.size > 0;) {
      const at = nearest[nearest.length - 1] ?? OUTSIDE;
      const next = [...left].flat().reduce((a, b) => (cost(at, b) < cost(at, a) ? b : a));
      nearest.push(next);
      left.delete(groups[Math.floor(next / 2)]!);
    }
    expect(costOf(many, cost)).toBeLessThan(0.9 * costOf(nearest, cost));
  });

  test('keep the last one last, and are the same each time', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const { groups, cost } = draw(seed, 6, 2);
      const found = orderVisits(groups, cost, 2);
      expect(Math.floor(found[5]! / 2)).toBe(2);
      expect(orderVisits(groups, cost, 2)).toEqual(found);
    }
    expect(orderVisits([[7]], () => 1)).toEqual([7]);
    expect(orderVisits([[7, 8]], (_, b) => (b === 7 ? 2 : 1), 0)).toEqual([8]);
  });

  test('know the length of a way along an edge without going it', () => {
    const ring = Float64Array.from(
      Array.from({ length: 200 }, (_, k) => [20 * Math.cos((k * Math.PI) / 100), 12 * Math.sin((k * Math.PI) / 100)]).flat(),
    );
    const places = Float64Array.of(20.5, 0, 0, 11.6, -20, 1, 0, 0);
    const edges = new EdgeWays([ring]);
    const lengthOf = edges.lengths(places);
    for (const [a, b] of [
      [0, 1],
      [1, 2],
      [0, 2],
    ] as const) {
      const way = edges.along(places[2 * a]!, places[2 * a + 1]!, places[2 * b]!, places[2 * b + 1]!)!;
      expect(Math.abs(lengthOf(a, b)! / lengthOfPath(way) - 1)).toBeLessThan(0.03);
      expect(lengthOf(b, a)).toBeCloseTo(lengthOf(a, b)!, 9);
    }
    // The middle is near no edge.
    expect(lengthOf(0, 3)).toBeUndefined();
  });
});

describe('ways to sew an open fill', () => {
  test('with fewer paths are better, however many penetrations they take, then those with fewer of them and less that shows', () => {
    const sewn = (count: number, paths: number, shown = 0): Sewn => ({
      paths: Array.from({ length: paths }, () => new Float64Array(2)),
      ...{ count, shown },
    });
    const [one, two] = [sewn(500, 1), sewn(400, 2)];
    expect(shorter(one, two)).toBe(one);
    expect(shorter(two, one)).toBe(one);
    expect(shorter(one, sewn(500, 1))).toBe(one);
    // A way on top of the rows shows, and is taken only where it saves what is worth it.
    expect(shorter(one, sewn(485, 1, 4))).toBe(one);
    expect(shorter(one, sewn(400, 1, 4)).count).toBe(400);
    expect(shorter(sewn(500, 1, 4), sewn(520, 1)).count).toBe(520);
  });

  test('keep rows where they are, and end where asked, with few ways', () => {
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

  test('are not planned for hundreds of sections, and are sewn all the same', () => {
    // A comb of 200 teeth, sewn across them: each tooth is a section.
    const comb: number[] = [0, 0, 600, 0, 600, 12];
    for (let k = 199; k >= 0; k--) comb.push(k * 3 + 3, 12, k * 3 + 1, 12, k * 3 + 1, 4, k * 3, 4);
    const ring = Float64Array.from(comb.slice(0, -2));
    const paths = generateFill(
      [ring],
      { angle: 0, spacing: 2, stitchLength: 7, offset: 0.5 },
      { from: { x: 0, y: 2 }, to: { x: 600, y: 8 } },
    );
    expect(paths).toHaveLength(1);
    expect(paths[0]!.length / 2).toBeGreaterThan(200 * 2 * 8);
  });
});
