import { describe, expect, test } from '@jest/globals';
import { FillRule, pointInPolygonD, PointInPolygonResult, unionD } from 'clipper2-ts';
import fc from 'fast-check';
import { generateFill } from '../generate/fill/fill.ts';
import { generateSatin } from '../generate/column/satin.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../generate/underlay.ts';
import { closeGaps } from '../geometry/region.ts';
import { signedArea, windsAround } from '../geometry/ring.ts';
import { type Program, ProgramBuilder, STITCH } from '../model/program.ts';
import { countLevels, findLayers } from '../order/layerGraph.ts';
import { findAlike, findNeighbours } from './findAlike.ts';
import { findLattice, latticeRows } from './rows/lattice.ts';
import { recognizeAs } from './recognizeAs.ts';
import { type Recognition, recognizeProgram } from './recognizeProgram.ts';
import { meanAxis } from '../geometry/axis.ts';
import { findSegments, LABELS } from './cut/segment.ts';
import { type StitchObject } from '../model/stitchObject.ts';
import { cutStrokes } from '../model/strokes.ts';
import { runs } from '../testing/runs.ts';

const square = (x: number, y: number, size: number): Float64Array => Float64Array.of(x, y, x + size, y, x + size, y + size, x, y + size);

/** Sews paths one after another, each after a trim, the first ones with a lock. */
function sew(...paths: (Float64Array | 'stop' | 'color')[]): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const path of paths) {
    if (path === 'stop') builder.stop('lay');
    else if (path === 'color') builder.color('#b8552f', 'Brick');
    else {
      builder.trim().jump(path[0]!, path[1]!);
      for (let k = 0; k < path.length; k += 2) builder.stitch(path[k]!, path[k + 1]!);
    }
  }
  return builder.trim().end().build();
}

const fillOf = (ring: Float64Array, angle = 30, spacing = 0.4): Float64Array =>
  generateFill([ring], { angle, spacing, stitchLength: 4, offset: 0.3 })[0]!;
const column = (x: number, y: number, length: number, width: number): Float64Array =>
  generateSatin(Float64Array.of(x, y, x + length, y), Float64Array.of(x, y + width, x + length, y + width), {
    spacing: 0.4,
    pull: 0,
    splitLength: 7,
  });
const lineOf = (...points: number[]): Float64Array => {
  const out: number[] = [];
  for (let k = 0; k + 3 < points.length; k += 2) {
    const [ax, ay, bx, by] = points.slice(k, k + 4) as [number, number, number, number];
    const steps = Math.max(1, Math.round(Math.hypot(bx - ax, by - ay) / 2));
    for (let n = 0; n < steps; n++) out.push(ax + ((bx - ax) * n) / steps, ay + ((by - ay) * n) / steps);
  }
  return Float64Array.from([...out, ...points.slice(-2)]);
};
const covers = ({ objects }: Recognition): StitchObject[] => objects.filter((o) => o.role === 'cover');

describe('axes', () => {
  test('the mean of a published sample of directions, halved to axes, is half of its published mean', () => {
    // K. V. Mardia and P. E. Jupp, Directional Statistics, 2000, chapter 2: nine stops of a roulette wheel, mean 51°, resultant 0.711; from memory.
    const stops = [43, 45, 52, 61, 75, 88, 88, 279, 357].map((a) => (a * Math.PI) / 360);
    const { angle, evenness } = meanAxis(
      stops.map((a, k) => Math.cos(a) * (k % 2 === 0 ? 1 : -1)),
      stops.map((a, k) => Math.sin(a) * (k % 2 === 0 ? 1 : -1)),
    );
    expect(2 * angle).toBeCloseTo(51.1, 0);
    expect(evenness).toBeCloseTo(0.711, 3);
    expect(meanAxis([], [])).toEqual({ angle: 0, evenness: 0 });
  });

  test('penetrations on lines are told from others, and come back as rows', () => {
    const program = sew(fillOf(square(0, 0, 20), 40, 0.5));
    const first = program.command.indexOf(STITCH);
    const lattice = findLattice(program, first, first + 200, 40, 0.25)!;
    expect(lattice.step).toBeCloseTo(0.25, 6);
    const rows = latticeRows(program, first, first + 200, lattice);
    expect(rows.angle).toBeCloseTo(40, 3);
    expect(findLattice(program, first, first + 200, 75, 0.25)).toBeUndefined();
  });
});

describe('segmentation', () => {
  test('is as cheap as the cheapest of all ways to cut and label, by trying them all', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 4, noNaN: true }), { minLength: 6, maxLength: 36 }),
        fc.double({ min: 0, max: 4, noNaN: true }),
        (values, begin) => {
          const n = LABELS.length;
          const count = Math.floor(values.length / (2 * n));
          const own = Float64Array.from(values.slice(0, count * n));
          const onward = Float64Array.from(values.slice(count * n, 2 * count * n));
          // Every stroke has a label, and either goes on with its label or begins anew.
          let least = Infinity;
          for (let code = 0; code < (2 * n) ** count; code++) {
            let cost = 0;
            let before = -1;
            for (let k = 0, c = code; k < count; k++, c = Math.floor(c / (2 * n))) {
              const label = c % n;
              const isOn = Math.floor(c / n) % 2 === 1;
              if (isOn && before !== label) cost = Infinity;
              cost += own[k * n + label]! + (isOn ? onward[k * n + label]! : begin);
              before = label;
            }
            least = Math.min(least, cost);
          }
          const segments = findSegments({ count, own, onward, begin });
          expect(segments.reduce((sum, s) => sum + s.cost + begin, 0)).toBeCloseTo(least, 9);
          expect(segments[0]?.first).toBe(0);
          segments.forEach((s, k) => expect(s.last + 1).toBe(segments[k + 1]?.first ?? count));
        },
      ),
      runs(60, 20261125),
    );
  });

  test('strokes end where the needle turns and nowhere else', () => {
    const program = sew(Float64Array.of(0, 0, 2, 0, 4, 0, 4, 0, 4, 2, 4.1, 4, 0, 4));
    const first = program.command.indexOf(STITCH);
    const strokes = cutStrokes(program, first, first + 6);
    expect(Array.from(strokes.last, (row) => row - first)).toEqual([3, 5, 6]);
    expect(strokes.length[0]).toBe(4);
  });
});

describe('geometry', () => {
  test('a union with its gaps closed has the area of a geometry library’s union where nothing gapes', () => {
    const rings = [square(0, 0, 10), square(6, 3, 9), square(30, 0, 4)];
    const paths = rings.map((r) => Array.from({ length: r.length / 2 }, (_, k) => ({ x: r[k * 2]!, y: r[k * 2 + 1]! })));
    const library = unionD(paths, [], FillRule.NonZero, 3).map((p) => Float64Array.from(p.flatMap(({ x, y }) => [x, y])));
    const area = (list: Float64Array[]): number => list.reduce((sum, r) => sum + signedArea(r), 0);
    expect(area(closeGaps(rings, 0.3))).toBeCloseTo(area(library), 1);
    // Two halves 0.5 mm apart become one.
    expect(closeGaps([square(0, 0, 5), square(5.5, 0, 5)], 0.3)).toHaveLength(1);
  });

  test('inside and outside agree with a geometry library', () => {
    const ring = Float64Array.of(0, 0, 8, 1, 5, 4, 9, 8, 1, 7, 3, 3);
    const path = Array.from({ length: 6 }, (_, k) => ({ x: ring[k * 2]!, y: ring[k * 2 + 1]! }));
    fc.assert(
      fc.property(fc.double({ min: -1, max: 10, noNaN: true }), fc.double({ min: -1, max: 10, noNaN: true }), (x, y) => {
        const side = pointInPolygonD({ x, y }, path, 6);
        if (side !== PointInPolygonResult.IsOn) expect(windsAround(ring, x, y)).toBe(side === PointInPolygonResult.IsInside);
      }),
      runs(300, 7),
    );
  });
});

describe('objects', () => {
  test('a fill with its underlay in order, its figures and its outline', () => {
    const ring = square(0, 0, 24);
    const program = sew(generateTatamiUnderlay([ring], 30)[0]!, generateEdgeRun([ring])[0]!, fillOf(ring));
    const recognition = recognizeProgram(program);
    const [fill] = covers(recognition);
    expect(fill).toMatchObject({ kind: 'fill', underlay: [{ kind: 'tatami' }, { kind: 'edge-run' }] });
    expect(fill!.spacing).toBeCloseTo(0.4, 2);
    expect(fill!.angle).toBeCloseTo(30, 0);
    expect(fill!.stitchLength).toBeCloseTo(4, 1);
    expect(fill!.offset).toBeCloseTo(0.3, 1);
    expect(Math.abs(signedArea(fill!.outline))).toBeCloseTo(576, -1);
    expect(fill!.underlay[0]!.spacing).toBeCloseTo(3.5, 1);
    expect(Math.abs(fill!.underlay[0]!.angle! - 120)).toBeLessThan(2);
  });

  test('a satin with its width and rails, split or not, and a run with its passes', () => {
    const there = lineOf(0, 40, 20, 44, 40, 40);
    const back = lineOf(40, 40, 20, 44, 0, 40).slice(2);
    const [narrow, wide, run] = covers(
      recognizeProgram(sew(column(0, 0, 30, 3), column(0, 10, 30, 10), Float64Array.from([...there, ...back]))),
    );
    expect(narrow).toMatchObject({ kind: 'satin' });
    expect(narrow!.width!.mean).toBeCloseTo(3, 1);
    expect(narrow!.spacing).toBeCloseTo(0.4, 2);
    expect(wide).toMatchObject({ kind: 'satin' });
    expect(wide!.width!.mean).toBeCloseTo(10, 1);
    expect(run).toMatchObject({ kind: 'run', passes: 2 });
  });

  test('round spots sewn one after the other without a cut are as many columns, with travel between', () => {
    const spots: number[] = [];
    for (let n = 0; n < 5; n++) {
      const half = (from: number): Float64Array =>
        Float64Array.from({ length: 26 }, (_, k) => {
          const a = (from * (8 + (164 * (k >> 1)) / 12) * Math.PI) / 180;
          return k % 2 === 0 ? 3.3 * n - Math.cos(a) : Math.sin(a);
        });
      spots.push(...generateSatin(half(1), half(-1), { spacing: 0.38, pull: 0.1, splitLength: 7 }));
    }
    const { objects } = recognizeProgram(sew(Float64Array.from(spots)));
    expect(objects.map((o) => `${o.role} ${o.kind}`)).toEqual(
      Array.from({ length: 9 }, (_, k) => (k % 2 === 0 ? 'cover satin' : 'travel run')),
    );
  });

  test('an applique’s placement line, tack-down and cover belong together; without a stop between they are lines and a column', () => {
    const ring = lineOf(0, 0, 30, 0, 30, 24, 0, 24, 0, 0);
    const rail = (d: number): Float64Array => lineOf(-d, -d, 30 + d, -d, 30 + d, 24 + d, -d, 24 + d, -d, -d);
    const cover = generateSatin(rail(1.5), rail(-1.2), { spacing: 0.4, pull: 0, splitLength: 7 });
    const applique = recognizeProgram(sew(ring, 'stop', ring, 'stop', cover)).objects;
    expect(applique.filter((o) => o.role !== 'tie').map((o) => o.role)).toEqual(['placement', 'tackdown', 'cover']);
    expect(applique.find((o) => o.role === 'placement')!.parent).toBe(applique.find((o) => o.kind === 'satin' && o.role === 'cover')!.id);
    expect(recognizeProgram(sew(ring, ring, cover)).objects.some((o) => o.role === 'placement')).toBe(false);
  });

  test('patterns of lines: edge stitch, registration mark, contour and meander fill', () => {
    const prongs: number[] = [];
    for (let k = 0; k < 20; k++) prongs.push(2 * k, 0, 2 * k, 3, 2 * k, 0);
    const mark = lineOf(50, 50, 56, 50, 53, 50, 53, 53, 53, 47);
    const rings: number[] = [];
    for (let r = 12; r > 1; r -= 0.8)
      for (let a = 0; a < 360; a += 360 / Math.max(6, Math.round(3.2 * r)))
        rings.push(80 + r * Math.cos((a * Math.PI) / 180), r * Math.sin((a * Math.PI) / 180));
    const patterns = covers(recognizeProgram(sew(Float64Array.from(prongs), mark, Float64Array.from(rings))));
    expect(patterns.map((o) => o.pattern)).toEqual(['edge-stitch', 'registration-mark', 'contour']);
    expect(patterns[2]).toMatchObject({ kind: 'fill' });
    expect(patterns[2]!.spacing).toBeCloseTo(0.8, 1);
    expect(Math.abs(signedArea(patterns[2]!.outline))).toBeGreaterThan(0.9 * Math.PI * 144);
  });

  test('what lies on what, how deep, beside and alike', () => {
    const recognition = recognizeProgram(
      sew(fillOf(square(0, 0, 20)), fillOf(square(10, 5, 10), 100), column(12, 7, 6, 3), fillOf(square(21.2, 0, 12))),
    );
    const { objects } = recognition;
    const at = (index: number): number => objects.indexOf(covers(recognition)[index]!);
    const layers = findLayers(objects);
    expect(layers.map(({ over, under }) => [over, under])).toEqual([
      [at(1), at(0)],
      [at(2), at(0)],
      [at(2), at(1)],
    ]);
    expect(layers[0]!.area).toBeCloseTo(100, -1);
    const levels = countLevels(objects, layers);
    expect([0, 1, 2, 3].map((k) => levels[at(k)])).toEqual([0, 1, 2, 0]);
    expect(findNeighbours(objects, objects[at(3)]!, 2).map((n) => n.object)).toContain(objects[at(0)]);
    expect(findAlike(objects, objects[at(0)]!)).toEqual([objects[at(0)], objects[at(3)]]);
  });
});

describe('what somebody says', () => {
  const program = sew(column(0, 0, 20, 3), column(0, 10, 20, 3));
  const [first, second] = covers(recognizeProgram(program)) as [StitchObject, StitchObject];

  test('an object is parted at a stitch, all covers become one, or are told what they are', () => {
    const split = recognizeAs(program, { kind: 'split', row: first.first + 40 });
    expect(covers(split).map((o) => [o.first, o.last])).toEqual([
      [first.first, first.first + 39],
      [first.first + 40, first.last],
      [second.first, second.last],
    ]);
    expect(covers(split)[0]).toMatchObject({ kind: 'satin', confidence: 1 });
    const joined = recognizeAs(program, { kind: 'join' });
    expect(covers(joined)).toHaveLength(1);
    expect(covers(joined)[0]).toMatchObject({ first: first.first, last: second.last, stitches: first.stitches + second.stitches + 1 });
    const told = recognizeAs(program, { kind: 'tell', as: 'run', role: 'travel' });
    expect(told.objects.find((o) => o.role === 'travel')).toMatchObject({ kind: 'run', first: first.first, confidence: 1 });
    const before = recognizeProgram(program).objects;
    for (const row of [first.first, program.rowCount + 5]) expect(recognizeAs(program, { kind: 'split', row }).objects).toEqual(before);
  });
});
