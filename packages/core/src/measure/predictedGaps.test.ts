import { describe, expect, test } from '@jest/globals';
import { containsPoint } from '../geometry/ring.ts';
import { defaultTarget } from '../materials/shop.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { startDesign } from '../plan/designOf.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { demoFile } from '../testing/designs.ts';
import { predictGaps } from './predictedGaps.ts';

const on = (id: string) => ({ ...defaultTarget(), fabric: FABRICS.find((fabric) => fabric.id === id)! });
const objectsOfFile = (name: string) => objectsOf(startDesign(demoFile(name), defaultTarget()).plan).objects;

describe('gaps that are predicted in whole designs', () => {
  test.each(['kettle.csv', 'heron.csv', 'whisk.csv'])(
    'of %s lie on the edge of one and face the edge of the other, no farther off than edges that meet',
    (name) => {
      const objects = objectsOfFile(name);
      const gaps = predictGaps(objects, on('jersey'));
      expect(gaps.length).toBeGreaterThan(0);
      for (const { objects: pair, width, at, to } of gaps) {
        const [a, b] = pair.map((k) => objects[k]!);
        expect([a!.role, b!.role]).toEqual(['cover', 'cover']);
        expect(width).toBeGreaterThan(0.1);
        for (const [{ outline, holes }, place] of [
          [a!, at],
          [b!, to],
        ] as const)
          expect(Math.min(...[outline, ...holes].map((ring) => distanceTo(ring, place.x, place.y)))).toBeLessThan(1e-6);
        // Found by squares, it is what going through all places of the other edge finds: nothing of it is nearer by more than a step.
        const apart = Math.hypot(to.x - at.x, to.y - at.y);
        expect(apart).toBeLessThanOrEqual(2.5);
        if (!containsPoint([b!.outline, ...b!.holes], at.x, at.y))
          expect(distanceTo(b!.outline, at.x, at.y)).toBeLessThanOrEqual(apart + 1e-9);
      }
      // Each pair once, the widest first.
      expect(new Set(gaps.map(({ objects: pair }) => [...pair].sort().join())).size).toBe(gaps.length);
      expect(gaps.map(({ width }) => width)).toEqual(gaps.map(({ width }) => width).sort((p, q) => q - p));
    },
  );

  test('are the same whatever was asked before, and of some objects the same as those of all that they have part in', () => {
    const objects = objectsOfFile('kettle.csv');
    const target = on('jersey');
    const all = predictGaps(objects, target);
    predictGaps(objects, on('twill'));
    predictGaps(objects.slice(0, 8), target, undefined, 2);
    expect(predictGaps(objects, target)).toEqual(all);
    // Copies of outlines are edges of their own: nothing is known of them.
    const anew = objects.map((object) => ({ ...object, outline: object.outline.slice(), holes: object.holes.map((hole) => hole.slice()) }));
    expect(predictGaps(anew, target)).toEqual(all);
    const [some] = all[0]!.objects;
    const theirs = predictGaps(objects, target, new Set([some]));
    expect(theirs).toEqual(all.filter(({ objects: pair }) => pair.includes(some)));
    // Where edges may lie farther apart in plan there are more, and all of those that there were.
    const wider = predictGaps(objects, target, undefined, 1.2);
    expect(wider.length).toBeGreaterThanOrEqual(all.length);
    const pairs = new Set(wider.map(({ objects: pair }) => [...pair].sort().join()));
    for (const { objects: pair } of all) expect(pairs).toContain([...pair].sort().join());
  });

  test('widen with the cloth that gives more, each by what it says of a millimetre of pull', () => {
    const objects = objectsOfFile('kettle.csv');
    const [soft, stiff] = [on('jersey'), { ...on('jersey'), fabric: { ...on('jersey').fabric, pull: on('jersey').fabric.pull - 0.05 } }];
    const now = predictGaps(objects, soft);
    const then = new Map(predictGaps(objects, stiff).map((gap) => [gap.objects.join(), gap]));
    let compared = 0;
    for (const gap of now) {
      const other = then.get(gap.objects.join());
      if (other === undefined || other.at.x !== gap.at.x || other.at.y !== gap.at.y) continue;
      compared++;
      expect(gap.width - other.width).toBeCloseTo(0.05 * gap.perPull, 6);
    }
    expect(compared).toBeGreaterThan(0);
  });
});

/** The distance of a place from the lines of a ring, mm. */
function distanceTo(ring: Float64Array, x: number, y: number): number {
  let least = Infinity;
  for (let k = 0; k < ring.length; k += 2) {
    const next = (k + 2) % ring.length;
    const [ax, ay, dx, dy] = [ring[k]!, ring[k + 1]!, ring[next]! - ring[k]!, ring[next + 1]! - ring[k + 1]!];
    const square = dx * dx + dy * dy;
    const t = square > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / square)) : 0;
    least = Math.min(least, Math.hypot(x - ax - t * dx, y - ay - t * dy));
  }
  return least;
}
