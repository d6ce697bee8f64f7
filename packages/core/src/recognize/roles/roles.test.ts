import { describe, expect, test } from '@jest/globals';
import { generateContour } from '../../generate/line/contour.ts';
import { generateEdgeStitch } from '../../generate/line/edgeStitch.ts';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateRun } from '../../generate/line/run.ts';
import { generateSatin } from '../../generate/column/satin.ts';
import { generateCenterRun, generateEdgeRun, generateTatamiUnderlay } from '../../generate/underlay.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { readSvg } from '../../formats/svg/readSvg.ts';
import { drawSteps } from '../drawSteps.ts';
import { signedArea } from '../../geometry/ring.ts';
import { measureRun } from '../line/measureRun.ts';
import { findProngs } from '../cut/prongs.ts';
import { findConcernedObject, publishObject } from '../publishObjects.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import { bend } from '../../testing/columns.ts';

/** Sews paths in one go, a lock before and after; `null` cuts the thread. */
function sew(paths: readonly (Float64Array | null)[], settle = (v: number): number => v): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  let isHeld = false;
  for (const path of paths) {
    if (path === null) {
      builder.trim();
      isHeld = false;
      continue;
    }
    if (!isHeld) {
      builder.jump(settle(path[0]!), settle(path[1]!)).stitch(settle(path[0]!), settle(path[1]!));
      for (let k = 0; k < 4; k++) builder.stitch(settle(path[0]! + (k % 2 === 0 ? 0.7 : 0)), settle(path[1]!));
    }
    isHeld = true;
    for (let k = 0; k < path.length; k += 2) builder.stitch(settle(path[k]!), settle(path[k + 1]!));
  }
  return builder.trim().end().build();
}

const tenth = (v: number): number => Math.round(v * 10) / 10;

const cover = (program: Program): StitchObject => recognizeProgram(program).objects.find((o) => o.role === 'cover' && o.kind !== 'run')!;

describe('underlay of fills', () => {
  const outline = Float64Array.of(0, 0, 26, 2, 30, 18, 14, 26, -2, 16);
  const hole = Float64Array.of(10, 9, 16, 9, 16, 15, 10, 15);
  const spec = { angle: 25, spacing: 0.42, stitchLength: 4, offset: 0.25 };

  test('a hole is a hole, its edge run belongs to the fill, and the angle is the fill’s own', () => {
    const rings = [outline, hole];
    const layers = generateEdgeRun(rings).flatMap((path) => [path, null]);
    const fill = cover(sew([...layers, ...generateFill(rings, spec).flatMap((path) => [path, null])]));
    expect(fill.holes).toHaveLength(1);
    expect(fill.angle).toBeCloseTo(25, 0);
    expect(fill.underlay.map((u) => u.kind)).toContain('edge-run');
    expect(fill.spacing).toBeCloseTo(0.42, 2);
  });

  test('rows joined square and slanted, mirrored and turned, are the same fill', () => {
    for (const rowEnds of ['square', 'slanted'] as const) {
      for (const turn of [0, 37, 142]) {
        const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
        const paths = generateFill([outline], { ...spec, rowEnds }).map((path) =>
          path.map((_, k) => {
            const [x, y] = [path[k - (k % 2)]!, -path[k - (k % 2) + 1]!];
            return k % 2 === 0 ? x * c - y * s : x * s + y * c;
          }),
        );
        const fill = cover(sew(paths));
        expect(fill.kind).toBe('fill');
        const off = Math.abs((((fill.angle! - (turn - 25)) % 180) + 180) % 180);
        expect(Math.min(off, 180 - off)).toBeLessThan(1);
        expect(fill.spacing).toBeCloseTo(0.42, 2);
      }
    }
  });

  test('open rows under a cover are tatami, however few', () => {
    const narrow = Float64Array.of(0, 0, 7, 0, 7, 30, 0, 30);
    const layer = generateTatamiUnderlay([narrow], 0);
    const fill = cover(sew([...layer, ...generateFill([narrow], { ...spec, angle: 0 })]));
    expect(fill.underlay.map((u) => u.kind)).toEqual(['tatami']);
  });
});

describe('runs', () => {
  test.each([1, 2, 3, 5])('gone over %d times', (passes) => {
    const line = generateRun(Float64Array.of(0, 0, 10, 6, 24, 2, 33, 9), { stitchLength: 2.2 });
    const back = Float64Array.from(
      Array.from({ length: line.length / 2 }, (_, k) => [line[line.length - 2 - 2 * k]!, line[line.length - 1 - 2 * k]!]).flat(),
    );
    const builder = new ProgramBuilder();
    for (let pass = 0; pass < passes; pass++) {
      const path = pass % 2 === 0 ? line : back;
      for (let k = pass === 0 ? 0 : 2; k < path.length; k += 2) builder.stitch(tenth(path[k]!), tenth(path[k + 1]!));
    }
    const program = builder.build();
    const run = measureRun(program, 0, program.rowCount - 1);
    expect(run.passes).toBe(passes);
    expect(run.stitchLength).toBeCloseTo(2.2, 0);
  });
});

describe('what is said of objects', () => {
  const { left, right } = bend(15, 3, 90);
  const program = sew([
    generateCenterRun(left, right),
    generateSatin(left, right, { spacing: 0.4, pull: 0, splitLength: 7 }),
    null,
    Float64Array.of(40, 0, 42, 0, 44, 0, 46, 0, 48, 0),
  ]);
  const recognition = recognizeProgram(program);

  test('JSON has plain lists of pairs, and no number that is none', () => {
    for (const object of recognition.objects) {
      const text = JSON.stringify(publishObject(object));
      expect(text).not.toContain('null');
      const { outline } = JSON.parse(text) as { outline: [number, number][] };
      expect(outline.every((pair) => pair.length === 2)).toBe(true);
      expect(outline).toHaveLength(object.outline.length / 2);
    }
  });

  test('a finding at a tie or a trim concerns the object that it holds', () => {
    const satin = recognition.objects.findIndex((o) => o.kind === 'satin');
    const layer = recognition.objects.findIndex((o) => o.role === 'underlay');
    const tie = recognition.objects.find((o) => o.role === 'tie')!;
    expect(findConcernedObject(tie.first, recognition)).toBe(recognition.objects[layer]);
    const trim = recognition.objects[satin]!.last + 1;
    expect(recognition.ownerOfRow[trim]).toBe(-1);
    expect(findConcernedObject(trim, recognition)).toBe(recognition.objects[satin]);
    expect(findConcernedObject(0, recognition)).toBeUndefined();
  });

  test('pictures of the steps are SVG that reads, in mm, one for each step', () => {
    const pictures = drawSteps(program);
    expect(pictures.map((p) => p.name)).toEqual(['1-stretches', '2-strokes', '3-segments', '4-kinds', '5-geometry', '6-roles']);
    for (const { svg, title } of pictures) {
      expect(svg).toContain(`<title>${title}</title>`);
      const read = readSvg(svg);
      expect(read.ok).toBe(true);
    }
  });
});

describe('patterns that only look like one', () => {
  const patternOf = (path: Float64Array): string | undefined =>
    recognizeProgram(sew([path])).objects.find((o) => o.role === 'cover' && o.stitches > 3)?.pattern;
  const polyline = (...points: number[]): Float64Array => generateRun(Float64Array.from(points), { stitchLength: 2 });

  test.each<[string, Float64Array]>([
    [
      'a satin is no edge stitch',
      generateSatin(Float64Array.of(0, 0, 20, 0), Float64Array.of(0, 3, 20, 3), { spacing: 0.4, pull: 0, splitLength: 7 }),
    ],
    ['a frame is no registration mark', polyline(0, 0, 8, 0, 8, 8, 0, 8, 0, 0)],
    ['an angle is none either', polyline(0, 0, 9, 0, 9, 9)],
    ['a long line that never comes near itself fills nothing', polyline(0, 0, 90, 10, 180, 0, 270, 10)],
    ['two lines far apart fill nothing', polyline(0, 0, 90, 0, 90, 9, 0, 9)],
  ])('%s', (_, path) => {
    expect(patternOf(path)).toBeUndefined();
  });

  test('one line through a shape, evenly beside itself and turning about, is a meander fill with its area', () => {
    const points: number[] = [];
    for (let row = 0; row < 12; row++)
      for (let k = 0; k <= 24; k++) {
        const x = row % 2 === 0 ? k : 24 - k;
        points.push(x, 2 * row + 0.35 * Math.sin(x * 1.3));
      }
    const meander = recognizeProgram(sew([Float64Array.from(points)])).objects.find((o) => o.role === 'cover')!;
    expect(meander.kind).toBe('fill');
    expect(meander.spacing! / (meander.pattern === undefined ? 2 : 1)).toBeCloseTo(2, 0);
  });

  const disc = (radius: number): Float64Array =>
    Float64Array.from({ length: 180 }, (_, k) => (k % 2 === 0 ? Math.cos : Math.sin)(((k >> 1) * Math.PI) / 45) * radius);
  const rolesOf = (...paths: (Float64Array | null)[]): string[] =>
    recognizeProgram(sew(paths, tenth)).objects.flatMap((o) =>
      o.role === 'tie' || o.stitches < 4 ? [] : [`${o.role} ${o.layer ?? o.pattern ?? o.kind}`],
    );

  test.each([
    ['edge run', generateEdgeRun([disc(12)]), ['underlay edge-run']],
    ['tatami', generateTatamiUnderlay([disc(12)], 20), ['underlay tatami']],
    [
      'tatami and edge run',
      [...generateTatamiUnderlay([disc(12)], 20), ...generateEdgeRun([disc(12)])],
      ['underlay tatami', 'underlay edge-run'],
    ],
  ])('%s right before a contour fill, and after a cut, is its underlay', (_, layers, expected) => {
    const contour = generateContour([disc(12)], { spacing: 0.9, stitchLength: 2.5 });
    expect(rolesOf(...layers, ...contour)).toEqual([...expected, 'cover contour']);
    expect(rolesOf(...layers.flatMap((l) => [l, null]), ...contour)).toEqual([...expected, 'cover contour']);
  });

  test('a contour line on bare cloth keeps all its stitches', () => {
    const [line] = generateContour([disc(12)], { spacing: 1.2, stitchLength: 2.5 });
    const contour = recognizeProgram(sew([line!])).objects.find((o) => o.pattern === 'contour')!;
    expect(contour.stitches).toBeGreaterThanOrEqual(line!.length / 2 - 6);
    expect(Math.abs(contour.spacing! / 1.2 - 1)).toBeLessThan(0.06);
    // It covers half a spacing beyond its outermost way: the disc that was asked for.
    expect(Math.abs(signedArea(contour.outline)) / (Math.PI * 144)).toBeCloseTo(1, 1);
  });

  test('an edge stitch round a shape is one object, corners and all, and a run over it is none', () => {
    const square = Float64Array.of(0, 0, 30, 0, 30, 24, 0, 24, 0, 0);
    const prongs = generateEdgeStitch(square, { spacing: 2.4, prong: 2.5 });
    expect(rolesOf(prongs)).toEqual(['cover edge-stitch']);
    expect(rolesOf(prongs, null, generateRun(square, { stitchLength: 2.5 }))).toEqual(['cover edge-stitch', 'cover run']);
    expect(findProngs(sew([prongs]), 0, 4 + prongs.length / 2)).toHaveLength(1);
    expect(findProngs(sew([generateRun(square, { stitchLength: 2 })]), 0, 50)).toEqual([]);
  });

  test('a stop parts underlay from cover: what is sewn before it is an applique’s, and a zigzag in parts is one tack-down', () => {
    const ring = Float64Array.from([...disc(15), 15, 0]);
    const zigzag = generateSatin(Float64Array.from([...disc(16), 16, 0]), Float64Array.from([...disc(14), 14, 0]), {
      spacing: 2.8,
      pull: 0,
      splitLength: 7,
    });
    const border = generateSatin(Float64Array.from([...disc(17), 17, 0]), Float64Array.from([...disc(13), 13, 0]), {
      spacing: 0.4,
      pull: 0,
      splitLength: 7,
    });
    const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
    for (const path of [generateRun(ring, { stitchLength: 2.5 }), zigzag, border]) {
      builder.jump(path[0]!, path[1]!);
      for (let k = 0; k < path.length; k += 2) builder.stitch(path[k]!, path[k + 1]!);
      builder.trim().stop('lay or cut');
    }
    const { objects } = recognizeProgram(builder.end().build());
    expect(objects.filter((o) => o.role !== 'tie').map((o) => `${o.role} ${o.kind}`)).toEqual([
      'placement run',
      'tackdown satin',
      'cover satin',
    ]);
    expect(objects.find((o) => o.role === 'tackdown')!.stitches).toBeGreaterThanOrEqual(zigzag.length / 2 - 2);
  });

  test.each<[string, Float64Array, boolean]>([
    ['sewn once', polyline(-4, 0, 4, 0, 0, 0, 0, 4, 0, -4), true],
    ['turned by 30°', polyline(-3.46, -2, 3.46, 2, 0, 0, -2, 3.46, 2, -3.46), true],
    ['sewn there and back', polyline(-4, 0, 4, 0, -4, 0, 4, 0, 0, 0, 0, 4, 0, -4, 0, 4, 0, -4), true],
    ['with arms of 20 mm', polyline(-20, 0, 20, 0, 0, 0, 0, 20, 0, -20), false],
    ['with one arm only', polyline(-4, 0, 4, 0, 0, 0, 0, 4, 0, 0), false],
    ['whose arms meet at their ends', polyline(-4, 0, 4, 0, 4, 8), false],
  ])('a cross %s', (_, path, isMark) => {
    const { objects } = recognizeProgram(sew([path], tenth));
    expect(objects.some((o) => o.pattern === 'registration-mark')).toBe(isMark);
  });

  test('a cross under a fill of its thread belongs to the fill, on bare cloth beside it it is a mark', () => {
    const cross = polyline(6, 10, 14, 10, 10, 10, 10, 14, 10, 6);
    const beside = cross.map((v, k) => (k % 2 === 0 ? v + 30 : v));
    const [fill] = generateFill([Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20)], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 });
    const marksOf = (first: Float64Array): number =>
      recognizeProgram(sew([first, null, fill!], tenth)).objects.filter((o) => o.pattern === 'registration-mark').length;
    expect(marksOf(cross)).toBe(0);
    expect(marksOf(beside)).toBe(1);
  });
});
