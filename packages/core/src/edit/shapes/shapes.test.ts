import { describe, expect, test } from '@jest/globals';
import polygonClipping, { type Polygon, type Ring } from 'polygon-clipping';
import { growRings } from '../../geometry/region.ts';
import { containsPoint, distanceToRings, signedArea } from '../../geometry/ring.ts';
import { FABRICS } from '../../materials/fabrics.ts';
import { defaultTarget } from '../../materials/shop.ts';
import { inspectProgram } from '../../measure/inspect.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import { COLOR, ProgramBuilder, STITCH, STOP } from '../../model/program.ts';
import { startDesign } from '../../plan/designOf.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { demoFile } from '../../testing/designs.ts';
import { extendHistory, startHistory } from '../journal.ts';
import type { Operation } from '../operations/registry.ts';
import { readObjectSpec } from '../sewSpecs.ts';
import { asArea, Drawing, type Drawn, ringsOf, specFor } from './drawing.ts';
import { drawShapes, readShapeAsk, SHAPE_NAMES, type ShapeName } from './drawShapes.ts';

const [RED, BLUE] = [
  { color: '#aa2222', name: 'Red' },
  { color: '#2222aa', name: 'Blue' },
];
let count = 0;
const newId = (): string => `new-${++count}`;
const on = (id: string): Design['target'] => ({
  ...defaultTarget(),
  fabric: FABRICS.find((f) => f.id === id)!,
  clothColor: '#dddddd',
  garment: null,
});
const box = (x: number, y: number, w: number, h = w): Float64Array => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
const circle = (x: number, y: number, r: number, n = 96): Float64Array =>
  Float64Array.from({ length: 2 * n }, (_, k) =>
    k % 2 === 0 ? x + r * Math.cos((Math.PI * k) / n) : y + r * Math.sin((Math.PI * (k - 1)) / n),
  );

/** A design of areas, drawn from a single stitch, in sewing order; what it began with is taken out. */
function drawn(
  target: Design['target'],
  ...areas: readonly (readonly [thread: typeof RED, rings: readonly Float64Array[], angle?: number])[]
) {
  const seed = new ProgramBuilder().color('#123456', 'Seed').jump(60, 60).stitch(60, 60).stitch(63, 60).stitch(66, 60).trim().end().build();
  const drawing = new Drawing(startDesign(seed, target), newId);
  const [first] = orderOf(drawing.design.plan);
  const ids = areas.map(([thread, rings, angle = 30], k) => {
    const added = drawing.add({
      name: `area ${k + 1}`,
      thread: thread,
      before: null,
      spec: specFor(target, 'fill', { angle }),
      shape: asArea(rings),
    });
    if (!added.ok) throw new Error(added.error);
    return added.value;
  });
  if (!drawing.remove([first!]).ok) throw new Error('the seed stays');
  return { design: drawing.design, ids };
}

function ask(design: Design, name: ShapeName, values: Record<string, unknown>): Drawn {
  const asked = readShapeAsk(name, values);
  if (!asked.ok) throw new Error(asked.error);
  const made = drawShapes(design, asked.value, newId);
  if (!made.ok) throw new Error(made.error);
  return made.value;
}
function refused(design: Design, name: ShapeName, values: Record<string, unknown>): string {
  const asked = readShapeAsk(name, values);
  if (!asked.ok) return asked.error;
  const made = drawShapes(design, asked.value, newId);
  if (made.ok) throw new Error('it was done');
  return made.error;
}
/** Penetrations of an object, ties left out. */
function pointsOf({ plan, program }: Design, id: string): [number, number][] {
  return objectsOf(plan)
    .objects.filter((o) => o.id === id)
    .flatMap(({ spans }) => spans.flatMap(({ first, last }) => Array.from({ length: last - first + 1 }, (_, k) => first + k)))
    .filter((row) => program.command[row] === STITCH)
    .map((row) => [program.x[row]!, program.y[row]!]);
}
const asPolygon = (rings: readonly Float64Array[]): Polygon =>
  rings.map((ring) => Array.from({ length: ring.length / 2 }, (_, k): [number, number] => [ring[2 * k]!, ring[2 * k + 1]!]) as Ring);
const sizeOfPolygons = (polygons: readonly Polygon[]): number =>
  polygons
    .flat()
    .reduce((sum, ring, k, all) => sum + (all.length === 0 ? 0 : signedArea(Float64Array.from(ring.slice(0, -1).flat()))) + 0 * k, 0);
const sizeOf = (rings: readonly Float64Array[]): number => Math.abs(rings.reduce((sum, ring) => sum + signedArea(ring), 0));

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

describe('the whole', () => {
  test('what is drawn in several pieces is cut between them: nothing is walked outside of what it covers', () => {
    const { design } = drawn(on('fleece'), [RED, [circle(0, 0, 6)]], [RED, [circle(50, 10, 6)]], [RED, [circle(20, 50, 6)]]);
    const { design: after, made } = ask(design, 'nap', { margin: 2 });
    expect(made).toHaveLength(3);
    const far = made.flatMap((id) => {
      const rings = ringsOf(after, id);
      const object = after.plan.objects[id]!.sewn;
      return pointsOf(after, id)
        .concat([[object.start.x, object.start.y]])
        .filter(([x, y]) => !containsPoint(rings, x, y) && distanceToRings(rings, x, y) > 0.6);
    });
    expect(far).toEqual([]);
    const { trims } = inspectProgram(after.program, after.target);
    expect(trims - inspectProgram(design.program, design.target).trims).toBe(3);
  });

  test('scaled keeps its spacing within 3 %, and its count goes with its area', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(0, 0, 30)]], [BLUE, [circle(60, 15, 14)], 75]);
    for (const factor of [0.7, 1.5]) {
      const { design: after } = ask(design, 'scale', { factor });
      const [before, now] = [design, after].map((d) => inspectProgram(d.program, d.target));
      expect(now!.extents.width / before!.extents.width).toBeCloseTo(factor, 1);
      expect(Math.abs(now!.stitches / before!.stitches / factor ** 2 - 1)).toBeLessThan(0.12);
      for (const id of ids) {
        const [was, is] = [design, after].map((d) =>
          objectsOf(startDesign(d.program, d.target).plan).objects.filter((o) => o.role === 'cover'),
        );
        expect(is!.map((o, k) => Math.abs(o.spacing! / was![k]!.spacing! - 1) < 0.03)).toEqual(is!.map(() => true));
        expect(after.plan.objects[id]!.name).toBe(design.plan.objects[id]!.name);
      }
    }
    // A file of another hand, with all that is in it.
    const heron = startDesign(demoFile('heron.csv'), on('twill'));
    const larger = ask(heron, 'scale', { factor: 1.2 });
    const [a, b] = [heron, larger.design].map((d) => inspectProgram(d.program, d.target).extents);
    expect(b!.width / a!.width).toBeCloseTo(1.2, 1);
  });

  test('applique is placement, stop, tack-down, stop and cover for all pieces; the pieces are sewn no more', () => {
    const { design, ids } = drawn(on('canvas'), [RED, [circle(0, 0, 12)]], [RED, [circle(40, 0, 12)]]);
    const { design: after, made } = ask(design, 'applique', { objects: ids, cover: 2.5 });
    expect(made).toHaveLength(6);
    expect(orderOf(after.plan)).toEqual(made);
    expect(made.map((id) => objectsOf(after.plan).objects.find((o) => o.id === id)!.role)).toEqual([
      ...['placement', 'placement', 'tackdown', 'tackdown', 'cover', 'cover'],
    ]);
    const { program } = after;
    const order = Array.from(program.command.keys()).flatMap((row) => (program.command[row] === STOP ? [program.notes.get(row)!] : []));
    expect(order.map((note) => note.split(' ')[0])).toEqual(['Lay', 'Cut']);
    // Each step has its own color row, so that the machine stops and blocks do not merge (common practice).
    expect(Array.from(program.command).filter((c) => c === COLOR)).toHaveLength(3);
    // The tack-down lies under the cover, which reaches 1.25 mm to both sides.
    for (const id of made.slice(2, 4))
      for (const [x, y] of pointsOf(after, id)) expect(Math.min(Math.hypot(x, y), Math.hypot(x - 40, y)) + 0).toBeGreaterThan(12 - 1.4);
  });

  test('is drawn and taken back as steps of a journal, on the objects of a file, without touching what was not meant', () => {
    const heron = startDesign(demoFile('heron.csv'), on('twill'));
    const steps = ['border', 'nap', 'backing'].map((name) => ask(heron, name as ShapeName, {}));
    for (const { operations } of steps) {
      const operation = JSON.parse(JSON.stringify({ id: 'sequence', operations })) as Operation;
      const done = extendHistory(startHistory(heron), { id: crypto.randomUUID(), kind: 'do', name: 'draw', operation });
      if (!done.ok) throw new Error(done.error);
      for (const id of orderOf(heron.plan)) expect(done.value.design.plan.objects[id]).toBe(heron.plan.objects[id]);
      const undone = extendHistory(done.value, { id: crypto.randomUUID(), kind: 'undo' });
      expect(undone.ok && undone.value.design).toBe(heron);
    }
    const { operations } = ask(heron, 'remove', { objects: [orderOf(heron.plan)[3]] });
    expect(operations).toHaveLength(1);
  });

  test('what makes no sense is refused with its reason', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(0, 0, 20)]], [BLUE, [box(40, 0, 3, 1.2)]]);
    const [wide, narrow] = ids as [string, string];
    expect(refused(design, 'outline', { objects: [narrow], as: 'run', place: 'inside', offset: 2 })).toMatch(
      /too narrow for that distance/,
    );
    expect(refused(design, 'carve', { object: wide, by: narrow, keep: 1 })).toMatch(/too narrow to leave 1 mm/);
    expect(refused(design, 'carve', { object: narrow, by: wide, keep: 0 })).toMatch(/do not lie on each other/);
    expect(refused(design, 'reach', { object: wide, under: narrow })).toMatch(/does not meet/);
    expect(refused(design, 'join', { objects: ids })).toMatch(/different threads/);
    expect(refused(design, 'fill-holes', {})).toMatch(/no object has a hole/);
    expect(refused(design, 'remove', { objects: ids })).toMatch(/nothing would be left/);
    expect(refused(design, 'remove', { objects: ['none'] })).toMatch(/no object none/);
    expect(refused(design, 'scale', { factor: 40 })).toMatch(/makes no sense/);
    expect(refused(design, 'scale', { factor: NaN })).toMatch(/factor/);
    expect(refused(design, 'recolor', { block: 9, color: '#111111' })).toMatch(/no block 9; there are 2/);
    expect(refused(design, 'border', { color: 'red' })).toMatch(/#rrggbb/);
    expect(refused(design, 'outline', { objects: [] })).toMatch(/objects/);
    const line = new ProgramBuilder().color('#123456', '').jump(0, 0);
    for (let k = 0; k < 12; k++) line.stitch(2.5 * k, 0);
    const runs = startDesign(line.trim().end().build(), on('twill'));
    const [run] = orderOf(runs.plan);
    expect(refused(runs, 'outline', { objects: [run] })).toMatch(/only areas and columns/);
    // A border goes around lines, too.
    expect(ask(runs, 'border', {}).made).toHaveLength(1);
    expect(SHAPE_NAMES).toHaveLength(13);
  });
});
