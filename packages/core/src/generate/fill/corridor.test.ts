import { describe, expect, test } from '@jest/globals';
import { Clipper, FillRule, intersectD } from 'clipper2-ts';
import fc from 'fast-check';
import { offsetRings } from '../../geometry/offset.ts';
import { lengthOfPath } from '../../geometry/path.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { explore, pullTight } from './corridor.ts';
import { repairShape } from '../sew/repairShape.ts';
import { parallelLines, turningLines } from './rowLines.ts';
import { alongLine, cutSpans, findSections, nearestSpan } from './spans.ts';
import { createWalk } from './walker.ts';
import { runs } from '../../testing/runs.ts';

const U_SHAPE = Float64Array.of(0, 0, 30, 0, 30, 25, 20, 25, 20, 8, 10, 8, 10, 25, 0, 25);
const COMB = Float64Array.of(0, 0, 40, 0, 40, 20, 34, 20, 34, 6, 28, 6, 28, 20, 20, 20, 20, 6, 12, 6, 12, 20, 0, 20);
const WITH_HOLE = [Float64Array.of(0, 0, 30, 0, 30, 30, 0, 30), Float64Array.of(10, 10, 10, 20, 20, 20, 20, 10)];

/** Whether the straight way between two points stays in rings, by points every 0.05 mm. */
function seesEachOther(rings: readonly Float64Array[], ax: number, ay: number, bx: number, by: number): boolean {
  const steps = Math.ceil(Math.hypot(bx - ax, by - ay) / 0.05);
  for (let k = 1; k < steps; k++) {
    const [x, y] = [ax + ((bx - ax) * k) / steps, ay + ((by - ay) * k) / steps];
    // The middle of a corner or an edge counts as inside.
    const isIn = [
      [0, 0],
      [1e-6, 0],
      [-1e-6, 0],
      [0, 1e-6],
      [0, -1e-6],
    ].some(([dx, dy]) => containsPoint(rings, x + dx!, y + dy!));
    if (!isIn) return false;
  }
  return true;
}

/** The shortest way through rings, mm: over the corners that see each other. Brute force, for few corners. */
function shortestWay(rings: readonly Float64Array[], from: readonly [number, number], to: readonly [number, number]): number {
  const points: (readonly [number, number])[] = [from, to];
  for (const ring of rings) for (let k = 0; k < ring.length; k += 2) points.push([ring[k]!, ring[k + 1]!]);
  const best = points.map((_, k) => (k === 0 ? 0 : Infinity));
  const isDone = points.map(() => false);
  for (;;) {
    let at = -1;
    for (let k = 0; k < points.length; k++) if (!isDone[k] && best[k]! < (best[at] ?? Infinity)) at = k;
    if (at < 0) return Infinity;
    if (at === 1) return best[1]!;
    isDone[at] = true;
    for (let n = 0; n < points.length; n++) {
      const way = Math.hypot(points[n]![0] - points[at]![0], points[n]![1] - points[at]![1]);
      if (best[at]! + way < best[n]! && seesEachOther(rings, ...points[at]!, ...points[n]!)) best[n] = best[at]! + way;
    }
  }
}

describe('ways inside a shape', () => {
  test.each([
    ['around the notch of a U', [U_SHAPE], [5, 20], [25, 20]],
    ['from tooth to tooth of a comb', [COMB], [5, 18], [37, 18]],
    ['past a hole', WITH_HOLE, [2, 15], [28, 15.5]],
    ['straight', [U_SHAPE], [2, 2], [28, 5]],
  ] as const)('are inside and as good as the shortest way over corners that see each other (brute force): %s', (_, rings, from, to) => {
    const way = createWalk(rings)(from[0], from[1], to[0], to[1]);
    const whole = Float64Array.of(...from, ...way!, ...to);
    const shortest = shortestWay(rings, from, to);
    expect(lengthOfPath(whole)).toBeGreaterThan(shortest - 0.4);
    // It keeps half a millimetre from the edge, so it is a little longer.
    expect(lengthOfPath(whole)).toBeLessThan(shortest * 1.06 + 1.5);
    for (let k = 0; k + 3 < whole.length; k += 2)
      // A stitch may cut a bend of the way by a tenth of a millimetre.
      expect(seesEachOther(offsetRings(rings, 0.15), whole[k]!, whole[k + 1]!, whole[k + 2]!, whole[k + 3]!)).toBe(true);
  });

  test('go around what is sewn where that is not much farther, and through it where there is no other way', () => {
    const spans = cutSpans(WITH_HOLE, parallelLines(WITH_HOLE, 0, 0.4));
    const from = nearestSpan(spans, 15, 2).span;
    const to = nearestSpan(spans, 15, 28).span;
    const isLeftOf = (span: number): boolean => spans.b[span]! < 15;
    const sewnLeft = explore(spans, from, 14, (s) => s === to, isLeftOf)!;
    const way = pullTight(spans, sewnLeft, 14, 2, 14, 28);
    expect(Math.max(...way.filter((_, k) => k % 2 === 0))).toBeGreaterThan(20);
    const free = pullTight(
      spans,
      explore(
        spans,
        from,
        14,
        (s) => s === to,
        () => false,
      )!,
      14,
      2,
      14,
      28,
    );
    expect(Math.min(...free.filter((_, k) => k % 2 === 0))).toBeLessThan(10);
    expect(
      explore(
        spans,
        from,
        14,
        () => false,
        () => false,
      ),
    ).toBeUndefined();
  });

  test('whatever the shape, the ways inside it stay inside', () => {
    const corner = fc.integer({ min: 0, max: 24 });
    fc.assert(
      fc.property(
        fc.array(corner, { minLength: 8, maxLength: 20 }),
        fc.tuple(corner, corner, corner, corner),
        (values, [ax, ay, bx, by]) => {
          const ring = Float64Array.from(values.slice(0, values.length - (values.length % 2)));
          const shape = repairShape([ring]);
          if (!shape.ok) return;
          const { rings } = shape.value;
          if (!containsPoint(rings, ax + 0.3, ay + 0.3) || !containsPoint(rings, bx + 0.3, by + 0.3)) return;
          const way = createWalk(rings)(ax + 0.3, ay + 0.3, bx + 0.3, by + 0.3);
          const near = Clipper.inflatePathsD(
            rings.map((r) => Array.from({ length: r.length / 2 }, (_, k) => ({ x: r[k * 2]!, y: r[k * 2 + 1]! }))),
            0.25,
            2,
            0,
          ).map((p) => Float64Array.from(p.flatMap(({ x, y }) => [x, y])));
          for (let k = 0; way !== undefined && k < way.length; k += 2) expect(containsPoint(near, way[k]!, way[k + 1]!)).toBe(true);
        },
      ),
      runs(60, 21),
    );
  });
});

describe('row lines and their spans', () => {
  test.each([0, 23, 90, 141])('cover the same area as a geometry library clips from strips of their width, at %d°', (angle) => {
    const step = 0.5;
    for (const rings of [[U_SHAPE], [COMB], WITH_HOLE]) {
      const spans = cutSpans(rings, parallelLines(rings, angle, step));
      const laid = spans.b.reduce((sum, b, i) => sum + b - spans.a[i]!, 0) * step;
      const paths = rings.map((ring) => Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[k * 2]!, y: ring[k * 2 + 1]! })));
      const area = Clipper.areaPathsD(Clipper.unionD(paths, [], FillRule.EvenOdd, 4));
      expect(Math.abs(laid / area - 1)).toBeLessThan(0.02);
    }
  });

  test('each span is what a geometry library leaves of its line', () => {
    const lines = parallelLines([COMB], 31, 2);
    const spans = cutSpans([COMB], lines);
    for (let k = 0; k < lines.count; k++) {
      const [x, y, dx, dy] = [lines.x[k]!, lines.y[k]!, lines.dx[k]!, lines.dy[k]!];
      // A hair-thin strip along the line, cut with the comb.
      const [nx, ny] = [-dy * 0.005, dx * 0.005];
      const strip = [
        { x: x - dx * 90 + nx, y: y - dy * 90 + ny },
        { x: x - dx * 90 - nx, y: y - dy * 90 - ny },
        { x: x + dx * 90 - nx, y: y + dy * 90 - ny },
        { x: x + dx * 90 + nx, y: y + dy * 90 + ny },
      ];
      const comb = Array.from({ length: COMB.length / 2 }, (_, n) => ({ x: COMB[n * 2]!, y: COMB[n * 2 + 1]! }));
      const cut = intersectD([comb], [strip], FillRule.NonZero, 5);
      const found = cut
        .map((path) => path.map((p) => (p.x - x) * dx + (p.y - y) * dy))
        .map((us) => [Math.min(...us), Math.max(...us)] as const)
        .filter(([a, b]) => b - a > 0.25)
        .sort((p, q) => p[0] - q[0]);
      const own = Array.from({ length: spans.start[k + 1]! - spans.start[k]! }, (_, n) => spans.start[k]! + n);
      expect(own.length).toBe(found.length);
      own.forEach((i, n) => {
        expect(spans.a[i]!).toBeCloseTo(found[n]![0], 1);
        expect(spans.b[i]!).toBeCloseTo(found[n]![1], 1);
      });
    }
  });

  test('every span is in one section, sections run on without a branch, and a comb has one for its back and one a tooth', () => {
    const spans = cutSpans([COMB], parallelLines([COMB], 0, 0.4));
    const { sections, sectionOf } = findSections(spans);
    expect(sections).toHaveLength(4);
    expect(sections.reduce((sum, s) => sum + s.spans.length, 0)).toBe(spans.count);
    sections.forEach((section, k) => {
      for (const i of section.spans) expect(sectionOf[i]).toBe(k);
      for (let n = 1; n < section.spans.length; n++) expect(spans.up[section.spans[n - 1]!]).toEqual([section.spans[n]!]);
    });
  });

  test('the nearest span is the nearest of all, wherever one asks', () => {
    const spans = cutSpans([COMB], parallelLines([COMB], 17, 0.7));
    for (const [x, y] of [
      [5, 5],
      [24, 18],
      [-4, 30],
      [60, 3],
      [38, 12],
    ] as const) {
      let least = Infinity;
      for (let i = 0; i < spans.count; i++) {
        const u = Math.max(spans.a[i]!, Math.min(spans.b[i]!, alongLine(spans, i, x, y)));
        const k = spans.row[i]!;
        least = Math.min(least, Math.hypot(spans.lines.x[k]! + u * spans.lines.dx[k]! - x, spans.lines.y[k]! + u * spans.lines.dy[k]! - y));
      }
      expect(nearestSpan(spans, x, y).distance).toBeCloseTo(least, 6);
    }
  });

  test('turning lines go from one angle line to the next without a jump, no farther apart than asked, and on beyond the outer ones', () => {
    const lines = turningLines(
      [U_SHAPE],
      [
        [2, 0, 2, 25],
        [15, 0, 20, 8],
        [28, 25, 28, 0],
      ],
      0.4,
    );
    let turned = 0;
    for (let k = 1; k < lines.count; k++) {
      expect(Math.hypot(lines.x[k]! - lines.x[k - 1]!, lines.y[k]! - lines.y[k - 1]!)).toBeLessThan(0.45);
      const turn = Math.abs(lines.dx[k - 1]! * lines.dy[k]! - lines.dy[k - 1]! * lines.dx[k]!);
      expect(turn).toBeLessThan(0.08);
      turned += Math.asin(turn);
    }
    expect((turned * 180) / Math.PI).toBeCloseTo(2 * 32, -1);
    expect(Math.min(...lines.x)).toBeLessThan(0);
    expect(Math.max(...lines.x)).toBeGreaterThan(30);
    expect(() => turningLines([U_SHAPE], [[0, 0, 1, 1]], 0.4)).toThrow(/two angle lines/);
  });
});
