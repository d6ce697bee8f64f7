import { describe, expect, test } from '@jest/globals';
import { ShopHours, USUAL_HOURS } from '@isola/core';
import fc from 'fast-check';
import { afterWorking, endOfDay, workingMinutes } from './workingTime.ts';
import { runs } from '../../../../packages/core/src/testing/runs.ts';

describe('working time', () => {
  test('runs on working days between opening and closing, and minutes come back as they went (property)', () => {
    // A Friday.
    const friday = new Date(2026, 10, 27, 15, 0);
    expect(workingMinutes(friday, new Date(2026, 10, 30, 9, 0), USUAL_HOURS)).toBe(90 + 60);
    expect(afterWorking(friday, 100, USUAL_HOURS)).toEqual(new Date(2026, 10, 30, 8, 10));
    expect(workingMinutes(new Date(2026, 10, 28, 10), new Date(2026, 10, 29, 22), USUAL_HOURS)).toBe(0);
    expect(endOfDay('2026-12-01', USUAL_HOURS)).toEqual(new Date(2026, 11, 1, 16, 30));
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 20_000 }),
        fc.integer({ min: 0, max: 8_000_000 }),
        fc.subarray([0, 1, 2, 3, 4, 5, 6], { minLength: 1 }),
        (minutes, after, days) => {
          const hours = { ...USUAL_HOURS, days };
          const from = new Date(friday.getTime() + after * 60_000);
          expect(workingMinutes(from, afterWorking(from, minutes, hours), hours)).toBeCloseTo(minutes, 3);
        },
      ),
      runs(100, 52),
    );
  });

  test('is refused where the day ends before it begins, or is no time of day', () => {
    expect(ShopHours.safeParse(USUAL_HOURS).success).toBe(true);
    for (const wrong of [{ from: '17:00' }, { to: '24:10' }, { days: [] }, { days: [9] }])
      expect(ShopHours.safeParse({ ...USUAL_HOURS, ...wrong }).success).toBe(false);
  });
});
