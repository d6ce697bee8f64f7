import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { containsPoint, windsAround } from '../geometry/ring.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { countLevels, findLayers } from './layerGraph.ts';
import { runs } from '../testing/runs.ts';

/** An object of which only what layers ask for is filled in. */
function cover(outline: Float64Array, more: Partial<StitchObject> = {}): StitchObject {
  const place = { x: 0, y: 0 };
  const spans = [{ first: 0, last: 0 }];
  return {
    ...{ id: 'o', name: 'fill', kind: 'fill', role: 'cover', thread: 0, color: '#000000', first: 0, last: 0, spans, stitches: 1 },
    ...{ stitchLength: 4, outline, holes: [], underlay: [], entry: place, exit: place, confidence: 1 },
    ...more,
  };
}

const box = (x: number, y: number, width: number, height: number): Float64Array =>
  Float64Array.of(x, y, x + width, y, x + width, y + height, x, y + height);

const CELL = 0.25;

/** Area in both, counted in cells of a quarter millimetre. */
function countShared(a: StitchObject, b: StitchObject): number {
  let cells = 0;
  for (let x = -2; x < 34; x += CELL) {
    for (let y = -2; y < 34; y += CELL) {
      const isIn = (o: StitchObject): boolean =>
        o.kind === 'satin'
          ? windsAround(o.outline, x + CELL / 2, y + CELL / 2)
          : containsPoint([o.outline, ...o.holes], x + CELL / 2, y + CELL / 2);
      if (isIn(a) && isIn(b)) cells++;
    }
  }
  return cells * CELL * CELL;
}

describe('layers', () => {
  test('are all pairs of covers that share more than a hair, with the area that counting cells gives', () => {
    const anyBox = fc.record({
      x: fc.integer({ min: 0, max: 20 }),
      y: fc.integer({ min: 0, max: 20 }),
      w: fc.integer({ min: 1, max: 12 }),
      h: fc.integer({ min: 1, max: 12 }),
    });
    fc.assert(
      fc.property(fc.array(anyBox, { minLength: 2, maxLength: 6 }), (boxes) => {
        const objects = boxes.map(({ x, y, w, h }) => cover(box(x, y, w, h)));
        const layers = findLayers(objects);
        for (let over = 1; over < objects.length; over++) {
          for (let under = 0; under < over; under++) {
            const shared = countShared(objects[over]!, objects[under]!);
            const layer = layers.find((l) => l.over === over && l.under === under);
            expect(layer?.area ?? 0).toBeCloseTo(shared, 5);
          }
        }
        const levels = countLevels(objects, layers);
        for (const { over, under } of layers) expect(levels[over]).toBeGreaterThan(levels[under]!);
        objects.forEach((_, k) => {
          if (levels[k] === 0) expect(layers.some((l) => l.over === k)).toBe(false);
        });
      }),
      runs(25, 20261125),
    );
  });

  test('know holes, and columns that overlap themselves on a tight bend', () => {
    const ring = cover(box(0, 0, 20, 20), { holes: [Float64Array.of(5, 5, 5, 15, 15, 15, 15, 5)] });
    const inHole = cover(box(6, 6, 8, 8));
    const overHole = cover(box(4, 4, 12, 12));
    expect(findLayers([ring, inHole])).toEqual([]);
    expect(findLayers([ring, overHole])[0]!.area).toBeCloseTo(44, 3);
    // A loop wound twice: by the even-odd rule its middle would be a hole.
    const twice = cover(Float64Array.of(2, 2, 18, 2, 18, 18, 2, 18, 2, 2, 18, 2, 18, 18, 2, 18), { kind: 'satin' });
    expect(findLayers([twice, inHole])[0]!.area).toBeCloseTo(64, 3);
  });

  test('leave out what is no cover, what has no area, and what only touches', () => {
    const base = cover(box(0, 0, 10, 10));
    expect(findLayers([base, cover(box(10, 0, 10, 10)), cover(box(9.99, 0, 5, 10))])).toHaveLength(1);
    expect(findLayers([base, cover(box(2, 2, 4, 4), { role: 'underlay' }), cover(new Float64Array(0), { kind: 'run' })])).toEqual([]);
    expect(findLayers([])).toEqual([]);
  });
});
