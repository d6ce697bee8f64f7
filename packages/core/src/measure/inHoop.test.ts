import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { countProgram } from './counts.ts';
import { anyProgram, sewPath } from '../testing/programs.ts';
import { AS_FILED, fromHoop, placeProgram, toHoop } from '../model/place.ts';
import { centered, extentsInHoop, turned } from './inHoop.ts';
import { isSameProgram } from '../model/program.ts';
import { splitIntoStretches } from '../model/stretches.ts';
import { runs } from '../testing/runs.ts';

const mm = fc.double({ min: -300, max: 300, noNaN: true });
const anyPlace = fc.record({ x: mm, y: mm, turn: fc.double({ min: -359, max: 359, noNaN: true }) });

describe('a design in the hoop', () => {
  const program = sewPath([
    [10.1, 20.2],
    [13.37, 20.2],
    [13.37, 27.123],
  ]);
  const { extents } = countProgram(program);

  test('that lies as its file says is the same program; moved and moved back it is so to the last decimal', () => {
    expect(placeProgram(program, AS_FILED)).toBe(program);
    expect(placeProgram(program, undefined)).toBe(program);
    const there = placeProgram(program, { x: -7.3, y: 0.07, turn: 0 });
    expect([...new Set(there.x)].map(String)).toEqual(['0', '2.8', '6.07']);
    expect([...new Set(there.y)].map(String)).toEqual(['0', '20.27', '27.193']);
    expect(isSameProgram(placeProgram(there, { x: 7.3, y: -0.07, turn: 0 }), program)).toBe(true);
    const quarter = placeProgram(program, { x: 0, y: 0, turn: 90 });
    const [first] = splitIntoStretches(quarter);
    expect([quarter.x[first!.first], quarter.y[first!.first]]).toEqual([-20.2, 10.1]);
    expect(isSameProgram(placeProgram(quarter, { x: 0, y: 0, turn: -90 }), program)).toBe(true);
  });

  test('there and back again is where it was, and lengths stay, wherever it lies', () => {
    fc.assert(
      fc.property(anyPlace, mm, mm, mm, mm, (place, x, y, x2, y2) => {
        const [a, b] = [toHoop(place, x, y), toHoop(place, x2, y2)];
        const back = fromHoop(place, a.x, a.y);
        expect(Math.hypot(back.x - x, back.y - y)).toBeLessThan(1e-9);
        expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeCloseTo(Math.hypot(x - x2, y - y2), 8);
      }),
      runs(100, 18),
    );
  });

  test('is centered on its own bounds, and turns about its middle, which stays', () => {
    fc.assert(
      fc.property(anyProgram, anyPlace, fc.integer({ min: -359, max: 359 }), (any, place, turn) => {
        const counts = countProgram(any);
        if (counts.stitches === 0) return;
        const middle = (at: ReturnType<typeof extentsInHoop>) => [(at.minX + at.maxX) / 2, (at.minY + at.maxY) / 2] as const;
        const [x, y] = middle(extentsInHoop(any, counts.extents, centered(any, counts.extents, place)));
        expect(Math.max(Math.abs(x), Math.abs(y))).toBeLessThan(0.011);
        const before = middle(extentsInHoop(any, counts.extents, place));
        const after = middle(extentsInHoop(any, counts.extents, turned(any, counts.extents, place, turn)));
        expect(Math.hypot(after[0] - before[0], after[1] - before[1])).toBeLessThan(0.02);
      }),
      runs(100, 18),
    );
    expect(centered(program, extents)).toEqual({ x: -11.73, y: -23.66, turn: 0 });
  });
});
