import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { applyToPoint, compose, fromTriangles, rotate, scale, translate } from 'transformation-matrix';
import { generateFill } from '../generate/fill/fill.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget } from '../materials/shop.ts';
import { predictSewn } from '../measure/sewnPrediction.ts';
import { runClock } from '../measure/runClock.ts';
import { ProgramBuilder } from '../model/program.ts';
import { recognizeProgram } from '../recognize/recognizeProgram.ts';
import { learnPull } from './learn.ts';
import { placePhoto, type PhotoPoint } from './placePhoto.ts';
import { expectRun, proposePlaces, widthAt } from './samplePlaces.ts';
import { SamplePlace, SewOut } from './sewOut.ts';
import { runs } from '../testing/runs.ts';

/** Two squares that meet at x = 20, rows across the seam. */
const builder = new ProgramBuilder().color('#1f4e5f', '');
for (const x of [0, 20]) {
  if (x > 0) builder.color('#b8552f', '');
  const [path] = generateFill([Float64Array.of(x, 0, x + 20, 0, x + 20, 20, x, 20)], {
    angle: 0,
    spacing: 0.4,
    stitchLength: 4,
    offset: 0.3,
  });
  builder.jump(path![0]!, path![1]!);
  for (let i = 0; i < path!.length; i += 2) builder.stitch(path![i]!, path![i + 1]!);
  builder.trim();
}
const program = builder.end().build();
const { objects } = recognizeProgram(program);
const on = (id: string) => ({ ...defaultTarget(), fabric: FABRICS.find((f) => f.id === id)! });
const jersey = on('jersey');

describe('places that a sample is measured at', () => {
  test('are across the covers and at the gap between them, as the prediction of the sewn piece has them', () => {
    const places = proposePlaces(program, objects, jersey);
    expect(places.map(({ kind }) => kind)).toEqual(['width', 'width', 'gap']);
    for (const place of places) expect(SamplePlace.parse(place)).toEqual(place);
    const sewn = predictSewn(program, objects, jersey);
    for (const { kind, from, to, designed, expected } of places) {
      if (kind === 'gap') continue;
      const row = (spot: typeof from): number =>
        program.x.findIndex((x, k) => program.command[k] === 0 && x === spot.x && program.y[k] === spot.y);
      expect(Math.hypot(sewn.x[row(from)]! - sewn.x[row(to)]!, sewn.y[row(from)]! - sewn.y[row(to)]!)).toBeCloseTo(expected, 2);
      expect(designed).toBeGreaterThan(18);
    }
    // The seam opens by what both sides draw back, by as much more on a cloth that pulls more.
    const gap = places[2]!;
    expect(gap.from.x).toBeCloseTo(20, 0);
    expect(gap.expected).toBeCloseTo(gap.designed + gap.perPull * jersey.fabric.pull, 9);
    const sweater = on('sweater-knit');
    const there = proposePlaces(program, objects, sweater).find(({ kind }) => kind === 'gap')!;
    expect(there.expected).toBeCloseTo(gap.designed + gap.perPull * sweater.fabric.pull, 6);
  });

  test('tell the pull that they were sewn with: a piece sewn as predicted on a cloth that pulls more teaches that pull (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.15, max: 0.6, noNaN: true }), (pull) => {
        const real = { ...jersey, fabric: { ...jersey.fabric, pull } };
        const places = proposePlaces(program, objects, jersey);
        const found = places.map(({ kind, from, to, designed, perPull }) => {
          const there = kind === 'width' ? widthAt(program, objects, real, { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }) : undefined;
          return Math.max(0, there?.expected ?? designed + perPull * pull);
        });
        const sewOut = SewOut.parse({
          ...{ revision: 1, sewnOn: '2026-03-02', who: 'Mara', ...real, fabric: jersey.fabric, minutes: null, breaks: 0, note: '' },
          ...{ expected: expectRun(program, jersey.machine), puckering: 'none', counts: true },
          places: places.map((place, k) => ({ ...place, measured: found[k]! })),
        });
        const { mean, spread } = learnPull(
          jersey.fabric,
          Array.from({ length: 30 }, () => sewOut),
        )!;
        expect(Math.abs(mean - pull)).toBeLessThan(0.02 + 3 * spread);
      }),
      runs(30, 42),
    );
  });

  test('are found under the pointer: the topmost cover along its thread, nothing beside the design', () => {
    const place = widthAt(program, objects, jersey, { x: 30, y: 11 })!;
    expect(Math.abs(place.from.y - 11)).toBeLessThan(0.5);
    expect(Math.min(place.from.x, place.to.x)).toBeCloseTo(20, 0);
    expect(Math.max(place.from.x, place.to.x)).toBeCloseTo(40, 0);
    expect(widthAt(program, objects, jersey, { x: 60, y: 11 })).toBeUndefined();
  });

  test('come with what the clock expects, whose parts are its whole', () => {
    const { machine } = jersey;
    const { sewing, trims, rest, seconds } = expectRun(program, machine);
    expect(sewing + trims * machine.trimCycle + rest).toBeCloseTo(seconds, 6);
    expect(seconds).toBe(runClock(program, machine).totals.seconds);
    expect(trims).toBe(2);
  });
});

describe('a photo over the design', () => {
  const spot = fc.record({ x: fc.double({ min: -90, max: 90, noNaN: true }), y: fc.double({ min: -90, max: 90, noNaN: true }) });

  test('lies where transformation-matrix lays it, however it was turned and scaled (property)', () => {
    const turn = fc.record({ angle: fc.double({ min: -3, max: 3, noNaN: true }), times: fc.double({ min: 2, max: 60, noNaN: true }) });
    fc.assert(
      fc.property(spot, spot, spot, turn, (p, q, r, { angle, times }) => {
        // Pixels run down: the picture is mirrored once.
        const take = compose(translate(1500, 1000), rotate(angle), scale(times, -times));
        const pairs = [p, q, r].map((design) => ({ design, photo: applyToPoint(take, design) }));
        const placed = placePhoto(pairs as unknown as [PhotoPoint, PhotoPoint, PhotoPoint]);
        if (!placed.ok) return void expect(placed.error).toContain('one line');
        const other = fromTriangles(
          pairs.map(({ photo }) => photo),
          pairs.map(({ design }) => design),
        );
        const { a, b, c, d, e, f, slant } = placed.value;
        for (const pixel of [
          { x: 0, y: 0 },
          { x: 3000, y: 2000 },
        ]) {
          const at = applyToPoint(other, pixel);
          expect(a * pixel.x + c * pixel.y + e).toBeCloseTo(at.x, 4);
          expect(b * pixel.x + d * pixel.y + f).toBeCloseTo(at.y, 4);
        }
        expect(slant).toBeCloseTo(1, 4);
      }),
      runs(100, 64),
    );
  });

  test('is refused from points on one line and mirrored; one taken at a slant says by how much', () => {
    const point = (px: number, py: number, x: number, y: number): PhotoPoint => ({ photo: { x: px, y: py }, design: { x, y } });
    const fails = (...points: [PhotoPoint, PhotoPoint, PhotoPoint]): unknown => placePhoto(points);
    expect(fails(point(0, 0, 0, 0), point(100, 100, 10, -10), point(200, 201, 20, -20))).toMatchObject({
      error: expect.stringContaining('one line in the photo'),
    });
    expect(fails(point(0, 0, 0, 0), point(100, 0, 10, 0), point(0, 100, 10, 0))).toMatchObject({
      error: expect.stringContaining('on the design'),
    });
    expect(fails(point(0, 0, 0, 0), point(100, 0, 10, 0), point(0, 100, 0, 10))).toMatchObject({
      error: expect.stringContaining('mirrored'),
    });
    const slanted = placePhoto([point(0, 0, 0, 0), point(100, 0, 10, 0), point(0, 100, 0, -12)]);
    expect(slanted.ok && slanted.value.slant).toBeCloseTo(1.2, 6);
  });
});
