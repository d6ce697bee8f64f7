import { describe, expect, test } from '@jest/globals';
import { areaD } from 'clipper2-ts';
import { generateContour } from '../../generate/line/contour.ts';
import { generateMeander } from '../../generate/line/meander.ts';
import { generateRun } from '../../generate/line/run.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../../generate/underlay.ts';
import { findFillingLine } from './fillingLine.ts';

const ring = (radius: number, x = 0, points = 90): Float64Array =>
  Float64Array.from({ length: points * 2 }, (_, k) =>
    k % 2 === 0 ? x + radius * Math.cos((k * Math.PI) / points) : radius * Math.sin(((k - 1) * Math.PI) / points),
  );
const together = (...parts: readonly Float64Array[]): Float64Array => Float64Array.from(parts.flatMap((p) => [...p]));
const areaOf = (outline: Float64Array): number =>
  Math.abs(areaD(Array.from({ length: outline.length / 2 }, (_, k) => ({ x: outline[k * 2]!, y: outline[k * 2 + 1]! }))));

/** An Archimedean spiral from radius 1 mm outward, its ways `pitch` mm apart, in stitches of about 2 mm. */
function spiral(pitch: number, turns: number): Float64Array {
  const points: number[] = [];
  for (let a = (2 * Math.PI) / pitch; a < 2 * Math.PI * turns; a += 2 / Math.max(1, (pitch * a) / (2 * Math.PI)))
    points.push(((pitch * a) / (2 * Math.PI)) * Math.cos(a), ((pitch * a) / (2 * Math.PI)) * Math.sin(a));
  return Float64Array.from(points);
}

describe('a line that fills an area', () => {
  test.each([0.8, 1.5, 2.5])('a spiral %p mm from way to way is a contour line of that spacing over its disc', (pitch) => {
    const line = findFillingLine(spiral(pitch, 14 / pitch))!;
    expect(line).toMatchObject({ start: 0, pattern: 'contour' });
    expect(Math.abs(line.spacing / pitch - 1)).toBeLessThan(0.08);
    // The spiral ends 14 mm out and covers half a way beyond, a turn of it half as much on the mean.
    expect(areaOf(line.outline) / (Math.PI * 14 ** 2)).toBeGreaterThan(0.85);
    expect(areaOf(line.outline) / (Math.PI * 14 ** 2)).toBeLessThan(1.12);
  });

  test('a meander turns about: its turns cancel, a contour’s add up', () => {
    const [wandering] = generateMeander([ring(16)], { spacing: 1.6, stitchLength: 2 });
    expect(findFillingLine(wandering!)).toMatchObject({ start: 0, pattern: 'meander' });
    const [rings] = generateContour([ring(16)], { spacing: 1.6, stitchLength: 2 });
    expect(findFillingLine(rings!)).toMatchObject({ start: 0, pattern: 'contour' });
  });

  test.each<[string, Float64Array[]]>([
    ['an edge run', generateEdgeRun([ring(15)])],
    ['open rows', generateTatamiUnderlay([ring(15)], 35)],
    ['open rows and an edge run', [...generateTatamiUnderlay([ring(15)], 35), ...generateEdgeRun([ring(15)])]],
  ])('begins where %s before it ends, to within a few penetrations', (_, layers) => {
    const before = together(...layers);
    for (const line of [
      generateContour([ring(15)], { spacing: 0.9, stitchLength: 2.4 })[0]!,
      generateMeander([ring(15)], { spacing: 1.3, stitchLength: 2 })[0]!,
    ]) {
      const found = findFillingLine(together(before, line))!;
      expect(Math.abs(found.start - before.length / 2)).toBeLessThanOrEqual(6);
    }
  });

  test('none is found where a line does not go beside itself, is short, or goes beside itself unevenly', () => {
    const straight = generateRun(Float64Array.of(0, 0, 200, 20), { stitchLength: 2 });
    expect(findFillingLine(straight)).toBeUndefined();
    expect(findFillingLine(spiral(1, 4))).toBeUndefined();
    let seed = 7;
    const chance = (): number => (seed = (seed * 16807) % 2147483647) / 2147483647;
    const anywhere = Float64Array.from({ length: 800 }, () => 30 * chance());
    expect(findFillingLine(anywhere)).toBeUndefined();
    expect(findFillingLine(new Float64Array(0))).toBeUndefined();
    expect(findFillingLine(Float64Array.of(1, 1))).toBeUndefined();
  });
});
