import { describe, expect, test } from '@jest/globals';
import { containsPoint, signedArea } from '../../geometry/ring.ts';
import { offsetRings } from '../../geometry/offset.ts';
import { generateContour } from '../../generate/line/contour.ts';
import { generateEdgeStitch } from '../../generate/line/edgeStitch.ts';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateMeander } from '../../generate/line/meander.ts';
import { Collector } from '../../generate/sew/collector.ts';
import { generateObject } from '../../generate/sew/generateObject.ts';
import { generateSatin } from '../../generate/column/satin.ts';
import { END_STITCH, type ObjectShape, type ObjectSpec, USUAL_SPEC } from '../../model/objectSpec.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { awayFrom, square, stepsOf } from '../../testing/outsideShapes.ts';
import { recognizeAs } from '../recognizeAs.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import { shapeOf, specOf } from './specOf.ts';
import type { StitchObject } from '../../model/stitchObject.ts';

/** Paths in one thread, cut between them, rounded as files are. */
function programOf(paths: readonly Float64Array[], grain = 0.01): Program {
  const settle = (v: number): number => Math.round(v / grain) * grain;
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const path of paths) {
    builder.jump(settle(path[0]!), settle(path[1]!));
    for (let k = 0; k < path.length; k += 2) builder.stitch(settle(path[k]!), settle(path[k + 1]!));
    builder.trim();
  }
  return builder.end().build();
}

function largestOf(program: Program): StitchObject {
  const covers = recognizeProgram(program).objects.filter((o) => o.role === 'cover');
  return covers.reduce((a, b) => (a.stitches >= b.stitches ? a : b));
}

function specIn(program: Program): ObjectSpec {
  const spec = specOf(program, largestOf(program));
  if (!spec.ok) throw new Error(spec.error);
  return spec.value;
}

function lineOf(program: Program): ObjectShape & { kind: 'line' } {
  const shape = shapeOf(program, largestOf(program));
  if (!shape.ok || shape.value.kind !== 'line') throw new Error('no line');
  return shape.value;
}

describe('a spec is read from stitches', () => {
  // An ellipse has turns of every length, from the half pitch at its sides to long ones at its ends.
  const ellipse = Float64Array.from({ length: 160 }, (_, k) => {
    const t = (Math.floor(k / 2) / 80) * 2 * Math.PI;
    return k % 2 === 0 ? 16 * Math.cos(t) : 11 * Math.sin(t);
  });

  test.each([0.15, 0.3, 0.45])('turns shorter than %p mm were left out, and are again', (shortest) => {
    const [path] = generateFill([ellipse], { angle: 15, spacing: 0.5, stitchLength: 4, offset: 0.3, rowEnds: 'square' });
    const collector = new Collector(shortest);
    collector.add('cover', path!, undefined);
    const program = programOf(collector.parts.map((p) => p.points));
    const spec = specIn(program);
    expect(spec.rowEnds).toBe('square');
    // Turns at the sides are 0.25 mm long at least: where none was left out nothing is known but that.
    if (shortest > 0.25) expect(Math.abs(spec.shortest! - shortest)).toBeLessThan(0.06);
    else expect(spec.shortest ?? 0).toBeLessThan(0.3);
    const shape = shapeOf(program, largestOf(program));
    const made = shape.ok ? generateObject(shape.value, spec) : shape;
    if (!made.ok) throw new Error(made.error);
    const count = made.value.parts.reduce((sum, part) => sum + part.points.length / 2, 0);
    expect(Math.abs(count / (collector.parts[0]!.points.length / 2) - 1)).toBeLessThan(0.04);
  });

  test.each([0.3, 0.9, 1.5])('stitches shorter than %p mm at the ends of rows were left out, and are again', (endStitch) => {
    const [path] = generateFill([ellipse], { angle: 15, spacing: 0.4, stitchLength: 3.2, offset: 0.3, rowEnds: 'slanted', endStitch });
    const program = programOf([path!]);
    const spec = specIn(program);
    expect(Math.abs((spec.endStitch ?? END_STITCH) - endStitch)).toBeLessThan(0.15);
    const shape = shapeOf(program, largestOf(program));
    const made = shape.ok ? generateObject(shape.value, spec) : shape;
    if (!made.ok) throw new Error(made.error);
    const count = made.value.parts.reduce((sum, part) => sum + part.points.length / 2, 0);
    expect(Math.abs(count / (path!.length / 2) - 1)).toBeLessThan(0.03);
  });

  test.each([
    ['contour', generateContour],
    ['meander', generateMeander],
  ] as const)('a %s keeps its penetrations, its line with other stitches, and neither with another spacing', (kind, generate) => {
    // A hole of its own, and what is left between the innermost lines, which is none.
    const [path] = generate([ellipse, square(5, 6, -2.5)], { spacing: 1.3, stitchLength: 2.4 });
    const program = programOf([path!]);
    const spec = specIn(program);
    expect(spec).toMatchObject({ kind });
    expect(Math.abs(spec.spacing / 1.3 - 1)).toBeLessThan(0.03);
    const shape = shapeOf(program, largestOf(program));
    if (!shape.ok || shape.value.kind !== 'area') throw new Error('no area');
    expect(shape.value.rings).toHaveLength(2);
    const sewn = (change: Partial<ObjectSpec>): Float64Array => {
      const made = generateObject(shape.value, { ...spec, ...change });
      if (!made.ok) throw new Error(made.error);
      return made.value.parts.find(({ role }) => role === 'cover')!.points;
    };
    const settled = path!.map((v) => Math.round(v / 0.01) * 0.01);
    const own = sewn({});
    // A few at its start may be told as something before it.
    expect(Math.abs(own.length / settled.length - 1)).toBeLessThan(0.03);
    const offOf = (points: Float64Array): number[] =>
      Array.from({ length: points.length / 2 }, (_, k) => awayFrom([settled], points[k * 2]!, points[k * 2 + 1]!));
    expect(Math.max(...offOf(own))).toBeLessThan(0.01);
    const longer = sewn({ stitchLength: spec.stitchLength + 0.8 });
    expect(longer.length).toBeLessThan(own.length);
    expect(Math.max(...offOf(longer))).toBeLessThan(0.25);
    const wider = sewn({ spacing: 2 });
    expect(wider.length).toBeLessThan(0.8 * own.length);
    expect(Math.max(...offOf(wider))).toBeGreaterThan(0.4);
  });

  test('a meander that was cut amid its way keeps both stretches, and no stitch leads across from one to the other', () => {
    const [path] = generateMeander([ellipse], { spacing: 1.3, stitchLength: 2.4 });
    const cut = 2 * Math.floor(path!.length / 4);
    const program = programOf([path!.subarray(0, cut), path!.subarray(cut)]);
    const object = largestOf(program);
    expect(object).toMatchObject({ pattern: 'meander', spans: [{}, {}] });
    const shape = shapeOf(program, object);
    const made = shape.ok ? generateObject(shape.value, specIn(program)) : shape;
    if (!made.ok) throw new Error(made.error);
    const covers = made.value.parts.filter(({ role }) => role === 'cover').map(({ points }) => points);
    expect(covers).toHaveLength(2);
    for (const points of covers) expect(Math.max(...stepsOf(points))).toBeLessThan(2.45);
    expect(Math.abs(covers.reduce((sum, points) => sum + points.length, 0) / path!.length - 1)).toBeLessThan(0.03);
  });

  test.each([
    ['an open edge', Float64Array.of(0, 0, 12, 1, 24, 0, 33, 0)],
    ['a closed one', Float64Array.from([...ellipse, ellipse[0]!, ellipse[1]!])],
  ])('prongs lie as far apart on %s as they were set, and are as many again', (_, line) => {
    const path = generateEdgeStitch(line, { spacing: 2.2, prong: 2.5 });
    const program = programOf([path]);
    const spec = specIn(program);
    expect(spec.kind).toBe('edge-stitch');
    expect(Math.abs(spec.spacing / 2.2 - 1)).toBeLessThan(0.03);
    expect(spec.width).toBeCloseTo(2.5, 1);
    const { path: edge, prongs } = lineOf(program);
    const sewn = (change: Partial<ObjectSpec>, shape: ObjectShape): Float64Array => {
      const made = generateObject(shape, { ...spec, ...change });
      if (!made.ok) throw new Error(made.error);
      return made.value.parts[0]!.points;
    };
    const anew = sewn({}, { kind: 'line', path: edge });
    expect(anew.length).toBe(path.length);
    const own = sewn({}, { kind: 'line', path: edge, prongs });
    expect(own.length).toBe(path.length);
    own.forEach((v, k) => expect(Math.abs(v - path[k]!)).toBeLessThan(0.011));
    // Longer ones lie as they lay; another spacing stands them anew.
    const longer = sewn({ width: 3 }, { kind: 'line', path: edge, prongs });
    for (let k = 0; k + 3 < own.length; k += 2) {
      const [ax, ay, bx, by] = [
        own[k + 2]! - own[k]!,
        own[k + 3]! - own[k + 1]!,
        longer[k + 2]! - longer[k]!,
        longer[k + 3]! - longer[k + 1]!,
      ];
      expect(Math.abs(ax * by - ay * bx)).toBeLessThan(0.01);
    }
    expect(sewn({ spacing: 3.3 }, { kind: 'line', path: edge, prongs }).length).toBeLessThan(0.8 * own.length);
  });

  test('prongs that an inner corner keeps short stay so when the others are made longer, and all become shorter when asked to', () => {
    const path = generateEdgeStitch(Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20, 0, 0), { spacing: 1, prong: 2.5 });
    const program = programOf([path]);
    const { prongs, ...line } = lineOf(program);
    const reach = (width: number): number[] => {
      const made = generateObject({ ...line, prongs }, { ...specIn(program), width });
      if (!made.ok) throw new Error(made.error);
      const { points } = made.value.parts[0]!;
      return stepsOf(points).filter(
        (_, k) => Math.hypot(points[2 * k]! - points[2 * k + 4]!, points[2 * k + 1]! - points[2 * k + 5]!) < 0.05,
      );
    };
    const [before, longer, shorter] = [reach(2.5), reach(3.5), reach(1.5)];
    expect(longer).toHaveLength(before.length);
    before.forEach((length, k) => {
      expect(longer[k]! / length).toBeCloseTo(length < 2.3 ? 1 : 1.4, 1);
      expect(shorter[k]!).toBeLessThan(Math.max(1.55, 0.61 * length));
    });
    expect(before.filter((length) => length < 2.3).length).toBeGreaterThan(8);
  });

  test.each([
    ['slanted', 0],
    ['slanted', 35],
    ['square', 60],
  ] as const)(
    'a comb with %s rows, turned by %p°, is one fill: its narrow teeth are in it, and what lies between them is not',
    (rowEnds, angle) => {
      // Teeth 1.3 mm high with 0.45 mm between them: their rows are short, and lean as much as satin throws do.
      const comb = [0, 0, 20, 0];
      for (let k = 0; k < 5; k++) comb.push(20, 1.75 * k, 30, 1.75 * k, 30, 1.75 * k + 1.3, 20, 1.75 * k + 1.3);
      comb.push(20, 12, 0, 12);
      const turn = (angle * Math.PI) / 180;
      const at = (x: number, y: number): [number, number] => [
        x * Math.cos(turn) - y * Math.sin(turn),
        x * Math.sin(turn) + y * Math.cos(turn),
      ];
      const ring = Float64Array.from(comb.flatMap((_, k) => (k % 2 === 0 ? at(comb[k]!, comb[k + 1]!) : [])));
      const spec = { angle: angle + 90, spacing: 0.42, stitchLength: 4, offset: 0.3, rowEnds };
      const program = programOf(generateFill([ring], spec), 0.1);
      const fill = largestOf(program);
      const rings = [fill.outline, ...fill.holes];
      for (let k = 0; k < 5; k++) expect(containsPoint(rings, ...at(28.5, 1.75 * k + 0.65))).toBe(true);
      for (let k = 0; k < 4; k++) expect(containsPoint(rings, ...at(26, 1.75 * k + 1.52))).toBe(false);
      expect(Math.abs(fill.spacing! / 0.42 - 1)).toBeLessThan(0.02);
      const own = Math.abs(signedArea(ring));
      expect(Math.abs(rings.reduce((sum, r) => sum + signedArea(r), 0) / own - 1)).toBeLessThan(0.04);
    },
  );

  test('a fill without turns of its own has no shortest one', () => {
    const [path] = generateFill([ellipse], { angle: 15, spacing: 0.5, stitchLength: 4, offset: 0.3, rowEnds: 'slanted' });
    expect(specIn(programOf([path!]))).toMatchObject({ rowEnds: 'slanted' });
    expect(specIn(programOf([path!])).shortest).toBeUndefined();
  });

  test.each([4, 5.5, 9])('throws of a column 3 to 10 mm wide that were split above %p mm are again, in as many stitches', (splitLength) => {
    const left = Float64Array.of(0, 3, 60, 10);
    const right = Float64Array.of(0, 0, 60, 0);
    const satin = generateSatin(left, right, { spacing: 0.5, pull: 0, splitLength });
    // A wedge whose throws are split that short can be a fill as well; somebody tells that it is none.
    const program = programOf([satin]);
    const told = recognizeAs(program, { kind: 'tell', as: 'satin', role: 'cover' });
    const read = specOf(
      program,
      told.objects.find((o) => o.kind === 'satin')!,
    );
    if (!read.ok) throw new Error(read.error);
    const spec = read.value;
    expect(Math.abs(spec.splitLength - splitLength)).toBeLessThan(0.25);
    const again = generateSatin(left, right, { spacing: 0.5, pull: 0, splitLength: spec.splitLength });
    expect(Math.abs(again.length / satin.length - 1)).toBeLessThan(0.02);
    // A column that no throw of was split keeps its longest throws whole, and one of usual width says nothing.
    const whole = generateSatin(left, right, { spacing: 0.5, pull: 0, splitLength: 12 });
    expect(specIn(programOf([whole])).splitLength).toBeGreaterThanOrEqual(10);
    expect(specIn(programOf([generateSatin(Float64Array.of(0, 4, 40, 4), Float64Array.of(0, 0, 40, 0), { spacing: 0.4, pull: 0, splitLength: 7 })])).splitLength).toBe(USUAL_SPEC.splitLength); // prettier-ignore
  });

  test('split throws that lean are read as leaning, by as many angle lines as it takes', () => {
    const column = [Float64Array.of(0, 8, 60, 8), Float64Array.of(0, 0, 60, 0)] as const;
    const led = generateSatin(...column, { spacing: 0.5, pull: 0, splitLength: 5, rungs: [[0.6, 0.4]] });
    const spec = specIn(programOf([led]));
    expect(spec.angleLines).toHaveLength(1);
    const [x0, , x1] = spec.angleLines[0]!;
    expect(Math.abs(x0 - x1)).toBeGreaterThan(9);
  });
});

describe('the outline of a fill', () => {
  const letter = Float64Array.of(0, 0, 5, 0, 5, 17, 12, 5, 14, 5, 21, 17, 21, 0, 26, 0, 26, 26, 21, 26, 13, 12, 5, 26, 0, 26);

  test.each([0, 60, 120, 90])('holds the ends of all rows at %p°, and has no corner for each of them', (angle) => {
    for (const rowEnds of ['square', 'slanted'] as const) {
      const paths = generateFill([letter], { angle, spacing: 0.45, stitchLength: 4.5, offset: 0.3, rowEnds });
      expect(paths).toHaveLength(1);
      const program = programOf(paths, 0.1);
      const fill = largestOf(program);
      expect(fill.kind).toBe('fill');
      const around = offsetRings([fill.outline, ...fill.holes], 0.35);
      let out = 0;
      for (const { first, last } of fill.spans)
        for (let i = first; i <= last; i++) if (!containsPoint(around, program.x[i]!, program.y[i]!)) out++;
      expect({ angle, rowEnds, share: out / fill.stitches < 0.01 }).toEqual({ angle, rowEnds, share: true });
      const shape = shapeOf(program, fill);
      const corners =
        shape.ok && shape.value.kind === 'area' ? shape.value.rings.reduce((sum, ring) => sum + ring.length / 2, 0) : Infinity;
      // Every other end of a row at most, of some 230.
      expect(corners).toBeLessThan(100);
    }
  });
});
