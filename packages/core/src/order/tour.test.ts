import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { LegacyHighs } from 'highs';
import { xorshift } from '../generate/fill/xorshift.ts';
import { type ColorInstance, findColorOrder } from './colorOrder.ts';
import { findTour } from './tour.ts';
import { costOfTour, type TourInstance } from './tourInstance.ts';
import { runs } from '../testing/runs.ts';

// A mixed-integer solver (HiGHS in WebAssembly), to check against only.
let highs: LegacyHighs;
beforeAll(async () => {
  const { default: load } = await import('highs');
  highs = await load();
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

  test('of fifty and three hundred stops with precedence are within 3 % and 8 % of ways that cannot be shorter', () => {
    // On a grid of pitch 1 no step is shorter than 1, and a way to and fro takes no others: count − 1 is the optimum (plain geometry).
    for (const [columns, rows, promise] of [
      [5, 10, 0.03],
      [15, 20, 0.08],
    ] as const) {
      const count = columns * rows;
      const random = xorshift(count);
      const shuffled = Array.from({ length: count }, (_, k) => ({ k, at: random() })).sort((a, b) => a.at - b.at);
      const places = shuffled.map(({ k }) => {
        const row = Math.floor(k / columns);
        return { x: row % 2 === 0 ? k % columns : columns - 1 - (k % columns), y: row, k };
      });
      // One in eight has to come after some that the best way meets before it.
      const before = places.map(({ k }) =>
        k % 8 === 0 ? places.flatMap((other, n) => (other.k < k && random() < 3 / count ? [n] : [])) : [],
      );
      const grid: TourInstance = { count, cost: (a, b) => Math.hypot(places[a]!.x - places[b]!.x, places[a]!.y - places[b]!.y), before };
      // An order that keeps precedence and is far from good: all that wait for nothing as they lie shuffled, then the others.
      const waits = (n: number): number => (places[n]!.k % 8 === 0 ? places[n]!.k : -1);
      const order = findTour(
        grid,
        [...places.keys()].sort((a, b) => waits(a) - waits(b)),
      );
      expect(new Set(order).size).toBe(count);
      const at = new Map(order.map((stop, k) => [stop, k]));
      before.forEach((list, k) => list.forEach((b) => expect(at.get(b)!).toBeLessThan(at.get(k)!)));
      expect(costOfTour(grid, order) / (count - 1) - 1).toBeLessThanOrEqual(promise);
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
      runs(12, 19),
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
      runs(150, 3),
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
