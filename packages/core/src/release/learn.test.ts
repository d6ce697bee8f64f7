import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget, MACHINES } from '../materials/shop.ts';
import type { Machine } from '../model/target.ts';
import { learnClock, learnPull, type Normal, updateNormal, updatePair, withClock, withPull } from './learn.ts';
import { SewOut } from './sewOut.ts';
import { runs } from '../testing/runs.ts';

const { garment, thread } = defaultTarget();
const jersey = FABRICS.find(({ id }) => id === 'jersey')!;
const machine = MACHINES[0]!;

const sample = (more: Partial<SewOut> = {}): SewOut =>
  SewOut.parse({
    ...{ revision: 2, sewnOn: '2026-03-02', who: 'Mara', fabric: jersey, garment, thread, machine, minutes: null, breaks: 0, note: '' },
    ...{ expected: { sewing: 600, trims: 20, rest: 40, seconds: 800 }, puckering: 'none', places: [], counts: true, ...more },
  });
const width = (designed: number, measured: number | null, perPull = -2) => ({
  ...{ kind: 'width' as const, name: 'Leaf', from: { x: 0, y: 0 }, to: { x: designed, y: 0 } },
  ...{ designed, perPull, expected: designed - 0.6, measured },
});

describe('a normal distribution after what was seen', () => {
  test('is that of Hoff, A First Course in Bayesian Statistical Methods, 5.2: wing lengths of nine midges (from memory)', () => {
    const lengths = [1.64, 1.7, 1.72, 1.74, 1.82, 1.82, 1.82, 1.9, 2.08];
    const spread = Math.sqrt(0.017);
    const after = updateNormal(
      { mean: 1.9, spread: 0.95 },
      lengths.map((mean) => ({ mean, spread })),
    );
    expect(after.mean).toBeCloseTo(1.805, 3);
    expect(after.spread ** 2).toBeCloseTo(0.002, 3);
  });

  test('of two unknowns is the line of Anscombe’s first four where nothing was believed before: 3.00 and 0.500 (from memory)', () => {
    const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
    const sets = [
      [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68],
      [9.14, 8.14, 8.74, 8.77, 9.26, 8.1, 6.13, 3.1, 9.13, 7.26, 4.74],
      [7.46, 6.77, 12.74, 7.11, 7.81, 8.84, 6.08, 5.39, 8.15, 6.42, 5.73],
    ];
    const open: Normal = { mean: 0, spread: 1e5 };
    for (const y of sets) {
      const [intercept, slope] = updatePair(
        [open, open],
        x.map((at, k) => ({ counted: [1, at], value: y[k]!, spread: 1 })),
      );
      expect(intercept.mean).toBeCloseTo(3, 1);
      expect(slope.mean).toBeCloseTo(0.5, 2);
      // With errors of 1: 1 over the root of the squares about the mean, 110.
      expect(slope.spread).toBeCloseTo(110 ** -0.5, 4);
    }
  });

  test('lies between what was believed and what was seen, is surer than both, and cares for no order (property)', () => {
    const normal = fc.record({
      mean: fc.double({ min: -50, max: 50, noNaN: true }),
      spread: fc.double({ min: 0.01, max: 20, noNaN: true }),
    });
    fc.assert(
      fc.property(normal, fc.array(normal, { minLength: 1, maxLength: 8 }), (prior, seen) => {
        const after = updateNormal(prior, seen);
        const means = [prior, ...seen].map(({ mean }) => mean);
        expect(after.mean).toBeGreaterThanOrEqual(Math.min(...means) - 1e-9);
        expect(after.mean).toBeLessThanOrEqual(Math.max(...means) + 1e-9);
        expect(after.spread).toBeLessThan(Math.min(...[prior, ...seen].map(({ spread }) => spread)) + 1e-12);
        const turned = updateNormal(prior, [...seen].reverse());
        expect(turned.mean).toBeCloseTo(after.mean, 9);
        // One after another is the same as all at once.
        const steps = seen.reduce((at, one) => updateNormal(at, [one]), prior);
        expect(steps.mean).toBeCloseTo(after.mean, 6);
        // One unknown alone is a pair of which the other never counts.
        const [first] = updatePair(
          [prior, { mean: 0, spread: 1 }],
          seen.map(({ mean, spread }) => ({ counted: [1, 0], value: mean, spread })),
        );
        expect(first.mean).toBeCloseTo(after.mean, 6);
      }),
      runs(100, 62),
    );
  });
});

describe('the pull of a cloth', () => {
  test('moves toward what widths and gaps say, the more the more there are; samples of other cloths and left-out ones teach nothing', () => {
    // Drawn in by 0.4 on each side: more than the 0.32 of the table.
    const one = sample({ places: [width(20, 19.2), { ...width(0.1, 0.74, 1.6), kind: 'gap' }] });
    const lesson = learnPull(jersey, [one, sample({ ...one, fabric: FABRICS[0]! }), sample({ ...one, counts: false })])!;
    expect(lesson).toMatchObject({ from: jersey.pull, samples: 1, readings: 2 });
    expect(lesson.mean).toBeGreaterThan(0.35);
    expect(lesson.mean).toBeLessThan(0.4);
    const many = learnPull(
      jersey,
      Array.from({ length: 12 }, () => one),
    )!;
    expect(many.mean).toBeCloseTo(0.4, 2);
    expect(many.spread).toBeLessThan(lesson.spread / 2);
    expect(learnPull(jersey, [sample({ places: [width(20, null), width(20, 19, 0.01)] })])).toBeUndefined();
  });

  test('taken up is the same when asked again: samples are not counted twice', () => {
    const samples = [sample({ places: [width(20, 19.2)] }), sample({ places: [width(8, 7.4)] })];
    const once = withPull(jersey, learnPull(jersey, samples)!);
    expect(withPull(once, learnPull(once, samples)!)).toEqual(once);
    expect(once.learned).toMatchObject({ from: jersey.pull, samples: 2, readings: 2 });
  });
});

describe('the clock of a machine', () => {
  const slower = (more: Partial<Machine>): Machine => ({ ...machine, ...more });

  test('tells slow trims from slow sewing when samples differ in their trims', () => {
    // A machine that sews a tenth slower than it was thought to, with trims of 12 s.
    const timed = [4, 60, 15, 120, 30, 2, 80].map((trims, k) => {
      const sewing = 300 + 90 * k;
      return sample({ expected: { sewing, trims, rest: 30, seconds: 0 }, minutes: (1.1 * sewing + 12 * trims + 30) / 60 });
    });
    const lesson = learnClock(machine, timed)!;
    expect(lesson.topSpeed.mean).toBeCloseTo(machine.topSpeed / 1.1, -1);
    expect(lesson.trimCycle.mean).toBeCloseTo(12, 0);
    expect(lesson.trimCycle.spread).toBeLessThan(1);
    const taught = withClock(machine, lesson);
    expect(taught.learned?.samples).toBe(7);
    expect(withClock(taught, learnClock(taught, timed)!)).toEqual(taught);
    // Later samples are expected by the new clock; what they say of the machine is the same.
    const later = timed.map((s) =>
      sample({ ...s, machine: taught, expected: { ...s.expected, sewing: (s.expected.sewing * machine.topSpeed) / taught.topSpeed } }),
    );
    expect(learnClock(taught, later)!.topSpeed.mean).toBeCloseTo(lesson.topSpeed.mean, 6);
  });

  test('stays within what a machine can be, whatever was written down; without minutes there is no lesson (property)', () => {
    expect(learnClock(machine, [sample()])).toBeUndefined();
    const run = fc.record({
      sewing: fc.integer({ min: 0, max: 20_000 }),
      trims: fc.integer({ min: 0, max: 500 }),
      minutes: fc.double({ min: 0.01, max: 900, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(run, { minLength: 1, maxLength: 6 }), (runs) => {
        const timed = runs.map(({ sewing, trims, minutes }) => sample({ expected: { sewing, trims, rest: 0, seconds: 0 }, minutes }));
        const taught = withClock(slower({ trimCycle: 7 }), learnClock(slower({ trimCycle: 7 }), timed)!);
        expect(taught.topSpeed).toBeGreaterThanOrEqual(machine.topSpeed / 4 - 1);
        expect(taught.topSpeed).toBeLessThanOrEqual(machine.topSpeed * 4 + 1);
        expect(taught.trimCycle).toBeGreaterThanOrEqual(0);
      }),
      runs(100, 63),
    );
  });
});
