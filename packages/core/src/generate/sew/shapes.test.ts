import { describe, expect, test } from '@jest/globals';
import { Clipper, FillRule } from 'clipper2-ts';
import fc from 'fast-check';
import { svgPathProperties } from 'svg-path-properties';
import { offsetRings } from '../../geometry/offset.ts';
import { lengthOfPath } from '../../geometry/path.ts';
import { smoothPath, thinPath } from '../../geometry/smoothPath.ts';
import { signedArea } from '../../geometry/ring.ts';
import { type ObjectShape, type ObjectSpec, USUAL_SPEC } from '../../model/objectSpec.ts';
import { type Column, generateColumns } from '../column/columns.ts';
import { columnAlongLine, columnOfArea } from './convertShape.ts';
import { generateFill } from '../fill/fill.ts';
import { generateObject } from './generateObject.ts';
import { insideShare, outsideShapes, square, stepsOf } from '../../testing/outsideShapes.ts';
import { repairShape } from './repairShape.ts';
import { generateSatin } from '../column/satin.ts';
import { generateLock } from '../line/tie.ts';
import { createWalk } from '../fill/walker.ts';
import { runs, someOf, triesOf } from '../../testing/runs.ts';

const SPEC: ObjectSpec = { ...USUAL_SPEC, angle: 20 };

const SHAPES = outsideShapes();

describe('shapes that cannot be sewn as they are', () => {
  test('are made sound by the even-odd rule, as a geometry library has them, and it is said what was done', () => {
    const bowTie = Float64Array.of(0, 0, 20, 20, 20, 0, 0, 20);
    const spiked = Float64Array.of(0, 0, 10, 0, 10, 5, 40, 5, 10, 5, 10, 10, 0, 10);
    const touching = [square(20), square(5, 0, 5)];
    for (const rings of [[bowTie], [spiked], touching, [square(10), new Float64Array(0), Float64Array.of(3, 3, 4, 4)]]) {
      const shape = repairShape(rings);
      if (!shape.ok) throw new Error(shape.error);
      const paths = rings
        .filter((r) => r.length >= 6)
        .map((r) => Array.from({ length: r.length / 2 }, (_, k) => ({ x: r[k * 2]!, y: r[k * 2 + 1]! })));
      const area = Clipper.areaPathsD(Clipper.unionD(paths, [], FillRule.EvenOdd, 4));
      expect(shape.value.rings.reduce((sum, ring) => sum + signedArea(ring), 0)).toBeCloseTo(area, 1);
      // A spike is left out without a word: nothing of the area is lost.
      expect(shape.value.notes).toHaveLength(rings[0] === spiked ? 0 : 1);
      for (const path of generateFill(rings, SPEC)) expect(insideShare(offsetRings(shape.value.rings, 0.3), path)).toBe(1);
    }
    expect(repairShape([square(10)])).toMatchObject({ ok: true, value: { notes: [] } });
  });

  test.each<[string, ObjectShape, Partial<ObjectSpec>, RegExp]>([
    ['no number', { kind: 'area', rings: [[0, 0, NaN, 5, 5, 5]] }, {}, /corner 2 of the outline is not a number/],
    ['beyond any field', { kind: 'area', rings: [[0, 0, 5000, 5, 5, 5]] }, {}, /5000 mm/],
    ['no area', { kind: 'area', rings: [[0, 0, 10, 0, 20, 0]] }, {}, /encloses no area/],
    [
      'thinner than its pitch',
      { kind: 'area', rings: [[...square(20).map((v, k) => (k % 2 === 1 ? v * 0.01 : v))]] },
      { kind: 'contour', spacing: 2 },
      /too thin/,
    ],
    ['no spacing', { kind: 'area', rings: [[...square(20)]] }, { spacing: 0 }, /spacing of 0.1 mm/],
    ['no angle', { kind: 'area', rings: [[...square(20)]] }, { angle: NaN }, /angle in degrees/],
    ['a line as a fill', { kind: 'line', path: [0, 0, 10, 0] }, {}, /encloses nothing/],
    ['a ring as a satin', { kind: 'area', rings: [[...square(20)], [...square(10, 5, 5)]] }, { kind: 'satin' }, /holes/],
    ['a square as a satin', { kind: 'area', rings: [[...square(30)]] }, { kind: 'satin' }, /12 mm/],
    ['a column of one point', { kind: 'column', left: [1, 1, 1, 1], right: [1, 1, 1, 1] }, { kind: 'satin' }, /no length/],
    ['a run of nothing', { kind: 'line', path: [2, 2, 2, 2] }, { kind: 'run' }, /no length/],
    ['an edge too short', { kind: 'line', path: [0, 0, 1, 0] }, { kind: 'edge-stitch', spacing: 3 }, /shorter/],
  ])('are refused with the reason: %s', (_, shape, spec, why) => {
    const made = generateObject(shape, { ...SPEC, ...spec });
    expect(made.ok ? '' : made.error).toMatch(why);
  });

  test('columns whose edges cross, run against each other or share a point are sewn without a throw that does not hold', () => {
    const crossing = { kind: 'column' as const, left: [0, 0, 20, 4], right: [0, 4, 20, 0] };
    const against = { kind: 'column' as const, left: [0, 0, 20, 0], right: [20, 3, 0, 3] };
    const pointed = { kind: 'column' as const, left: [0, 0, 10, 3, 20, 0], right: [0, 0, 10, -3, 20, 0] };
    for (const shape of [crossing, against, pointed]) {
      const made = generateObject(shape, { ...SPEC, kind: 'satin' });
      if (!made.ok) throw new Error(made.error);
      const path = made.value.parts.find((p) => p.role === 'cover')!.points;
      expect(Math.min(...stepsOf(path))).toBeGreaterThan(0.3);
      expect(Math.max(...stepsOf(path))).toBeLessThan(7.01);
      for (let k = 0; k < path.length; k += 2) expect(path[k]! > -0.6 && path[k]! < 20.6 && Math.abs(path[k + 1]!) < 4.6).toBe(true);
    }
  });

  test('whatever the corners, an answer comes and stays within them', () => {
    const corner = fc.integer({ min: -20, max: 20 });
    fc.assert(
      fc.property(
        fc.array(corner, { minLength: 6, maxLength: 24 }),
        fc.constantFrom('fill', 'contour', 'meander', 'satin', 'edge-stitch'),
        (values, kind) => {
          const rings = [values.slice(0, values.length - (values.length % 2))];
          const made = generateObject({ kind: 'area', rings }, { ...SPEC, kind, spacing: kind === 'fill' ? 0.8 : 1.5 });
          if (!made.ok) return;
          const reach = kind === 'edge-stitch' ? 24.5 : 20.7;
          for (const { points } of made.value.parts) for (const v of points) expect(Math.abs(v)).toBeLessThan(reach);
        },
      ),
      runs(50, 4),
    );
  });
});

describe('a shape that is sewn again and again', () => {
  test.each(SHAPES.slice(0, triesOf(3)))('$name: comes out as if it were sewn the first time, whatever was tried before', ({ rings }) => {
    const shape: ObjectShape = { kind: 'area', rings: rings.map((ring) => [...ring]) };
    const tries = [40, 90].flatMap((angle): ObjectSpec[] => [
      { ...SPEC, angle, spacing: 0.8, underlay: [{ kind: 'tatami' }, { kind: 'edge-run', inset: 0.8 }] },
      { ...SPEC, angle, spacing: 0.8, underlay: [{ kind: 'tatami', angle: 15 }, { kind: 'zigzag' }] },
    ]);
    const ends = { from: { x: rings[0]![0]!, y: rings[0]![1]! } };
    const pointsOf = (of: ObjectShape, spec: ObjectSpec): string => {
      const made = generateObject(of, spec, ends);
      return made.ok ? made.value.parts.map((part) => `${part.role} ${part.points.join(' ')}`).join() : made.error;
    };
    const fresh = tries.map((spec) => pointsOf(structuredClone(shape), spec));
    expect(new Set(fresh).size).toBe(tries.length);
    for (const k of [0, 1, 2, 3, 1, 0]) expect(pointsOf(shape, tries[k]!) === fresh[k]).toBe(true);
  });
});

describe('fills', () => {
  test.each(someOf(SHAPES))('$name: one path a part, from where it is entered to where it is left', ({ rings, parts }) => {
    const spec = { angle: 35, spacing: 0.5, stitchLength: 4, offset: 0.3 };
    expect(generateFill(rings, spec)).toHaveLength(parts);
    if (parts > 1) return;
    const [from, to] = [rings[0]!.slice(0, 2), rings[0]!.slice(20, 22)];
    const [path] = generateFill(rings, spec, { from: { x: from[0]!, y: from[1]! }, to: { x: to[0]!, y: to[1]! } });
    expect([path![0], path![1]]).toEqual([...from]);
    expect(Math.hypot(path![path!.length - 2]! - to[0]!, path![path!.length - 1]! - to[1]!)).toBeLessThan(0.35);
    expect(insideShare(offsetRings(rings, 0.3), path!)).toBe(1);
  });

  test('rows reach beyond the edge by the compensation, and from both sides of a slit by half of what lies between', () => {
    const slit = [square(20), Float64Array.of(9.9, 2, 10.1, 2, 10.1, 18, 9.9, 18)];
    const [path] = generateFill(slit, { angle: 0, spacing: 0.4, stitchLength: 4, offset: 0.3, pull: 0.4 });
    expect(Math.max(...path!.filter((_, k) => k % 2 === 0))).toBeCloseTo(20.4, 6);
    expect(Math.min(...path!.filter((_, k) => k % 2 === 0))).toBeCloseTo(-0.4, 6);
    const inSlit = Array.from({ length: path!.length / 2 }, (_, k) => [path![k * 2]!, path![k * 2 + 1]!]).filter(
      ([x, y]) => x! > 9.6 && x! < 10.4 && y! > 3 && y! < 17,
    );
    expect(inSlit.length).toBeGreaterThan(50);
    expect(Math.min(...inSlit.map(([x]) => Math.abs(x! - 10)))).toBeLessThan(1e-6);
  });

  test('rows turn from one angle line to the next', () => {
    const arc = Array.from({ length: 31 }, (_, k) => [26 * Math.cos((k * Math.PI) / 30), 26 * Math.sin((k * Math.PI) / 30)]);
    const inner = [...arc].reverse().map(([x, y]) => [x! * 0.4, y! * 0.4]);
    const [path] = generateFill([Float64Array.from([...arc, ...inner].flat())], {
      ...{ angle: 0, spacing: 0.6, stitchLength: 4, offset: 0.3 },
      angleLines: [
        [10, 0.5, 26, 0.5],
        [0, 10, 0, 26],
        [-10, 0.5, -26, 0.5],
      ],
    });
    let off = 0;
    let asked = 0;
    for (let k = 2; k < path!.length; k += 2) {
      const [dx, dy] = [path![k]! - path![k - 2]!, path![k + 1]! - path![k - 1]!];
      if (Math.hypot(dx, dy) < 2) continue;
      // In a half ring that turns evenly rows point to about the middle.
      const toMiddle = Math.atan2(path![k + 1]!, path![k]!);
      off += Math.abs(Math.sin(Math.atan2(dy, dx) - toMiddle));
      asked++;
    }
    expect(asked).toBeGreaterThan(400);
    expect(off / asked).toBeLessThan(Math.sin((14 * Math.PI) / 180));
  });

  test('a full fill of a square inch takes 1,000 to 1,500 stitches (from memory of handbooks)', () => {
    for (const rowEnds of ['square', 'slanted'] as const) {
      const made = generateObject(
        { kind: 'area', rings: [[...square(25.4)]] },
        { ...SPEC, rowEnds, underlay: [{ kind: 'tatami' }, { kind: 'edge-run' }] },
      );
      if (!made.ok) throw new Error(made.error);
      const count = made.value.parts.reduce((sum, p) => sum + p.points.length / 2, 0);
      expect(count).toBeGreaterThanOrEqual(1000);
      expect(count).toBeLessThanOrEqual(1500);
    }
  });
});

describe('columns', () => {
  /** The sides of a pentagon 22 mm across, 2.4 mm wide. */
  const pentagon = (): Column[] => {
    const radius = 11 / Math.sin((72 * Math.PI) / 180) - 1.2;
    const corner = (k: number): [number, number] => [
      radius * Math.cos(((90 + 72 * k) * Math.PI) / 180),
      radius * Math.sin(((90 + 72 * k) * Math.PI) / 180),
    ];
    return [0, 1, 2, 3, 4].map((k) => columnAlongLine(Float64Array.from([...corner(k), ...corner(k + 1)]), 2.4));
  };

  test('a closed figure of five satin strokes 22 mm across is one path of 300 to 400 stitches (common practice: about 340)', () => {
    const paths = generateColumns(pentagon(), { spacing: 0.4, pull: 0.2, splitLength: 7 });
    expect(paths).toHaveLength(1);
    const [parts] = paths;
    const stitches = parts!.reduce((sum, p) => sum + p.path.length / 2 - 1, 0);
    expect(stitches).toBeGreaterThanOrEqual(300);
    expect(stitches).toBeLessThanOrEqual(400);
    // Each part begins where the one before ended, and each stroke's hidden run is sewn before its satin.
    for (let k = 1; k < parts!.length; k++) expect([...parts![k]!.path.slice(0, 2)]).toEqual([...parts![k - 1]!.path.slice(-2)]);
    for (let column = 0; column < 5; column++) {
      const roles = parts!.filter((p) => p.column === column).map((p) => p.role);
      expect(roles).toEqual(['underlay', 'cover']);
    }
    expect(Math.max(...parts!.flatMap((p) => stepsOf(p.path)))).toBeLessThan(4);
  });

  test('strokes that branch are one path, strokes apart are several', () => {
    const stroke = (x0: number, y0: number, x1: number, y1: number): Column => columnAlongLine(Float64Array.of(x0, y0, x1, y1), 2);
    const branching = [stroke(0, 0, 0, 20), stroke(0, 20, 12, 30), stroke(0, 20, -12, 30)];
    expect(generateColumns(branching, { spacing: 0.4, pull: 0, splitLength: 7 })).toHaveLength(1);
    expect(generateColumns([...branching, stroke(60, 0, 60, 10)], { spacing: 0.4, pull: 0, splitLength: 7 })).toHaveLength(2);
  });

  test('a closed column overlaps its start; rungs lean its throws; an elongated area becomes a column', () => {
    const ring = (r: number): Float64Array =>
      Float64Array.from(
        Array.from({ length: 122 }, (_, k) => (k % 2 === 0 ? r * Math.cos((k * Math.PI) / 60) : r * Math.sin(((k - 1) * Math.PI) / 60))),
      );
    const closed = generateSatin(ring(12), ring(9), { spacing: 0.5, pull: 0, splitLength: 7 });
    expect(Math.hypot(closed[0]! - closed[closed.length - 2]!, closed[1]! - closed[closed.length - 1]!)).toBeLessThan(5);
    expect(closed.length / 2).toBeGreaterThan((2 * 2 * Math.PI * 12) / 0.5 + 4);
    const [left, right] = [Float64Array.of(0, 3, 40, 3), Float64Array.of(0, 0, 40, 0)];
    const leaning = generateSatin(left, right, { spacing: 0.4, pull: 0, splitLength: 7, rungs: [[0.5, 0.6]] });
    const middle = Array.from({ length: leaning.length / 2 }, (_, k) => k).filter(
      (k) => leaning[k * 2 + 1] === 3 && Math.abs(leaning[k * 2]! - 20) < 0.4,
    )[0]!;
    expect(leaning[middle * 2 + 2]! - leaning[middle * 2]!).toBeGreaterThan(3);
    const column = columnOfArea([Float64Array.of(0, 0, 30, 4, 30, 7, 0, 3)]);
    if (!column.ok) throw new Error(column.error);
    expect(lengthOfPath(column.value.left)).toBeGreaterThan(27);
  });
});

describe('ways and ends', () => {
  test('a closed line is filled, an open one is not', () => {
    const ring = [...square(20), 0.3, 0.2];
    for (const kind of ['fill', 'contour', 'meander'] as const) {
      const made = generateObject({ kind: 'line', path: ring }, { ...SPEC, kind, spacing: 1 });
      if (!made.ok) throw new Error(made.error);
      const lengths = made.value.parts.map(({ points }) => lengthOfPath(points));
      // A line lies a spacing from the next on 400 mm².
      expect(lengths.reduce((sum, l) => sum + l, 0) / 400).toBeGreaterThan(kind === 'fill' ? 1.8 : 0.8);
      expect(generateObject({ kind: 'line', path: ring.slice(0, 6) }, { ...SPEC, kind })).toMatchObject({ ok: false });
    }
  });

  test('a walk between two places stays in the shape and is hardly longer than the shortest way', () => {
    const bent = Float64Array.of(0, 0, 30, 0, 30, 30, 20, 30, 20, 10, 0, 10);
    const way = createWalk([bent])(2, 5, 25, 28)!;
    const whole = Float64Array.of(2, 5, ...way, 25, 28);
    expect(insideShare([bent], whole)).toBe(1);
    // The shortest way bends once, at the inner corner.
    const shortest = Math.hypot(18, 5) + Math.hypot(5, 18);
    expect(lengthOfPath(whole)).toBeLessThan(shortest + 1.5);
    expect(createWalk([square(5), square(5, 20, 20)])(2, 2, 22, 22)).toBeUndefined();
  });

  test('a smoothed path goes through its points and is as long as the curve, a thinned one stays near', () => {
    const d = 'M0 0C20 40 60 -40 80 0';
    const curve = new svgPathProperties(d);
    const length = curve.getTotalLength();
    const points = Float64Array.from(
      Array.from({ length: 24 }, (_, k) => curve.getPointAtLength((length * k) / 23)).flatMap(({ x, y }) => [x, y]),
    );
    expect(Math.abs(lengthOfPath(smoothPath(points)) / length - 1)).toBeLessThan(0.001);
    const thin = thinPath(smoothPath(points), 0.05);
    expect(thin.length).toBeLessThan(points.length * 2);
    expect(Math.abs(lengthOfPath(thin) / length - 1)).toBeLessThan(0.002);
    expect(() => thinPath(new Float64Array(0), 1)).not.toThrow();
  });

  test('locks end where they began, in the style asked for', () => {
    for (const style of ['to-and-fro', 'triangle'] as const) {
      const lock = generateLock(3, 4, 8, 4, style);
      expect([...lock.slice(-2)]).toEqual([3, 4]);
      expect(Math.max(...stepsOf(Float64Array.of(3, 4, ...lock)))).toBeLessThan(1);
    }
    expect(generateLock(3, 4, 8, 4, 'none')).toHaveLength(0);
  });
});
