import { describe, expect, test } from '@jest/globals';
import polygonClipping, { type Polygon, type Ring } from 'polygon-clipping';
import { growRings } from '../../geometry/region.ts';
import { distanceToRings, signedArea } from '../../geometry/ring.ts';
import { orderOf } from '../../model/plan.ts';
import { ask, BLUE, box, circle, drawn, on, pointsOf, RED, sizeOf } from '../../testing/drawnShapes.ts';
import { ringsOf, type Drawn } from './drawing.ts';

const asPolygon = (rings: readonly Float64Array[]): Polygon =>
  rings.map((ring) => Array.from({ length: ring.length / 2 }, (_, k): [number, number] => [ring[2 * k]!, ring[2 * k + 1]!]) as Ring);
/** Polygons as that library has them: rings that end where they begin, holes the other way round. */
const sizeOfPolygons = (polygons: readonly Polygon[]): number =>
  polygons.flat().reduce((sum, ring) => sum + signedArea(Float64Array.from(ring.slice(0, -1).flat())), 0);

describe('areas', () => {
  const [large, small] = [box(0, 0, 30), circle(15, 15, 8)];

  test('are carved, cut away, grown under and joined as another library has it, to a hundredth of their size', () => {
    const { design, ids } = drawn(on('pique-polo'), [RED, [large]], [BLUE, [small], 75]);
    const [under, over] = ids as [string, string];
    const near = (drawnShape: Drawn, id: string, expected: readonly Polygon[]): void => {
      const [got, wanted] = [sizeOf(ringsOf(drawnShape.design, id)), Math.abs(sizeOfPolygons(expected))];
      expect(Math.abs(got - wanted)).toBeLessThan(0.01 * wanted);
    };
    near(
      ask(design, 'carve', { object: under, by: over, keep: 1 }),
      under,
      polygonClipping.difference(asPolygon([large]), asPolygon([circle(15, 15, 7)])),
    );
    near(
      ask(design, 'cut-away', { objects: [under], by: over, gap: 2.5 }),
      under,
      polygonClipping.difference(asPolygon([large]), asPolygon([circle(15, 15, 10.5)])),
    );
    const side = drawn(on('pique-polo'), [RED, [box(0, 0, 20)]], [BLUE, [box(20, 5, 20, 10)], 75]);
    const reached = ask(side.design, 'reach', { object: side.ids[0], under: side.ids[1], by: 0.8 });
    near(reached, side.ids[0]!, polygonClipping.union(asPolygon([box(0, 0, 20)]), asPolygon([box(20, 5, 0.8, 10)])));
    // By itself it reaches as far as the cloth pulls on both sides.
    const usual = ask(side.design, 'reach', { object: side.ids[0], under: side.ids[1] });
    expect(sizeOf(ringsOf(usual.design, side.ids[0]!)) - 400).toBeCloseTo(10 * 2 * on('pique-polo').fabric.pull, 0);
    const pieces = drawn(on('twill'), [RED, [box(0, 0, 20)]], [RED, [box(20.2, 4, 12)]]);
    const joined = ask(pieces.design, 'join', { objects: pieces.ids });
    near(joined, pieces.ids[0]!, polygonClipping.union(asPolygon([box(0, 0, 20)]), asPolygon([box(20, 4, 12.2, 12)])));
    expect(orderOf(joined.design.plan)).toEqual([pieces.ids[0]]);
  });

  test('lose their small holes and keep their large ones; what is sewn keeps to the shape', () => {
    const { design, ids } = drawn(on('twill'), [RED, [large, circle(8, 8, 2), circle(20, 20, 5)]]);
    const filled = ask(design, 'fill-holes', { under: 5 });
    expect(filled.notes.join()).toContain('area 1: 1 hole filled');
    expect(ringsOf(filled.design, ids[0]!)).toHaveLength(2);
    const inHole = pointsOf(filled.design, ids[0]!).filter(([x, y]) => Math.hypot(x - 20, y - 20) < 4.4);
    expect(inHole).toEqual([]);
    expect(pointsOf(filled.design, ids[0]!).some(([x, y]) => Math.hypot(x - 8, y - 8) < 1.5)).toBe(true);
  });

  test('grown by a distance lie at that distance of themselves, rounded at corners (by definition)', () => {
    for (const by of [0.5, 2, 6])
      for (const ring of growRings([large, circle(15, 15, 8)], by))
        for (let k = 0; k < ring.length; k += 2)
          expect(Math.abs(distanceToRings([large, circle(15, 15, 8)], ring[k]!, ring[k + 1]!) - by)).toBeLessThan(0.05);
  });
});
