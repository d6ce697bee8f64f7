import { describe, expect, test } from '@jest/globals';
import { containsPoint, distanceToRings } from '../../geometry/ring.ts';
import { orderOf } from '../../model/plan.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { readObjectSpec } from '../sewSpecs.ts';
import { STOP } from '../../model/program.ts';
import { ask, BLUE, box, circle, drawn, on, pointsOf, RED, sizeOf } from '../../testing/drawnShapes.ts';
import { ringsOf, type Drawn } from './drawing.ts';

describe('edges', () => {
  test('an outline lies where it was asked, within 0.1 mm, on every side of the edge and around holes; its satin is as wide as asked', () => {
    const shape = [circle(0, 0, 15), circle(2, 1, 5)];
    const { design, ids } = drawn(on('twill'), [RED, shape]);
    for (const [place, offset, distance] of [
      ['center', 0, 0],
      ['inside', 1, -1],
      ['outside', 1.5, 1.5],
    ] as const) {
      const { design: after, made } = ask(design, 'outline', { objects: ids, as: 'triple', place, offset });
      expect(made).toHaveLength(2);
      for (const id of made)
        for (const [x, y] of pointsOf(after, id)) {
          expect(Math.abs(distanceToRings(shape, x, y) - Math.abs(distance))).toBeLessThan(0.1);
          if (distance !== 0) expect(containsPoint(shape, x, y)).toBe(distance < 0);
        }
    }
    // The satin of an outline reaches half its width to both sides.
    const satin = ask(design, 'outline', { objects: ids, width: 2, color: '#111111' });
    for (const [x, y] of satin.made.flatMap((id) => pointsOf(satin.design, id)))
      expect(Math.abs(distanceToRings(shape, x, y) - 1)).toBeLessThan(0.15);
    expect(satin.notes.join()).toMatch(/area 1: its edge run was taken out, since the outline covers its edge/);
    const spec = readObjectSpec(satin.design, ids[0]!);
    expect(spec.ok && spec.value.underlay.map(({ kind }) => kind)).toEqual(['tatami']);
    // It is sewn right after what it outlines, in its own thread.
    expect(orderOf(satin.design.plan)).toEqual([...ids, ...satin.made]);
    expect(satin.design.plan.blocks.map(({ thread }) => thread?.color)).toEqual([RED.color, '#111111']);
  });

  test('outlines that overlap are each whole, one around all, or without what a later object hides', () => {
    const [left, right] = [box(0, 0, 20), box(12, 5, 20)];
    const { design, ids } = drawn(on('twill'), [RED, [left]], [BLUE, [right], 75]);
    const lengthOf = ({ design: after, made }: Drawn): number =>
      made.reduce((sum, id) => {
        const { entry } = objectsOf(after.plan).objects.find((o) => o.id === id)!;
        const points = [[entry.x, entry.y] as const, ...pointsOf(after, id)];
        return sum + points.slice(1).reduce((length, [x, y], k) => length + Math.hypot(x - points[k]![0], y - points[k]![1]), 0);
      }, 0);
    const of = (overlap: string): Drawn => ask(design, 'outline', { objects: ids, as: 'run', overlap });
    expect(lengthOf(of('whole'))).toBeCloseTo(160, 0);
    // The union of both squares is as long around as one of 32 by 25 mm.
    expect(Math.abs(lengthOf(of('merged')) - 114)).toBeLessThan(1);
    // Of the left one 8 + 15 mm lie under the right one.
    expect(Math.abs(lengthOf(of('trimmed')) - (160 - 23))).toBeLessThan(2.5);
    for (const [x, y] of pointsOf(of('trimmed').design, of('trimmed').made[0]!))
      if (distanceToRings([right], x, y) > 0.2) expect(containsPoint([right], x, y)).toBe(false);
  });

  test('a border lies at its distance and is as wide as asked within 0.2 mm; a backing is sewn first; a nap layer covers design and margin and leaves open what is open', () => {
    const ring = [circle(0, 0, 20), circle(0, 0, 14)];
    const { design, ids } = drawn(on('terry'), [RED, ring]);
    const edge = ask(design, 'border', { distance: 3, width: 2 });
    const away = edge.made.flatMap((id) => pointsOf(edge.design, id)).map(([x, y]) => Math.hypot(x, y) - 20);
    expect(edge.made).toHaveLength(1);
    expect([Math.min(...away), Math.max(...away)].map((d, k) => Math.abs(d - [3, 5][k]!) < 0.2)).toEqual([true, true]);
    expect(orderOf(edge.design.plan)).toEqual([...ids, ...edge.made]);

    const back = ask(design, 'backing', { margin: 3, color: '#444444' });
    expect(orderOf(back.design.plan)).toEqual([...back.made, ...ids]);
    expect(sizeOf(ringsOf(back.design, back.made[0]!))).toBeCloseTo(Math.PI * 23 ** 2, -1);
    const open = ask(design, 'backing', { margin: 3, holes: 'keep' });
    expect(sizeOf(ringsOf(open.design, open.made[0]!))).toBeCloseTo(Math.PI * (23 ** 2 - 11 ** 2), -1);

    const held = ask(design, 'nap', { margin: 2 });
    const [id] = held.made;
    const spec = readObjectSpec(held.design, id!);
    expect(spec.ok && [spec.value.isOpen, spec.value.spacing >= 1 && spec.value.spacing <= 2, spec.value.underlay]).toEqual([
      true,
      true,
      [],
    ]);
    expect(held.design.plan.blocks[0]!.thread!.color).toBe('#dddddd');
    for (const [x, y] of pointsOf(held.design, id!)) {
      expect(Math.hypot(x, y)).toBeGreaterThan(11.7);
      expect(Math.hypot(x, y)).toBeLessThan(22.3);
    }
    // After it the machine stops for the topping of that cloth.
    const { program } = held.design;
    const stops = Array.from(program.command.keys()).filter((row) => program.command[row] === STOP);
    expect(stops.map((row) => program.notes.get(row))).toEqual(['Lay the film topping']);
  });
});
