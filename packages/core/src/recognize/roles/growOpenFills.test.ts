import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../../generate/fill/fill.ts';
import { generateTatamiUnderlay } from '../../generate/underlay.ts';
import { signedArea } from '../../geometry/ring.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import { someOf } from '../../testing/runs.ts';

const SHIELD = Float64Array.of(0, 0, 24, 0, 24, 16, 12, 28, 0, 16);

function turned(ring: Float64Array, degrees: number): Float64Array {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return ring.map((_, k) => {
    const [x, y] = [ring[k - (k % 2)]!, ring[k - (k % 2) + 1]!];
    return k % 2 === 0 ? x * c - y * s : x * s + y * c;
  });
}

const tenth = (v: number): number => Math.round(v * 10) / 10;

/** Paths sewn in one go, to tenths of a millimetre, with a lock at either end. */
function sewn(paths: readonly Float64Array[]): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  const points = paths.flatMap((path) =>
    Array.from({ length: path.length / 2 }, (_, k) => [tenth(path[k * 2]!), tenth(path[k * 2 + 1]!)] as const),
  );
  const lock = ([x, y]: readonly [number, number]): void => [0.7, 0, 0.7, 0].forEach((dx) => void builder.stitch(x + dx, y));
  builder.jump(...points[0]!);
  lock(points[0]!);
  for (const [x, y] of points) builder.stitch(x, y);
  lock(points[points.length - 1]!);
  return builder.trim().end().build();
}

/** An open fill over tatami, and what is told of it: the share of its area that its largest cover has, its pitch (mm), and the layers beneath. */
function read(ring: Float64Array, angle: number, pitch: number, rowEnds: 'slanted' | 'square' = 'square') {
  const under = generateTatamiUnderlay([ring], angle, 3.3);
  const cover = generateFill([ring], { angle, spacing: pitch, stitchLength: 3, offset: 0.3, rowEnds });
  const covers = recognizeProgram(sewn([...under, ...cover])).objects.filter((o) => o.role === 'cover' && o.kind === 'fill');
  const largest = covers.reduce((a, b) => (Math.abs(signedArea(a.outline)) >= Math.abs(signedArea(b.outline)) ? a : b));
  const share = Math.abs(signedArea(largest.outline)) / Math.abs(signedArea(ring));
  return { share, pitch: largest.spacing!, layers: largest.underlay.map(({ kind }) => kind) };
}

const DISC = Float64Array.from(
  Array.from({ length: 80 }, (_, n) => [12 * Math.cos((n * Math.PI) / 40), 15 * Math.sin((n * Math.PI) / 40)]).flat(),
);

/** A coast with points and inlets, some 30 mm across; `k` shifts them. */
function coast(k: number): Float64Array {
  const out: number[] = [];
  for (let n = 0; n < 240; n++) {
    const t = (2 * Math.PI * n) / 240;
    const r = 11 + 3.5 * Math.sin(4 * t + k) + 2.2 * Math.sin(9 * t + 2.3 * k) + 1.1 * Math.sin(17 * t + 3.1 * k);
    out.push(r * Math.cos(t), 0.75 * r * Math.sin(t));
  }
  return Float64Array.from(out);
}

describe('an open fill', () => {
  test('leaves its tatami alone, whatever way it lies: a row or two of it that were told with that are taken from it', () => {
    for (const ring of [DISC, SHIELD])
      for (const turn of someOf([0, 22, 55, 132]))
        for (const angle of [0, 45, 90])
          for (const ends of ['slanted', 'square'] as const) {
            const told = read(turned(ring, turn), angle, 1.7, ends);
            expect({ turn, angle, ends, layers: told.layers }).toEqual({ turn, angle, ends, layers: ['tatami'] });
            expect(told.pitch).toBeCloseTo(1.7, 1);
            expect(Math.abs(told.share - 1)).toBeLessThan(0.06);
          }
  });

  test('is one fill out to its points: sections of few rows are found on its lines', () => {
    for (const k of someOf([5, 9, 11, 17, 18, 23, 24]))
      for (const ends of ['slanted', 'square'] as const) {
        const told = read(coast(k), 30, 1.6, ends);
        expect(told.layers).toContain('tatami');
        expect(Math.abs(told.pitch / 1.6 - 1)).toBeLessThan(0.02);
        expect({ k, ends, share: told.share }).toEqual({ k, ends, share: expect.closeTo(1.01, 1) });
        expect(told.share).toBeGreaterThan(0.985);
      }
  });

  test('takes nothing of another open fill on lines of its own beside it', () => {
    const beside = turned(SHIELD, 0).map((v, k) => (k % 2 === 0 ? v + 25 : v));
    const sew = (ring: Float64Array, angle: number) =>
      generateFill([ring], { angle, spacing: 1.6, stitchLength: 3, offset: 0.3, rowEnds: 'square' });
    const { objects } = recognizeProgram(sewn([...sew(SHIELD, 20), ...sew(beside, 65)]));
    const fills = objects.filter((o) => o.kind === 'fill' && o.role === 'cover');
    expect(fills.map((o) => Math.round(o.angle!))).toEqual([20, 65]);
    for (const o of fills) expect(Math.abs(signedArea(o.outline) / signedArea(SHIELD) - 1)).toBeLessThan(0.06);
  });
});
