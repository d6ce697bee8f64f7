import { describe, expect, test } from '@jest/globals';
import { Bezier } from 'bezier-js';
import fc from 'fast-check';
import { iconShape } from '../../../../bench/generators/icons.ts';
import { findCrossing } from './findCrossing.ts';
import { FIT_TOLERANCE, fitNodes } from './fitNodes.ts';
import {
  addNode,
  countNodes,
  deleteNodes,
  flattenNodes,
  isSmooth,
  isStraight,
  moveNodes,
  movePull,
  nearestOnNodes,
  NODE,
  type Nodes,
  nodesAt,
  placeOfNode,
  smooth,
  straighten,
} from './nodes.ts';
import { isMirror, keepsLengths, motionOf, moved, movedAngle } from './motion.ts';
import { thinRing } from './smoothPath.ts';
import { runs } from '../testing/runs.ts';

const round = (n: number, at: (angle: number) => number): Float64Array =>
  Float64Array.from({ length: 2 * n }, (_, k) => {
    const angle = (2 * Math.PI * (k >> 1)) / n;
    return at(angle) * (k % 2 === 0 ? Math.cos(angle) : Math.sin(angle));
  });
const FLOWER = round(2000, (a) => 20 + 6 * Math.sin(5 * a));
const BOX = Float64Array.of(0, 0, 20, 0, 20, 12, 0, 12);

/** The curves of a line as another author's library knows them (bezier-js). */
function curvesOf(nodes: Nodes, isClosed: boolean): Bezier[] {
  const count = countNodes(nodes);
  return Array.from({ length: isClosed ? count : count - 1 }, (_, k) => {
    const next = (k + 1) % count;
    const places = [placeOfNode(nodes, k), placeOfNode(nodes, k, 'out'), placeOfNode(nodes, next, 'in'), placeOfNode(nodes, next)];
    return new Bezier(places.map(([x, y]) => ({ x, y })));
  });
}
const farthest = (points: Float64Array, curves: readonly Bezier[]): number => {
  let worst = 0;
  for (let k = 0; k < points.length; k += 2) {
    const at = { x: points[k]!, y: points[k + 1]! };
    worst = Math.max(worst, Math.min(...curves.map((curve) => curve.project(at).d!)));
  }
  return worst;
};

describe('a line by few nodes', () => {
  // The bound of the method (P. J. Schneider, in Graphics Gems, 1990) is that every point lies within the tolerance; a library of another author measures it.
  test.each([
    ['a circle', round(400, () => 20), 4],
    ['a flower', FLOWER, 20],
    ['a wave with rows in its edge', round(2000, (a) => 30 + 4 * Math.sin(3 * a) + 0.03 * Math.sin(977 * a)), 16],
    ['a box', BOX, 4],
  ])('%s: every point within the tolerance, with half the nodes of the thinned polygon or fewer', (_, points, most) => {
    const nodes = fitNodes(points, true);
    const some = points.length > 200 ? points.filter((__, k) => (k >> 1) % 16 === 0) : points;
    expect(farthest(some, curvesOf(nodes, true))).toBeLessThanOrEqual(FIT_TOLERANCE + 0.01);
    expect(countNodes(nodes)).toBeLessThanOrEqual(most);
    const polygon = thinRing(points, FIT_TOLERANCE).length / 2;
    if (polygon > 4) expect(countNodes(nodes)).toBeLessThanOrEqual(polygon / 2);
    // The curves do not swing out between the points either.
    const flat = flattenNodes(nodes, true);
    const edges = nodesAt(points);
    for (let k = 0; k < flat.length; k += 64)
      expect(nearestOnNodes(edges, true, flat[k]!, flat[k + 1]!).distance).toBeLessThan(FIT_TOLERANCE + 0.05);
  });

  test('corners are kept, the line is smooth elsewhere, and what is fitted again has as many nodes', () => {
    const box = fitNodes(BOX, true);
    expect(Array.from({ length: 4 }, (_, k) => placeOfNode(box, k).join()).sort()).toEqual(['0,0', '0,12', '20,0', '20,12']);
    expect([0, 1, 2, 3].every((k) => isStraight(box, k, true))).toBe(true);
    const flower = fitNodes(FLOWER, true);
    expect(Array.from({ length: countNodes(flower) }, (_, k) => isSmooth(flower, k)).filter(Boolean).length).toBeGreaterThanOrEqual(
      countNodes(flower) - 2,
    );
    expect(Math.abs(countNodes(fitNodes(flattenNodes(flower, true), true)) - countNodes(flower))).toBeLessThanOrEqual(2);
  });

  test('whatever is drawn is followed: lines of chance, doubled points, none at all', () => {
    const place = fc.double({ min: -50, max: 50, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(place, place), { minLength: 1, maxLength: 40 }), fc.boolean(), (points, isClosed) => {
        const line = Float64Array.from(points.flat());
        const nodes = fitNodes(line, isClosed);
        expect(nodes.every(Number.isFinite)).toBe(true);
        for (let k = 0; k < line.length; k += 2)
          if (countNodes(nodes) > 1)
            expect(nearestOnNodes(nodes, isClosed, line[k]!, line[k + 1]!).distance).toBeLessThan(FIT_TOLERANCE + 1.5);
      }),
      runs(60, 7),
    );
    expect(countNodes(fitNodes(Float64Array.of(3, 4, 3, 4), false))).toBe(1);
    expect(flattenNodes([], true)).toHaveLength(0);
  });
});

describe('shapes of other hands', () => {
  // Icons of @mdi/js (Apache 2.0): drawn by others, for another purpose.
  test('open by their nodes, all of them within the tolerance, with fewer nodes than the polygon of the same error', () => {
    let [nodes, polygon] = [0, 0];
    for (const name of ['mdiBird', 'mdiFish', 'mdiLeaf', 'mdiTree', 'mdiKettle', 'mdiAnchor', 'mdiCamera', 'mdiAlphaS', 'mdiStar'])
      for (const ring of iconShape(name, 3)) {
        const fitted = fitNodes(ring, true);
        for (let k = 0; k < ring.length; k += 8)
          expect([name, nearestOnNodes(fitted, true, ring[k]!, ring[k + 1]!).distance < FIT_TOLERANCE + 0.02]).toEqual([name, true]);
        nodes += countNodes(fitted);
        polygon += thinRing(ring, FIT_TOLERANCE).length / 2;
      }
    expect(nodes).toBeLessThan(0.75 * polygon);
  });
});

describe('what is done to nodes', () => {
  const flower = fitNodes(FLOWER, true);

  test('a node more leaves the line what it was; one that is added and deleted again on a straight, too', () => {
    const more = addNode(flower, 2, 0.3, true);
    expect(countNodes(more)).toBe(countNodes(flower) + 1);
    expect(farthest(flattenNodes(more, true), curvesOf(flower, true))).toBeLessThan(0.02);
    const box = fitNodes(BOX, true);
    expect(deleteNodes(addNode(box, 1, 0.5, true), [2], true)).toEqual(box);
    expect(addNode(box, 3, 0.5, true).slice(-NODE)).toEqual(
      [10, 0, 10, 0, 10, 0].map((_, k) => placeOfNode(addNode(box, 3, 0.5, true), 4)[k % 2]),
    );
    expect(addNode(nodesAt([0, 0, 5, 0]), 1, 0.5, false)).toEqual(nodesAt([0, 0, 5, 0]));
    expect(deleteNodes(box, [0, 1], true)).toBeUndefined();
    expect(countNodes(deleteNodes(nodesAt([0, 0, 5, 0, 9, 9]), [1], false)!)).toBe(2);
  });

  test('nodes move with their pulls; a pull of a smooth node turns the other one with it, one of a corner does not', () => {
    const by = moveNodes(flower, [0, 0, 3], 2, -1);
    expect([0, 2, 4].map((k) => by[k]! - flower[k]!)).toEqual([2, 2, 2].map((v) => expect.closeTo(v, 9)));
    expect(by.slice(NODE, 2 * NODE)).toEqual(flower.slice(NODE, 2 * NODE));
    const line = smooth(nodesAt([0, 0, 10, 0, 20, 10]), [1], false);
    expect(isSmooth(line, 1)).toBe(true);
    const turned = movePull(line, 1, 'out', 10, 4);
    const [x, y] = placeOfNode(turned, 1, 'in');
    expect([x, y]).toEqual([expect.closeTo(10, 9), expect.closeTo(-10 / 3, 9)]);
    const corner = movePull(nodesAt([0, 0, 10, 0, 20, 10]), 1, 'out', 12, 5);
    expect(placeOfNode(corner, 1, 'in')).toEqual([10, 0]);
    expect(isStraight(corner, 1, false)).toBe(false);
    expect(isStraight(straighten(corner, [1], false), 1, false)).toBe(true);
    expect(isStraight(straighten(smooth(flower, [4, 5], true), [4, 5], true), 4, true)).toBe(true);
    expect(smooth(nodesAt([0, 0, 9, 0]), [0, 1], false)).toEqual(nodesAt([0, 0, 9, 0]));
  });
});

describe('moves, turns and mirrors', () => {
  test('keep lengths, go round once in four quarter turns to the last decimal, and undo themselves mirrored twice', () => {
    const points = [1.234, -5.678, 20, 3.5];
    const middle = [4, -2] as const;
    let four = points;
    for (let k = 0; k < 4; k++) four = moved(motionOf(middle, { turn: 90 }), four);
    expect(four).toEqual(points);
    const over = motionOf(middle, { mirror: 'x' });
    expect(moved(over, moved(over, points))).toEqual(points);
    expect([isMirror(over), isMirror(motionOf(middle, { turn: 33 }))]).toEqual([true, false]);
    expect([
      keepsLengths(over),
      keepsLengths(motionOf(middle, { turn: 33.3, mirror: 'y', dx: 5 })),
      keepsLengths([2, 0, 0, 1, 0, 0]),
    ]).toEqual([true, true, false]);
    expect([motionOf(middle, { turn: 30 }), over].map((motion) => movedAngle(motion, 20))).toEqual([
      expect.closeTo(50, 3),
      expect.closeTo(160, 3),
    ]);
  });

  test('paths cross where their sides change, which near misses of a billionth do not; touching counts when it is asked for', () => {
    const path = Float64Array.of(0, 0, 10, 10);
    expect(findCrossing(path, Float64Array.of(0, 10, 10, 0))).toEqual([5, 5]);
    expect(findCrossing(path, Float64Array.of(0, 1e-9, 10, 10 + 1e-9))).toBeUndefined();
    expect(findCrossing(path, Float64Array.of(5, 5, 9, 2))).toBeUndefined();
    expect(findCrossing(path, Float64Array.of(5, 5, 9, 2), true)).toEqual([5, 5]);
    expect(findCrossing(path, Float64Array.of(20, 0, 30, 1))).toBeUndefined();
  });
});
