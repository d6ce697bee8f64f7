import { describe, expect, test } from '@jest/globals';
import { svgPathProperties } from 'svg-path-properties';
import { offsetRings } from '../../geometry/offset.ts';
import { lengthOfPath } from '../../geometry/path.ts';
import { containsPoint } from '../../geometry/ring.ts';
import type { ObjectSpec } from '../../model/objectSpec.ts';
import { generateObject } from '../sew/generateObject.ts';
import { tourRings } from './ringTour.ts';
import { generateRun } from './run.ts';
import { generateSatin } from '../column/satin.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../underlay.ts';

const stepsOf = (path: Float64Array): number[] =>
  Array.from({ length: path.length / 2 - 1 }, (_, k) => Math.hypot(path[k * 2 + 2]! - path[k * 2]!, path[k * 2 + 3]! - path[k * 2 + 1]!));

/** A curve as points every tenth of a millimetre, and its length, by a path library. Its last point is left out: it may lie a hair beyond. */
function curve(d: string): { points: Float64Array; length: number } {
  const path = new svgPathProperties(d);
  const length = path.getTotalLength();
  const count = Math.ceil(length * 10);
  const points = Array.from({ length: count }, (_, k) => path.getPointAtLength((length * k) / count));
  return { points: Float64Array.from(points.flatMap(({ x, y }) => [x, y])), length };
}

const arc = (r: number, from: number, to: number, count = 200): Float64Array =>
  Float64Array.from(
    Array.from({ length: count }, (_, k) => from + ((to - from) * k) / (count - 1)).flatMap((a) => [
      r * Math.cos((a * Math.PI) / 180),
      r * Math.sin((a * Math.PI) / 180),
    ]),
  );

describe('run', () => {
  test.each([
    ['a gentle bow', 'M0 0C10 20 40 22 60 4'],
    ['a hook', 'M0 0L20 0C32 0 32 12 20 12'],
    ['a spiral end', 'M0 0C20 0 20 16 8 16C0 16 0 6 8 6C12 6 12 11 9 11'],
  ])('lies within 0.1 mm of its curve, is as long by a path library, and steps evenly where it is straight: %s', (_, d) => {
    const { points, length } = curve(d);
    const run = generateRun(points, { stitchLength: 2.5 });
    expect(lengthOfPath(run) / length).toBeGreaterThan(0.985);
    expect(lengthOfPath(run)).toBeLessThanOrEqual(length * 1.001);
    const steps = stepsOf(run);
    expect(Math.max(...steps)).toBeLessThanOrEqual(2.5 + 1e-6);
    expect(Math.min(...steps)).toBeGreaterThan(0.6);
    // Middles of stitches against the nearest point of the curve.
    for (let k = 2; k < run.length; k += 2) {
      const [x, y] = [(run[k]! + run[k - 2]!) / 2, (run[k + 1]! + run[k - 1]!) / 2];
      let least = Infinity;
      for (let n = 0; n < points.length; n += 2) least = Math.min(least, Math.hypot(points[n]! - x, points[n + 1]! - y));
      expect(least).toBeLessThan(0.17);
    }
  });

  test('points that double back by a hair make no corner, and a line of one place twice is one stitch of no length', () => {
    const doubled = Float64Array.of(0, 0, 5, 0, 4.99, 0.01, 5.01, 0, 12, 0);
    expect(Math.min(...stepsOf(generateRun(doubled, { stitchLength: 3 })))).toBeGreaterThan(2);
    expect([...generateRun(Float64Array.of(2, 2, 2, 2), { stitchLength: 3 })]).toEqual([2, 2, 2, 2]);
  });

  test.each([1.5, 3, 6, 20])('on an arc of %d mm radius stitches are as long as a chord 0.1 mm off allows', (radius) => {
    const steps = stepsOf(generateRun(arc(radius, 0, 300), { stitchLength: 3 })).slice(2, -2);
    const chord = Math.min(3, Math.max(1, Math.sqrt(8 * 0.1 * radius)));
    for (const step of steps) expect(step).toBeLessThan(chord * 1.12);
    expect(Math.min(...steps)).toBeGreaterThan(chord * 0.8);
  });
});

describe('satin', () => {
  test.each([
    [0.3, 20, 16],
    [0.4, 12, 6],
    [0.5, 30, 29],
    [0.7, 9, 2],
  ])('at %d mm between arcs of %d and %d mm stands at its pitch on the outer edge within 3 %', (spacing, outer, inner) => {
    const satin = generateSatin(arc(outer, 0, 120), arc(inner, 0, 120), { spacing, pull: 0, splitLength: 12 });
    const onOuter: number[] = [];
    for (let k = 0; k < satin.length; k += 2) {
      if (Math.abs(Math.hypot(satin[k]!, satin[k + 1]!) - outer) < 0.02) onOuter.push(Math.atan2(satin[k + 1]!, satin[k]!) * outer);
    }
    const pitches = onOuter.slice(1).map((v, k) => Math.abs(v - onOuter[k]!));
    const mean = pitches.reduce((a, b) => a + b, 0) / pitches.length;
    expect(Math.abs(mean / spacing - 1)).toBeLessThan(0.03);
    // Where the inner edge crowds, about every second throw stops short of it.
    const atInner = Array.from({ length: satin.length / 2 }, (_, k) => Math.hypot(satin[k * 2]!, satin[k * 2 + 1]!)).filter(
      (r) => r < inner + 0.02,
    );
    expect(atInner.length / onOuter.length).toBeCloseTo(inner / outer < 0.6 ? 0.5 : 1, 1);
  });

  test('refuses what would never end', () => {
    const line = Float64Array.of(0, 0, 10, 0);
    expect(() => generateSatin(line, line, { spacing: 0, pull: 0, splitLength: 7 })).toThrow(/spacing of 0.1 mm/);
    expect(() => generateSatin(line, line, { spacing: NaN, pull: 0, splitLength: 7 })).toThrow(/spacing/);
    expect(() => generateSatin(line, line, { spacing: 0.4, pull: 0, splitLength: 0 })).toThrow(/split/);
  });
});

describe('underlay', () => {
  const SQUARE = Float64Array.of(0, 0, 30, 0, 30, 20, 0, 20);
  const SPEC: ObjectSpec = {
    ...{ kind: 'fill', spacing: 0.4, stitchLength: 4, angle: 20, angleLines: [], offset: 0.3, rowEnds: 'slanted', passes: 1, pull: 0 },
    ...{ width: 2, splitLength: 7, underlay: [], tie: 'to-and-fro' },
  };

  test.each([0.3, 0.6, 1.2])('lies %d mm inside the edge, whatever its kind', (inset) => {
    const inner = offsetRings([SQUARE], -inset + 0.02);
    const outer = offsetRings([SQUARE], -inset - 0.2);
    for (const path of [...generateEdgeRun([SQUARE], inset), ...generateTatamiUnderlay([SQUARE], 20, 3.5, inset)])
      for (let k = 0; k < path.length; k += 2) expect(containsPoint(inner, path[k]!, path[k + 1]!)).toBe(true);
    const [edge] = generateEdgeRun([SQUARE], inset);
    for (let k = 0; k < edge!.length; k += 2) expect(containsPoint(outer, edge![k]!, edge![k + 1]!)).toBe(false);
  });

  test('comes in the order asked for, each layer once, before its cover, with the thread never cut between them', () => {
    const layers = ['edge-run', 'tatami', 'zigzag', 'center-run'] as const;
    for (const order of [layers, [...layers].reverse()]) {
      const made = generateObject(
        { kind: 'area', rings: [[...SQUARE]] },
        { ...SPEC, underlay: order.map((kind) => ({ kind })) },
        { from: { x: 0, y: 10 }, to: { x: 30, y: 10 } },
      );
      if (!made.ok) throw new Error(made.error);
      const { parts } = made.value;
      expect(parts.filter((p) => p.role === 'underlay').map((p) => p.layer)).toEqual(order);
      expect(parts.filter((p) => p.isApart)).toHaveLength(1);
      expect(parts[parts.length - 1]!.role).toBe('cover');
    }
  });

  test('begins where the needle is: edge runs at their nearest place, the nearest ring first, tatami by a walk inside', () => {
    const hole = Float64Array.of(20, 6, 20, 14, 26, 14, 26, 6);
    for (const [x, y] of [
      [30, 20],
      [19, 10],
      [0, 11],
    ] as const) {
      const made = (underlay: ObjectSpec['underlay']) => {
        const object = generateObject({ kind: 'area', rings: [[...SQUARE], [...hole]] }, { ...SPEC, underlay }, { from: { x, y } });
        if (!object.ok) throw new Error(object.error);
        return object.value.parts;
      };
      const parts = made([{ kind: 'edge-run' }]);
      const [edge] = parts.filter((p) => p.layer === 'edge-run');
      const nearest = Math.min(
        ...generateEdgeRun([SQUARE, hole]).flatMap((path) =>
          Array.from({ length: path.length / 2 }, (_, k) => Math.hypot(path[k * 2]! - x, path[k * 2 + 1]! - y)),
        ),
      );
      expect(Math.hypot(edge!.points[0]! - x, edge!.points[1]! - y)).toBeCloseTo(nearest, 6);
      const all = made([{ kind: 'tatami' }]).flatMap((p) => [...p.points]);
      expect([all[0], all[1]]).toEqual([x, y]);
      expect(made([{ kind: 'tatami' }]).filter((p) => p.isApart)).toHaveLength(1);
    }
  });

  test('a column ends where it is to be left, whatever lies under it', () => {
    const column = { kind: 'column' as const, left: [0, 3, 30, 3], right: [0, 0, 30, 0] };
    const ends = [
      { x: 0, y: 1.5 },
      { x: 30, y: 1.5 },
    ];
    for (const underlay of [[], ['center-run'], ['edge-run'], ['edge-run', 'zigzag'], ['zigzag', 'center-run']] as const) {
      for (const from of ends) {
        for (const to of ends) {
          const made = generateObject(column, { ...SPEC, kind: 'satin', underlay: underlay.map((kind) => ({ kind })) }, { from, to });
          if (!made.ok) throw new Error(made.error);
          const points = made.value.parts.map((p) => p.points);
          const last = points[points.length - 1]!;
          expect(Math.abs(last[last.length - 2]! - to.x)).toBeLessThan(0.5);
          expect(Math.abs(points[0]![0]! - from.x)).toBeLessThan(0.5);
          expect(made.value.parts.filter((p) => p.isApart)).toHaveLength(1);
          for (const path of points) for (const step of stepsOf(path)) expect(step).toBeLessThan(7.01);
        }
      }
    }
  });
});

describe('one line through rings', () => {
  const anywhere = (): boolean => true;
  const ring = (r: number, x = 0): Float64Array => arc(r, 0, 357, 120).map((v, k) => (k % 2 === 0 ? v + x : v));

  test('goes round each once and steps only between neighbours; rings far from all others are a line of their own', () => {
    const nested = [10, 9, 8, 7, 6].map((r) => ring(r));
    const tours = tourRings([...nested, ring(3, 40)], 2, 1, anywhere, 10, 0);
    expect(tours).toHaveLength(2);
    const whole = nested.reduce((sum, r) => sum + lengthOfPath(r), 0);
    expect(Math.abs(lengthOfPath(tours[0]!) / whole - 1)).toBeLessThan(0.08);
    expect(Math.max(...stepsOf(tours[0]!))).toBeLessThan(2);
    expect(Math.hypot(tours[0]![0]! - 10, tours[0]![1]!)).toBeLessThan(0.6);
    expect(tourRings([], 2, 1, anywhere)).toEqual([]);
  });

  test('steps over a notch only where there is no other way', () => {
    // Two rings 1.5 mm apart with a notch between them; a third above both, 1.5 mm and more away.
    const pair = [ring(5, -5.75), ring(5, 5.75)];
    const above = ring(5).map((v, k) => (k % 2 === 0 ? v : v + 9.96));
    const isNotch = (x: number, y: number): boolean => Math.abs(x) < 0.7 && y < 4;
    const crossings = (line: Float64Array): number => {
      let count = 0;
      for (let k = 2; k < line.length; k += 2) if (isNotch((line[k]! + line[k - 2]!) / 2, (line[k + 1]! + line[k - 1]!) / 2)) count++;
      return count;
    };
    const isOpen = (x: number, y: number): boolean => !isNotch(x, y);
    const [around, ...more] = tourRings([...pair, above], 2, 1, isOpen);
    expect([more.length, crossings(around!)]).toEqual([0, 0]);
    expect(crossings(tourRings([...pair, above], 2, 1, anywhere)[0]!)).toBeGreaterThan(0);
    const only = tourRings(pair, 2, 1, isOpen);
    expect([only.length, crossings(only[0]!) > 0]).toEqual([1, true]);
  });
});
