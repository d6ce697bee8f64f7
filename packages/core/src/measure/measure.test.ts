import { describe, expect, test } from '@jest/globals';
import { areaD, intersectD, FillRule } from 'clipper2-ts';
import { generateFill } from '../generate/fill/fill.ts';
import { containsPoint, signedArea } from '../geometry/ring.ts';
import { defaultTarget, STITCHES_PER_TRIM } from '../materials/shop.ts';
import { ProgramBuilder } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';
import { denierFromTex, texFromMetricNumber, threadThickness } from '../model/thread.ts';
import { buildProgram, sewPath } from '../testing/programs.ts';
import { countProgram } from './counts.ts';
import { mapCover } from './coverMap.ts';
import { inspectProgram } from './inspect.ts';
import { runClock, startLoss, stitchSeconds } from './runClock.ts';
import { measureThreadUse } from './threadUse.ts';

const target = defaultTarget();
const { machine, thread } = target;

/** `count` stitches of 3 mm along x, with 8 more before them that are over the start of the machine. */
function straight(count: number, x = 0, y = 0): ProgramBuilder {
  const builder = new ProgramBuilder().color('#123456').jump(x, y).stitch(x, y);
  for (let k = 1; k < count; k++) builder.stitch(x + 3 * (k % 20), y + 0.5 * Math.floor(k / 20));
  return builder;
}

function square(x: number, y: number, edge: number): Float64Array {
  return Float64Array.of(x, y, x + edge, y, x + edge, y + edge, x, y + edge);
}

describe('thread numbers (ISO 1144 tex system, ISO 2947 conversion table)', () => {
  test('tex, denier and metric number convert as in the standards', () => {
    // ISO 2947: tex = 1000 / Nm; tex = denier / 9. The usual threads of the trade at their nominal counts.
    for (const [metric, tex, denier] of [
      [40, 25, 225],
      [60, 16.6667, 150],
      [30, 33.3333, 300],
      [12, 83.3333, 750],
    ] as const) {
      expect(texFromMetricNumber(metric)).toBeCloseTo(tex, 3);
      expect(denierFromTex(texFromMetricNumber(metric))).toBeCloseTo(denier, 3);
    }
  });

  test('thickness goes with the square root of tex: 12 weight is 1.83 times as thick as 40 weight, 30 weight 1.15 times', () => {
    const d = (weight: number): number => threadThickness({ weight, fiber: 'rayon' });
    expect(d(12) / d(40)).toBeCloseTo(1.83, 2);
    expect(d(30) / d(40)).toBeCloseTo(1.15, 2);
    // A 25 tex thread is about 0.19 mm thick (from memory).
    expect(d(40)).toBeCloseTo(0.19, 2);
  });
});

describe('run clock', () => {
  test('one trim costs as much machine time as 120 stitches at top speed (common practice)', () => {
    const whole = runClock(straight(400).end().build(), machine).totals.seconds;
    const cut = new ProgramBuilder().copy(straight(400).build(), 0, 188, 0).trim().copy(straight(400).build(), 188, 402, 1).end().build();
    const extra = runClock(cut, machine).totals.seconds - whole;
    expect(extra).toBeCloseTo((STITCHES_PER_TRIM * 60) / machine.topSpeed, 6);
  });

  test('equivalent stitches are stitches, 120 a trim, and color changes and stops in stitches (common practice)', () => {
    const program = straight(100).trim().color('#ff0000').stitch(0, 0).stitch(3, 0).stop('wait').stitch(6, 0).trim().end().build();
    const { equivalentStitches } = runClock(program, machine).totals;
    expect(equivalentStitches).toBeCloseTo(103 + 2 * 120 + ((machine.colorChange + machine.stop) * machine.topSpeed) / 60, 6);
  });

  test('the machine runs full to 4 mm, at 55 % at 12 mm, and starts slowly over eight stitches', () => {
    const top = 60 / machine.topSpeed;
    expect(stitchSeconds(machine, 4, 8)).toBeCloseTo(top, 9);
    expect(stitchSeconds(machine, 8, 8)).toBeCloseTo(top / 0.775, 9);
    expect(stitchSeconds(machine, 12, 8)).toBeCloseTo(top / 0.55, 9);
    expect(stitchSeconds(machine, 1, 0)).toBeCloseTo(60 / 300, 9);
    expect(startLoss(machine)).toBeCloseTo(0.412, 3);
  });

  test('events follow each other without a gap, end with the total, and each row is done in its event', () => {
    const program = straight(50).trim().jump(30, 30).stitch(30, 30).stitch(33, 30).stop().color('#00ff00').stitch(0, 0).end().build();
    const clock = runClock(program, machine);
    clock.events.forEach((event, k) => {
      expect(event.start).toBeCloseTo(clock.events[k - 1]?.end ?? 0, 9);
      for (let row = event.first; row <= event.last; row++) expect(clock.done[row]).toBeLessThanOrEqual(event.end + 1e-9);
    });
    const { seconds, sewing, trims, jumps, colorChanges, stops } = clock.totals;
    expect(clock.events[clock.events.length - 1]!.end).toBeCloseTo(seconds, 9);
    expect(sewing + trims + jumps + colorChanges + stops).toBeCloseTo(seconds, 9);
  });
});

describe('counts and thread', () => {
  test('the first color is on the machine already; thread is laid by stitches and floats, not over cuts', () => {
    const program = buildProgram([
      { command: 'color', color: '#111111' },
      { command: 'jump', x: 10, y: 0 },
      { command: 'stitch', x: 10, y: 0 },
      { command: 'stitch', x: 13, y: 4 },
      { command: 'jump', x: 13, y: 14 },
      { command: 'stitch', x: 13, y: 14 },
      { command: 'trim' },
      { command: 'jump', x: 50, y: 50 },
      { command: 'stitch', x: 50, y: 50 },
      { command: 'color', color: '#222222' },
      { command: 'stitch', x: 53, y: 50 },
    ]);
    expect([...layLengths(program)].filter((v) => v > 0)).toEqual([5, 10]);
    const counts = countProgram(program);
    expect(counts).toMatchObject({ stitches: 5, jumps: 3, trims: 1, colorChanges: 1, stops: 0, longestStitch: 5, shortestStitch: 5 });
    expect(counts.extents).toMatchObject({ minX: 10, minY: 0, maxX: 53, maxY: 50, width: 43, height: 50 });
    expect(counts.lengthHistogram[10]).toBe(1);
  });

  test('a fill of 4 mm stitches takes about 5 m of upper thread for 1,000 stitches, and a third to a half of it below (from memory)', () => {
    const fill = generateFill([square(0, 0, 60)], { angle: 0, spacing: 0.4, stitchLength: 3.5, offset: 0.3 });
    const points: [number, number][] = [];
    for (let k = 0; k < fill[0]!.length; k += 2) points.push([fill[0]![k]!, fill[0]![k + 1]!]);
    const program = sewPath(points);
    const use = measureThreadUse(program, target);
    const perThousand = (1000 * use.threadM) / countProgram(program).stitches;
    expect(perThousand).toBeGreaterThan(4);
    expect(perThousand).toBeLessThan(6);
    expect(use.bobbinM / use.threadM).toBeGreaterThan(0.33);
    expect(use.bobbinM / use.threadM).toBeLessThan(0.5);
    expect(use.colors[0]!.grams).toBeCloseTo((use.threadM * 25) / 1000, 6);
  });

  test('an empty program has figures, and none of them is NaN', () => {
    const figures = inspectProgram(buildProgram([]), target);
    expect(JSON.stringify(figures)).not.toContain('null');
    expect(figures).toMatchObject({ stitches: 0, threadM: 0, longestStitch: 0 });
    expect(mapCover(buildProgram([]), thread).maxCover).toBe(0);
  });
});

describe('cover map', () => {
  const fillSquare = (edge: number, spacing: number, x = 0): [number, number][] => {
    const [path] = generateFill([square(x, 0, edge)], { angle: 0, spacing, stitchLength: 4, offset: 0.3 });
    return Array.from({ length: path!.length / 2 }, (_, k) => [path![k * 2]!, path![k * 2 + 1]!]);
  };

  test('K inside a closed fill at 0.40 mm is 0.94 with 40 weight, and its sum is the thread that was laid', () => {
    const program = sewPath(fillSquare(20, 0.4));
    const map = mapCover(program, thread);
    const at = Math.floor((10 - map.minY) / map.cell) * map.columns + Math.floor((10 - map.minX) / map.cell);
    let near = 0;
    for (let row = -4; row <= 4; row++)
      for (let column = -4; column <= 4; column++) near += map.cover[at + row * map.columns + column]! / 81;
    expect(near).toBeCloseTo(0.94, 1);
    const laid = layLengths(program).reduce((sum, length) => sum + length, 0);
    const mapped = map.cover.reduce((sum, k) => sum + k, 0) * (map.cell ** 2 / threadThickness(thread));
    expect(mapped / laid).toBeCloseTo(1, 2);
  });

  test('the area of two layers is the overlap that a geometry library (Clipper 2) finds, and areas agree with it', () => {
    const [a, b] = [square(0, 0, 24), square(11, 0, 24)];
    const asPath = (ring: Float64Array) => Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[k * 2]!, y: ring[k * 2 + 1]! }));
    const overlap = intersectD([asPath(a)], [asPath(b)], FillRule.NonZero, 4).reduce((sum, path) => sum + areaD(path), 0);
    const program = buildProgram([]);
    const builder = new ProgramBuilder().copy(program, 0, 0, 0).color('#111111');
    for (const [x, y] of fillSquare(24, 0.4)) builder.stitch(x, y);
    builder.color('#222222');
    for (const [x, y] of fillSquare(24, 0.4, 11)) builder.stitch(x, y);
    const map = mapCover(builder.end().build(), thread);
    const twice = map.layers.reduce((sum, n) => sum + (n >= 2 ? 1 : 0), 0) * map.cell ** 2;
    expect(Math.abs(twice - overlap) / overlap).toBeLessThan(0.06);
    for (const ring of [a, Float64Array.of(0, 0, 10, 0, 3, 4, 8, 12, -5, 7)]) {
      expect(signedArea(ring)).toBeCloseTo(areaD(asPath(ring)), 6);
      expect(
        signedArea(
          Float64Array.from(
            asPath(ring)
              .reverse()
              .flatMap((p) => [p.x, p.y]),
          ),
        ),
      ).toBeCloseTo(-areaD(asPath(ring)), 6);
    }
    expect(containsPoint([a], 12, 12)).toBe(true);
    expect(containsPoint([a, square(5, 5, 14)], 12, 12)).toBe(false);
  });

  test('a field of two metres gets larger cells instead of more memory', () => {
    const map = mapCover(
      buildProgram([
        { command: 'stitch', x: -1000, y: -1000 },
        { command: 'stitch', x: 1000, y: 1000 },
      ]),
      thread,
    );
    expect(map.columns * map.rows).toBeLessThanOrEqual(4_000_000);
    expect(map.penetrations.reduce((sum, n) => sum + n, 0)).toBe(2);
  });
});
