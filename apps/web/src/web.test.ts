/** @jest-environment node */
import { describe, expect, test } from '@jest/globals';
import { type ClockEvent, defaultTarget, inspectProgram, type Program, ProgramBuilder, runClock } from '@isola/core';
import { shade } from './bench/cloth/colors.ts';
import { planStrokes } from './bench/cloth/strokes.ts';
import { fitViewport, pan, sayScale, toCloth, toScreen, TRUE_SIZE, zoomAt } from './bench/cloth/viewport.ts';
import { sayCount, sayHours, sayPrice, saySigned, sayTime } from './bench/figures/sayFigures.ts';
import { markEvery, planTape } from './bench/tape/planTape.ts';
import { compareFigures, compareJudged, compareOrder, compareThreads } from './screens/compare/figureRows.ts';
import { readDay } from './screens/takeIn/readDay.ts';
import { sayDue } from './screens/jobs/sayDue.ts';
import { rowsDone } from './stores/rowsDone.ts';

function fillProgram(): Program {
  const builder = new ProgramBuilder().color('#112233', 'One').jump(0, 0).stitch(0, 0);
  for (let k = 1; k < 500; k++) builder.stitch((k % 2) * 4, k * 0.2);
  builder.trim().color('#445566', 'Two').jump(30, 0).stitch(30, 0).stitch(33, 0).jump(40, 0).stitch(40, 0).stitch(43, 0);
  return builder.trim().end().build();
}

describe('viewport', () => {
  const size = { width: 800, height: 600 };
  const extents = { minX: -40, maxX: 40, minY: -10, maxY: 50, width: 80, height: 60 };

  test('a design fits whole, screen and cloth convert into each other, and y is up on cloth', () => {
    const view = fitViewport(extents, size);
    expect(toScreen(view, size, 0, 20)).toEqual({ x: 400, y: 300 });
    expect(toScreen(view, size, 0, 30).y).toBeLessThan(300);
    const at = toCloth(view, size, 123, 456);
    const back = toScreen(view, size, at.x, at.y);
    expect(back.x).toBeCloseTo(123, 9);
    expect(back.y).toBeCloseTo(456, 9);
  });

  test('zooming keeps the point under the pointer, panning moves by what the pointer moved, and scale has limits', () => {
    const view = fitViewport(extents, size);
    const before = toCloth(view, size, 100, 500);
    const after = toCloth(zoomAt(view, size, 100, 500, 2.5), size, 100, 500);
    expect(after.x).toBeCloseTo(before.x, 9);
    expect(after.y).toBeCloseTo(before.y, 9);
    const moved = toScreen(pan(view, 30, -12), size, before.x, before.y);
    expect([moved.x, moved.y].map(Math.round)).toEqual([130, 488]);
    expect(zoomAt(view, size, 0, 0, 1e9).scale).toBe(160);
    expect(sayScale(6 * TRUE_SIZE)).toBe('6.0 : 1');
    expect(sayScale(TRUE_SIZE / 2)).toBe('1 : 2.0');
  });
});

describe('drawing', () => {
  test('every stitch that lays thread is in one batch, in order; cuts are not drawn, floats are', () => {
    const program = fillProgram();
    const strokes = planStrokes(program);
    const rows = [...strokes.rows];
    expect(rows).toEqual([...rows].sort((a, b) => a - b));
    expect(rows).toHaveLength(499 + 4);
    expect(strokes.starts[strokes.starts.length - 1]).toBe(rows.length);
    for (let k = 0; k + 1 < strokes.starts.length; k++) {
      for (let n = strokes.starts[k]!; n < strokes.starts[k + 1]!; n++) {
        const row = rows[n]!;
        for (const i of [row, row - 1]) {
          expect(program.x[i]).toBeGreaterThanOrEqual(strokes.boxes[k * 4]! - 1e-4);
          expect(program.y[i]).toBeLessThanOrEqual(strokes.boxes[k * 4 + 3]! + 1e-4);
        }
        expect(strokes.threads[k]).toBe(row < 502 ? 0 : 1);
      }
    }
    expect(shade('#808080', -1)).toBe('#000000');
    expect(shade('#808080', 1)).toBe('#ffffff');
  });
});

describe('tape', () => {
  test('pieces follow each other over the whole run, sewing in its color, what is lost marked as lost', () => {
    const program = fillProgram();
    const clock = runClock(program, defaultTarget().machine);
    const pieces = planTape(clock.events, program.threads, 10);
    expect(pieces[0]!.x).toBe(0);
    const last = pieces[pieces.length - 1]!;
    expect(last.x + last.width).toBeCloseTo(clock.totals.seconds * 10, 6);
    expect(pieces.filter((p) => !p.isLost).map((p) => p.color)).toContain('#445566');
    expect(pieces.some((p) => p.isLost)).toBe(true);
  });

  test('a run of a million events gives no more pieces than pixels', () => {
    const events = Array.from({ length: 100_000 }, (_, k): ClockEvent => ({
      kind: k % 2 ? 'trim' : 'sewing',
      first: k,
      last: k,
      thread: 0,
      start: k,
      end: k + 1,
    }));
    expect(planTape(events, [{ color: '#112233', name: '' }], 1200 / 100_000).length).toBeLessThan(1700);
    expect(markEvery(2)).toBe(60);
  });

  test('the row at a time is the last one done by then', () => {
    const done = Float64Array.of(0, 0.5, 0.5, 2, 9);
    expect([-1, 0, 0.5, 1.9, 9, 99].map((t) => rowsDone(done, t))).toEqual([0, 1, 3, 3, 5, 5]);
  });
});

describe('figures in words', () => {
  test('times, counts, changes and prices', () => {
    expect([sayTime(582), sayTime(5539), sayHours(202_140), sayHours(59 * 60)]).toEqual(['9:42', '1:32:19', '56 h 09', '59 min']);
    expect(sayCount(71612)).toBe('71\u202f612');
    expect([saySigned(-24, sayTime), saySigned(38, sayCount), saySigned(0.2, sayTime)]).toEqual(['−0:24', '+38', '±0']);
    expect(sayPrice({ seconds: 144, stitches: 3 })).toBe('−2:24');
    expect(sayPrice({ seconds: -0.4, stitches: -38 })).toBe('+38 st');
    expect(sayPrice({ seconds: 0, stitches: 0 })).toBe('');
  });

  test('due dates are said by the calendar, late ones too', () => {
    const now = new Date(2026, 10, 23, 18, 30);
    const say = (due: string | null): string => sayDue(due, now).text;
    expect([say(null), say('2026-11-20'), say('2026-11-22'), say('2026-11-23'), say('2026-11-24')]).toEqual([
      'no date',
      '3 days late',
      'due yesterday',
      'due today',
      'due tomorrow',
    ]);
    expect(say('2026-11-27')).toBe('due Friday');
    expect(say('2026-12-09')).toBe('due 9 December');
    expect(sayDue('2026-11-25', now).isSoon).toBe(true);
  });

  test('a day is read as people write it, the day before the month, and the next one is meant where no year stands', () => {
    const today = new Date(2026, 10, 26);
    const read = (text: string): string | undefined => readDay(text, today);
    for (const text of ['6 December', '6 dec', '6 Dec 2026', '6.12.2026', '6. 12. 2026', '2026-12-06', '6.12.'])
      expect([text, read(text)]).toEqual([text, '2026-12-06']);
    expect(['26 November', '25 November', '29 Feb 2028'].map(read)).toEqual(['2026-11-26', '2027-11-25', '2028-02-29']);
    expect(['soon', '31 June', '12/06/2026', '2026-13-01', '29 Feb 2027', '6 Foo'].map(read)).toEqual(Array(6).fill(undefined));
  });

  test('a comparison marks what became less as a gain and leaves what is the same without a change', () => {
    const target = { ...defaultTarget(), quantity: 100 };
    const before = inspectProgram(fillProgram(), target);
    const now = { ...before, trims: 1, run: { ...before.run, seconds: before.run.seconds - 30 } };
    const rows = compareFigures(before, now);
    expect(rows.find((r) => r.name === 'Trims')).toMatchObject({ change: '1 less', mark: 'gain' });
    expect(compareOrder(before, now, target)[0]!.change).toBe('50 min less');
    // A loss says so, and every change is the difference of the two figures beside it as they are rounded.
    const worse = compareFigures({ ...before, threadM: 1.26 }, { ...before, threadM: 1.34 });
    expect(worse.find((r) => r.name === 'Upper thread')).toMatchObject({ before: '1.3 m', now: '1.3 m', change: '' });
    const judged = { maxCover: 2.44, widestGap: 0.32, findings: { stop: 1, fix: 4, note: 0 } };
    const [spot, gap, ...findings] = compareJudged(judged, { maxCover: 2.56, widestGap: 0, findings: { stop: 0, fix: 4, note: 2 } });
    expect(spot).toMatchObject({ before: '2.4', now: '2.6', change: '0.2 more', mark: 'loss' });
    expect([gap!.before, gap!.now, findings.map(({ change }) => change)]).toEqual(['0.32 mm', 'none', ['1 less', '', '2 more']]);
    // What is not known of one of them is left out.
    expect(compareJudged(judged, { maxCover: 2.5, widestGap: undefined, findings: undefined })).toHaveLength(1);
    const [first] = now.colors;
    const threads = compareThreads(before, { ...now, colors: [{ ...first!, name: 'Straw', threadM: 2 }] });
    expect(threads.map(({ name }) => name)).toEqual(['Straw', 'One', 'Two']);
    expect([threads[0]!.mark, threads[1]!.now, threads[1]!.mark]).toEqual(['loss', '0.0 m', 'gain']);
  });
});
