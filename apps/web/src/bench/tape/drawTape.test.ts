/** @jest-environment node */
import { describe, expect, test } from '@jest/globals';
import { defaultTarget, ProgramBuilder, runClock } from '@isola/core';
import { NotingContext } from '../cloth/testing/NotingContext.ts';
import { drawScale, drawTape } from './drawTape.ts';
import { planTape } from './planTape.ts';

describe('tape', () => {
  test('draws sewing in its color and hatches exactly the time that is lost', () => {
    const builder = new ProgramBuilder().color('#aa3322').jump(0, 0);
    for (let k = 0; k < 50; k++) builder.stitch(k, 0);
    const program = builder.trim().color('#22aa33').jump(60, 0).stitch(60, 0).stitch(63, 0).stitch(66, 0).trim().end().build();
    const { events, totals } = runClock(program, defaultTarget().machine);
    const pieces = planTape(events, program.threads, 20);
    const ctx = new NotingContext();
    drawTape(ctx as unknown as CanvasRenderingContext2D, pieces, 10, 30, false);
    const filled = ctx.calls.filter(([name]) => name.startsWith('fillRect'));
    expect(filled.map(([name, x]) => [name, x])).toEqual(pieces.map((p) => [`fillRect ${p.isLost ? '#f6dfd9' : p.color}`, p.x]));
    const hatched = ctx.calls.filter(([name]) => name === 'rect').reduce((sum, [, , , w]) => sum + w!, 0);
    expect(hatched / 20).toBeCloseTo(totals.seconds - totals.sewing, 1);
  });

  test('its scale has round times, none of them cut off at the end', () => {
    const ctx = new NotingContext();
    drawScale(ctx as unknown as CanvasRenderingContext2D, 130, 2, 30, 0);
    expect(ctx.calls.filter(([n]) => n.startsWith('text')).map(([n]) => n.slice(5))).toEqual(['0:00', '0:30', '1:00', '1:30']);
    const long = new NotingContext();
    drawScale(long as unknown as CanvasRenderingContext2D, 300, 1, 60, 0);
    expect(long.calls.filter(([n]) => n.startsWith('text')).map(([n]) => n.slice(5))).toEqual([
      '0 min',
      '1 min',
      '2 min',
      '3 min',
      '4 min',
    ]);
  });
});
