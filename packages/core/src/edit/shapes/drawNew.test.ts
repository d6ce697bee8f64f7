import { describe, expect, test } from '@jest/globals';
import polygonClipping from 'polygon-clipping';
import { SaxesParser } from 'saxes';
import { cuttingLines } from '../../formats/svg/cuttingLines.ts';
import { fitNodes } from '../../geometry/fitNodes.ts';
import { containsPoint, orientRings } from '../../geometry/ring.ts';
import { countNodes, flattenNodes, moveNodes, nodesAt, placeOfNode, smooth } from '../../geometry/nodes.ts';
import { TEXTURES, textureOf } from '../../generate/fill/textures.ts';
import { inspectProgram } from '../../measure/inspect.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import { ProgramBuilder, STOP, TRIM } from '../../model/program.ts';
import { startDesign } from '../../plan/designOf.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { piecesOf } from '../../plan/piecesOf.ts';
import { ask, BLUE, box, circle, drawn, on, pointsOf, RED, refused, sizeOf } from '../../testing/drawnShapes.ts';
import { planFromJson, planToJson } from '../../plan/planJson.ts';
import { readObjectShape, readObjectSpec, sewSpecs } from '../sewSpecs.ts';
import { applyOperation } from '../operations/registry.ts';
import { nodesOf } from './nodes.ts';

const blank = (): Design => startDesign(new ProgramBuilder().end().build(), on('twill'));
const draw = (design: Design, values: Record<string, unknown>): { design: Design; id: string; notes: readonly string[] } => {
  const { design: next, made, notes } = ask(design, 'draw', values);
  return { design: next, id: made[0]!, notes };
};
const count = ({ program }: Design, what: number): number => program.command.filter((c) => c === what).length;
const ringsOf = (design: Design, id: string): Float64Array[] => {
  const shape = readObjectShape(design, id);
  if (!shape.ok || shape.value.kind !== 'area') throw new Error('no area');
  return orientRings(shape.value.rings.map((ring) => Float64Array.from(ring)));
};
const asPolygon = (ring: Float64Array): [number, number][] =>
  Array.from({ length: ring.length / 2 }, (_, k) => [ring[k * 2]!, ring[k * 2 + 1]!]);

describe('what is drawn', () => {
  test('a design is drawn from nothing: a shape with a hole, a line, columns by their sides and by their middle, each in its place', () => {
    const shape = draw(blank(), {
      form: 'closed',
      lines: [fitNodes(circle(0, 0, 20), true), fitNodes(circle(4, 4, 5), true)],
      color: '#1f4e5f',
    });
    const line = draw(shape.design, { form: 'line', lines: [nodesAt([-12, -25, 12, -25])], passes: 3, color: '#c08020', name: 'Stem' });
    const sides = draw(line.design, { form: 'sides', lines: [nodesAt([-10, 26, -10, 29, 0, 27, 0, 31, 10, 26, 10, 29])] });
    const middle = draw(sides.design, {
      form: 'middle',
      lines: [smooth(nodesAt([25, -10, 28, 0, 25, 10]), [1], false)],
      widths: [0.5, 4, 0.5],
      after: shape.id,
    });
    const { design } = middle;
    expect(orderOf(design.plan).map((id) => design.plan.objects[id]!.name)).toEqual(['Shape 1', 'Column 2', 'Stem', 'Column 1']);
    const objects = new Map(objectsOf(design.plan).objects.map((object) => [object.id, object]));
    expect([shape, line, sides, middle].map(({ id }) => objects.get(id)!.kind)).toEqual(['fill', 'run', 'satin', 'satin']);
    expect(objects.get(line.id)!.passes).toBe(3);
    const under = draw(design, { form: 'line', lines: [nodesAt([0, 0, 9, 0])], before: sides.id }).design;
    expect(orderOf(under.plan).map((id) => under.plan.objects[id]!.name)).toEqual(['Shape 1', 'Column 2', 'Stem', 'Line 1', 'Column 1']);
    // Each has the color of what it is sewn after where none is said.
    expect([objects.get(middle.id)!.color, objects.get(sides.id)!.color]).toEqual(['#1f4e5f', '#c08020']);
    const { min, max } = objects.get(middle.id)!.width!;
    expect([min < 0.9, max > 3.6 && max < 5]).toEqual([true, true]);
    // Nothing is sewn in the hole, but for what the cloth's pull adds at its edge.
    expect(pointsOf(design, shape.id).filter(([x, y]) => containsPoint([circle(4, 4, 4.5)], x, y))).toEqual([]);
    expect(planFromJson(planToJson(design.plan), design.plan.source)).toEqual(design.plan);
  });

  test('what crosses itself is sewn as the parts it falls into, with a word; sides that cross, too few places and impossible widths are refused', () => {
    const bow = draw(blank(), { form: 'closed', lines: [nodesAt([-8, -8, 8, 8, 8, -8, -8, 8])] });
    expect(bow.notes.join()).toMatch(/crosses.*1 ring became 2/);
    expect(sizeOf(ringsOf(bow.design, bow.id))).toBeCloseTo(128, 0);
    const why = (values: Record<string, unknown>): string => refused(blank(), 'draw', values);
    expect(why({ form: 'sides', lines: [nodesAt([0, 0, 0, 3, 5, 3, 5, 0])] })).toMatch(/sides cross at \(2\.5, 1\.5\)/);
    expect(why({ form: 'sides', lines: [nodesAt([0, 0, 0, 3])] })).toMatch(/two places on each side/);
    expect(why({ form: 'middle', lines: [nodesAt([0, 0, 9, 0])], widths: [3, 99] })).toMatch(/99 mm makes no sense/);
    expect(why({ form: 'line', lines: [nodesAt([1, 1])] })).toMatch(/two nodes/);
    expect(why({ form: 'closed', lines: [nodesAt([0, 0, 5, 5])] })).toMatch(/three nodes/);
    expect(why({ form: 'line', lines: [nodesAt([0, 0, 2500, 0])] })).toMatch(/2500 mm/);
    expect(why({ form: 'line', lines: [[1, 2, 3]] })).toMatch(/six numbers/);
    expect(why({ form: 'line', lines: [nodesAt([0, 0, 9, 0])], after: 'nobody' })).toMatch(/no object nobody/);
    const tight = draw(blank(), { form: 'middle', lines: [nodesAt([0, 0, 6, 0, 6, 1, 0, 1])], width: 4 });
    expect(tight.notes.join()).toMatch(/bends tighter than it is wide/);
  });

  // Common practice, no source: such a figure takes about 340 stitches; one path has a lock at its start and at its end and none between.
  test('a closed satin figure 22 mm across is one path of about 340 stitches without a cut', () => {
    let design = blank();
    const corner = (k: number): number[] => [11 * Math.cos((2 * Math.PI * k) / 3), 11 * Math.sin((2 * Math.PI * k) / 3)];
    for (let k = 0; k < 3; k++)
      design = draw(design, { form: 'middle', lines: [nodesAt([...corner(k), ...corner(k + 1)])], width: 2 }).design;
    const { stitches, trims } = inspectProgram(design.program, design.target);
    expect(trims).toBe(0);
    expect(Math.abs(stitches - 340) / 340).toBeLessThan(0.15);
  });

  test('strokes that lie apart become one path under what is sewn later over the way between them', () => {
    const target = { ...on('twill') };
    let design = startDesign(new ProgramBuilder().end().build(), target);
    const stroke = (x: number): void =>
      void ({ design } = draw(design, { form: 'middle', lines: [nodesAt([x, 0, x + 12, 0])], width: 3, color: '#aa2222' }));
    stroke(-30);
    const over = draw(design, { form: 'closed', lines: [fitNodes(box(-20, -6, 42, 12), true)], color: '#222266' });
    design = over.design;
    const [first] = orderOf(design.plan);
    const last = draw(design, { form: 'middle', lines: [nodesAt([22.2, 0, 34, 0])], width: 3, color: '#aa2222' });
    const cuts = count(last.design, TRIM);
    const one = ask(last.design, 'one-path', { objects: [first, last.id] });
    expect(orderOf(one.design.plan)).toEqual([first, last.id, over.id]);
    expect(count(one.design, TRIM)).toBeLessThan(cuts);
    expect(refused(one.design, 'one-path', { objects: [first, last.id] })).toMatch(/one path already/);
    expect(refused(one.design, 'one-path', { objects: [first, over.id] })).toMatch(/different threads/);
  });
});

describe('nodes of what is there', () => {
  test('a shape opens by few nodes, is sewn anew where one is moved, and opens by the same nodes again', () => {
    const { design, ids } = drawn(on('twill'), [RED, [circle(0, 0, 20), circle(0, 0, 6)]]);
    const known = nodesOf(design, ids[0]!);
    if (!known.ok) throw new Error(known.error);
    expect(known.value.lines.map(countNodes).every((n) => n <= 8)).toBe(true);
    const lines = known.value.lines.map((line, k) => (k === 0 ? moveNodes(line, [0], 4, 0) : [...line]));
    const shaped = ask(design, 'reshape', { object: ids[0], lines });
    expect(sizeOf(ringsOf(shaped.design, ids[0]!))).toBeGreaterThan(sizeOf(ringsOf(design, ids[0]!)) + 10);
    const again = nodesOf(shaped.design, ids[0]!);
    expect(again.ok && again.value.lines.map((line) => placeOfNode(line, 0))).toEqual(
      lines.map((line) => placeOfNode(line, 0).map((v) => expect.closeTo(v, 3))),
    );
    const [points, ring] = [pointsOf(shaped.design, ids[0]!), flattenNodes(lines[0]!, true)];
    expect(points.every(([x, y]) => containsPoint([circle(2, 0, 26)], x, y) && ring.length > 0)).toBe(true);
    expect(refused(design, 'reshape', { object: ids[0], lines: [nodesAt([0, 0, 5, 5])] })).toMatch(/three nodes/);
    expect(refused(design, 'reshape', { object: 'nobody', lines })).toMatch(/no object nobody/);
  });

  test('a column and a line open, too; sides that are made to cross are refused with the place', () => {
    const column = draw(blank(), { form: 'middle', lines: [nodesAt([0, 0, 20, 0])], width: 4 });
    const rails = nodesOf(column.design, column.id);
    if (!rails.ok) throw new Error(rails.error);
    expect([rails.value.kind, rails.value.isClosed, rails.value.lines.length]).toEqual(['column', false, 2]);
    const [left, right] = rails.value.lines;
    expect(refused(column.design, 'reshape', { object: column.id, lines: [moveNodes(left!, [0], 0, -9), right] })).toMatch(
      /sides cross at/,
    );
    const wider = ask(column.design, 'reshape', { object: column.id, lines: [moveNodes(left!, [0, 1], 0, 2), right] });
    expect(objectsOf(wider.design.plan).objects.find(({ id }) => id === column.id)!.width!.mean).toBeCloseTo(6, 0);
    const line = draw(column.design, { form: 'line', lines: [nodesAt([0, 9, 20, 9])] });
    expect(nodesOf(line.design, line.id)).toMatchObject({ ok: true, value: { kind: 'line', isClosed: false } });
  });
});

describe('cut, moved, turned and mirrored', () => {
  test('an area is cut along a line into two that are together what it was; a column and a line as well; a knife that misses is told so', () => {
    const { design, ids } = drawn(on('twill'), [RED, [circle(0, 0, 15), circle(5, 0, 4)]]);
    const whole = sizeOf(ringsOf(design, ids[0]!));
    const cut = ask(design, 'cut', { object: ids[0], along: [-20, -3, 0, 4, 20, -3] });
    const [left, right] = [ringsOf(cut.design, ids[0]!), ringsOf(cut.design, cut.made[0]!)];
    expect(Math.abs(sizeOf(left) + sizeOf(right) - whole)).toBeLessThan(0.5);
    const both = polygonClipping.intersection([asPolygon(left[0]!)], [asPolygon(right[0]!)]);
    expect(sizeOf(both.flat().map((ring) => Float64Array.from(ring.flat())))).toBeLessThan(0.1);
    expect(cut.design.plan.objects[cut.made[0]!]!.name).toBe('area 1, part 2');
    expect(readObjectSpec(cut.design, cut.made[0]!)).toMatchObject({ ok: true, value: { angle: 30 } });
    expect(refused(design, 'cut', { object: ids[0], along: [40, 0, 50, 0] })).toMatch(/misses area 1/);
    const column = draw(design, { form: 'middle', lines: [nodesAt([30, 0, 50, 0])], width: 4 });
    expect(ask(column.design, 'cut', { object: column.id, along: [40, -5, 40, 5] }).made).toHaveLength(1);
    const line = draw(design, { form: 'line', lines: [nodesAt([30, 0, 40, 0, 50, 0])] });
    const parts = ask(line.design, 'cut', { object: line.id, along: [40, -5, 40, 5] });
    expect(parts.made).toHaveLength(1);
    expect(refused(line.design, 'cut', { object: line.id, along: [60, -5, 60, 5] })).toMatch(/misses/);
  });

  test('an outline is cut open where it runs over something else', () => {
    const { design, ids } = drawn(on('twill'), [RED, [circle(0, 0, 15)]], [BLUE, [box(10, -5, 10)]]);
    const outlined = ask(design, 'outline', { objects: [ids[0]], as: 'satin' });
    const open = ask(outlined.design, 'cut-away', { objects: [outlined.made[0]], by: ids[1], gap: 1 });
    expect(pointsOf(open.design, outlined.made[0]!).filter(([x, y]) => containsPoint([box(10, -4, 8)], x, y))).toEqual([]);
    expect(pointsOf(open.design, outlined.made[0]!).length).toBeLessThan(pointsOf(outlined.design, outlined.made[0]!).length);
  });

  test('what is turned by a quarter four times is what it was, stitch for stitch; mirrored twice, too; spacings stay', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(-12, -8, 24, 16)]], [BLUE, [circle(0, 0, 6)]]);
    let turned = design;
    for (let k = 0; k < 4; k++) turned = ask(turned, 'place', { objects: [ids[0]], turn: 90 }).design;
    expect(pointsOf(turned, ids[0]!)).toEqual(pointsOf(design, ids[0]!));
    const once = ask(design, 'place', { objects: [ids[0]], turn: 30, dx: 3, dy: -2 });
    const before = objectsOf(design.plan).objects.find(({ id }) => id === ids[0])!;
    const after = objectsOf(once.design.plan).objects.find(({ id }) => id === ids[0])!;
    expect([after.stitches, after.spacing]).toEqual([before.stitches, before.spacing]);
    expect(after.angle).toBeCloseTo((before.angle! + 30) % 180, 1);
    // Sewn anew from its spec it stays where it is now.
    const spec = readObjectSpec(once.design, ids[0]!);
    const sewn = sewSpecs(once.design, [{ object: ids[0]!, spec: spec.ok ? { ...spec.value, spacing: 0.5 } : null }]);
    const anew = applyOperation(once.design, sewn.operations[0]!);
    expect(
      anew.ok && Math.abs(sizeOf([objectsOf(anew.value.plan).objects.find(({ id }) => id === ids[0])!.outline]) - sizeOf([after.outline])),
    ).toBeLessThan(4);
    let mirrored = design;
    for (let k = 0; k < 2; k++) mirrored = ask(mirrored, 'place', { mirror: 'sides' }).design;
    expect(pointsOf(mirrored, ids[1]!)).toEqual(pointsOf(design, ids[1]!));
    // Strokes that the thread was carried between are cut apart when one of them goes away.
    const one = draw(blank(), { form: 'middle', lines: [nodesAt([0, 0, 10, 0])], width: 3 });
    const two = draw(one.design, { form: 'middle', lines: [nodesAt([10, 0, 20, 5])], width: 3 });
    expect([count(two.design, TRIM), count(ask(two.design, 'place', { objects: [two.id], dx: 30 }).design, TRIM)]).toEqual([0, 1]);
    expect(refused(design, 'place', {})).toMatch(/how far/);
    expect(refused(design, 'place', { dx: 1000 })).toMatch(/farther than any hoop/);
  });

  test('a part is made smaller about its own middle; columns that sew thin by then are named', () => {
    const column = draw(drawn(on('twill'), [RED, [circle(0, 0, 15)]]).design, {
      form: 'middle',
      lines: [nodesAt([20, 0, 40, 0])],
      width: 1.2,
    });
    const half = ask(column.design, 'scale', { objects: [column.id], factor: 0.5 });
    expect(half.notes.join()).toMatch(/under 1 mm sew thin now: Column 1/);
    const { outline } = objectsOf(half.design.plan).objects.find(({ id }) => id === column.id)!;
    expect(outline.filter((_, k) => k % 2 === 0).reduce((sum, x) => sum + x, 0) / (outline.length / 2)).toBeCloseTo(30, 0);
    expect(pointsOf(half.design, orderOf(half.design.plan)[0]!)).toEqual(pointsOf(column.design, orderOf(column.design.plan)[0]!));
  });
});

describe('layers of applique and textures', () => {
  test('cloth is laid, shown and cut by lines of true size; with batting the cover is half a millimetre wider; piece by piece where that is asked', () => {
    const { design, ids } = drawn(on('canvas'), [RED, [circle(-20, 0, 12)]], [RED, [circle(20, 0, 12)]]);
    const asked = { objects: ids, cloth: '#88aa44', lay: 'Lay the pear cloth' };
    const flat = ask(design, 'applique', asked);
    const thick = ask(design, 'applique', { ...asked, batting: true });
    const widthOf = ({ design: of }: typeof flat): number =>
      objectsOf(of.plan).objects.find(({ name, role }) => role === 'cover' && name.startsWith('Cover'))!.width!.mean;
    expect(widthOf(thick) - widthOf(flat)).toBeCloseTo(0.5, 1);
    expect([...flat.design.program.notes.values()]).toContain('Lay the pear cloth');
    const pieces = piecesOf(objectsOf(flat.design.plan).objects);
    expect(pieces.map(({ name, color }) => [name, color])).toEqual([
      ['area 1', '#88aa44'],
      ['area 2', '#88aa44'],
    ]);
    const tags: { name: string; attributes: Record<string, string> }[] = [];
    const parser = new SaxesParser();
    parser.on('opentag', ({ name, attributes }) => tags.push({ name, attributes: attributes }));
    parser.write(cuttingLines(pieces)).close();
    const [, , wide] = tags[0]!.attributes['viewBox']!.split(' ').map(Number);
    expect(tags[0]!.attributes['width']).toBe(`${wide}mm`);
    expect(wide).toBeCloseTo(84, 0);
    expect(tags.filter(({ name }) => name === 'path')).toHaveLength(3);
    expect(count(ask(design, 'applique', { ...asked, regroup: false }).design, STOP)).toBe(2 * count(flat.design, STOP));
    expect(ask(design, 'applique', { ...asked, as: 'edge' }).made).toHaveLength(6);
    const [cover] = orderOf(flat.design.plan).slice(-1);
    expect(applyOperation(flat.design, { id: 'lay-cloth', object: cover!, piece: null })).toMatchObject({ ok: false });
  });

  test('letters a little apart become one shape when the gap is bridged', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(0, 0, 10)]], [RED, [box(11.2, 0, 10)]]);
    expect(refused(design, 'join', { objects: ids })).toMatch(/more than 0.6 mm/);
    expect(ringsOf(ask(design, 'join', { objects: ids, across: 1.4 }).design, ids[0]!)).toHaveLength(1);
  });

  test('a texture shifts the penetrations of its rows and nothing else; chance has a seed, which gives the same stitches each time', () => {
    const { design, ids } = drawn(on('twill'), [RED, [box(0, 0, 30)], 0]);
    const known = readObjectSpec(design, ids[0]!);
    if (!known.ok) throw new Error(known.error);
    const sew = (more: object): [number, number][] => {
      const { operations } = sewSpecs(design, [{ object: ids[0]!, spec: { ...known.value, ...more } }]);
      const next = applyOperation(design, operations[0]!);
      if (!next.ok) throw new Error(next.error);
      return pointsOf(next.value, ids[0]!);
    };
    const rows = (points: [number, number][]): number => new Set(points.map(([, y]) => y.toFixed(2))).size;
    const seen = new Set<string>();
    for (const { shifts } of TEXTURES) {
      const points = sew({ texture: [...shifts] });
      expect(rows(points)).toBe(rows(sew({})));
      seen.add(JSON.stringify(points));
      expect(textureOf([...shifts])?.shifts).toBe(shifts);
    }
    expect(seen.size).toBe(TEXTURES.length);
    const [one, two] = [1, 2].map((seed) => JSON.stringify(sew({ offset: 'random', seed })));
    expect(one).toBe(JSON.stringify(sew({ offset: 'random', seed: 1 })));
    expect(one).not.toBe(two);
    expect(JSON.stringify(sew({ offset: 'random' }))).toBe(JSON.stringify(sew({ offset: 'random', seed: 0 })));
  });
});
