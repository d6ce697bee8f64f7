import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { followPointer } from './followPointer.ts';
import { type AngleLine, moveLineEnd } from './moveLineEnd.ts';
import { stepAngle, turnAngle } from './turnAngle.ts';
import { runs } from '../../../../../packages/core/src/testing/runs.ts';

describe('what tools make of a pointer', () => {
  test('a turn gives the angle of the line to the pointer, y up, and the same for both of its ends', () => {
    const middle = { x: 100, y: 80 };
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 179 }), fc.integer({ min: 20, max: 300 }), fc.boolean(), (angle, reach, isFine) => {
        const [dx, dy] = [Math.cos((angle * Math.PI) / 180) * reach, Math.sin((angle * Math.PI) / 180) * reach];
        expect(turnAngle(middle, { x: 100 + dx, y: 80 - dy, isFine })).toBeCloseTo(angle, 6);
        expect(turnAngle(middle, { x: 100 - dx, y: 80 + dy, isFine })).toBeCloseTo(angle, 6);
      }),
      runs(100, 51),
    );
    expect([stepAngle(179, 1, false), stepAngle(0, -1, false), stepAngle(175.4, 1, true)]).toEqual([0, 179, 5]);
  });

  test('one end of one line moves, by whole thousandths; all else stays', () => {
    const lines: AngleLine[] = [
      [0, 0, 1, 1],
      [2, 2, 3, 3],
    ];
    expect(moveLineEnd(lines, 1, 0, (x, y) => [x + 0.12345, y])).toEqual([
      [0, 0, 1, 1],
      [2.123, 2, 3, 3],
    ]);
    expect(moveLineEnd(lines, 0, 1, () => [9, 8])[0]).toEqual([0, 0, 9, 8]);
  });

  test('a pointer is followed from where the drawing begins until it is let go', () => {
    const target = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
    Object.assign(target, { setPointerCapture: () => undefined, getBoundingClientRect: () => ({ left: 10, top: 20 }) });
    const seen: unknown[] = [];
    target.addEventListener('pointerdown', (e) => followPointer(e, (at) => seen.push([at.x, at.y, at.isFine])));
    const send = (type: string, x: number, shiftKey = false) =>
      target.dispatchEvent(new MouseEvent(type, { clientX: x, clientY: 50, shiftKey }));
    send('pointerdown', 0);
    send('pointermove', 15, true);
    send('pointerup', 15);
    send('pointermove', 99);
    expect(seen).toEqual([[5, 30, true]]);
  });
});
