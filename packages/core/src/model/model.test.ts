import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { formatMillimetre } from '../formats/formatMillimetre.ts';
import { parseDecimal } from '../formats/csv/parseDecimal.ts';
import { splitStitch } from '../generate/column/splitStitch.ts';
import { generateLock } from '../generate/line/tie.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget, GARMENTS, HOOPS, MACHINES, THREADS } from '../materials/shop.ts';
import { runClock } from '../measure/runClock.ts';
import { anyProgramWithin, buildProgram, sewPath, zigzag } from '../testing/programs.ts';
import { COLOR, colorsBeforeRow, isSameProgram, ProgramBuilder, rowAt, STITCH } from './program.ts';
import { isThreadCut, layLengths, splitIntoStretches, threadOfRows } from './stretches.ts';
import { Fabric, Garment, Hoop, Machine, Target } from './target.ts';
import { ThreadType } from './thread.ts';
import { findLock } from './ties.ts';
import { runs } from '../testing/runs.ts';

describe('programs', () => {
  test('rows come out as they went in, and a copy in any two pieces is the same program', () => {
    fc.assert(
      fc.property(anyProgramWithin(60), fc.nat(80), (program, cut) => {
        const rows = Array.from({ length: program.rowCount }, (_, i) => rowAt(program, i));
        const again = new ProgramBuilder();
        for (const row of rows) again.row(row);
        expect(isSameProgram(again.build(), program)).toBe(true);
        const at = Math.min(cut, program.rowCount);
        const pieces = new ProgramBuilder(1).copy(program, 0, at, 0).copy(program, at, program.rowCount, colorsBeforeRow(program, at));
        expect(isSameProgram(pieces.build(), program)).toBe(true);
      }),
      runs(150, 21),
    );
  });

  test('any difference is seen: a row more, another command, place, thread or note', () => {
    const rows = [
      { command: 'color' as const, color: '#102030', note: 'One' },
      { command: 'stitch' as const, x: 1, y: 2 },
      { command: 'stop' as const, note: 'wait' },
    ];
    const program = buildProgram(rows);
    const others = [
      [...rows, { command: 'trim' as const }],
      [rows[0]!, { command: 'jump' as const, x: 1, y: 2 }, rows[2]!],
      [rows[0]!, { command: 'stitch' as const, x: 1, y: 2.001 }, rows[2]!],
      [{ ...rows[0]!, color: '#102031' }, rows[1]!, rows[2]!],
      [{ ...rows[0]!, note: 'Two' }, rows[1]!, rows[2]!],
      [rows[0]!, rows[1]!, { command: 'stop' as const, note: 'go' }],
      [rows[0]!, rows[1]!, { command: 'stop' as const }],
    ];
    expect(isSameProgram(program, buildProgram(rows))).toBe(true);
    for (const other of others) expect(isSameProgram(program, buildProgram(other))).toBe(false);
  });

  test('rows without a place of their own hold the place of the needle', () => {
    const program = buildProgram([
      { command: 'trim' },
      { command: 'stitch', x: 3, y: 4 },
      { command: 'trim' },
      { command: 'color', color: '#000000' },
      { command: 'jump', x: 7, y: 8 },
      { command: 'stop' },
    ]);
    expect([...program.x]).toEqual([0, 3, 3, 3, 7, 7, 7]);
    expect([...program.y]).toEqual([0, 4, 4, 4, 8, 8, 8]);
  });
});

describe('stretches', () => {
  test('they hold every stitch once, their gaps every other row, and neighbours share theirs', () => {
    fc.assert(
      fc.property(anyProgramWithin(60), (program) => {
        const stretches = splitIntoStretches(program);
        const threads = threadOfRows(program);
        let next = 0;
        stretches.forEach((stretch, k) => {
          expect(stretch.before.first).toBe(next);
          expect(stretch.before.end).toBe(stretch.first);
          for (let i = stretch.first; i <= stretch.last; i++) {
            expect(program.command[i]).toBe(STITCH);
            expect(threads[i]).toBe(stretch.thread);
          }
          for (let i = stretch.before.first; i < stretch.before.end; i++) expect(program.command[i]).not.toBe(STITCH);
          if (k > 0) expect(stretch.before).toBe(stretches[k - 1]!.after);
          next = stretch.after.first;
        });
        expect(stretches[stretches.length - 1]!.after.end).toBe(program.rowCount);
        expect(threads.filter((_, i) => program.command[i] === COLOR)).toHaveLength(program.threads.length);
      }),
      runs(150, 22),
    );
  });

  test('no thread is laid over a cut, and the length laid is that of the way between cuts', () => {
    fc.assert(
      fc.property(anyProgramWithin(60), (program) => {
        const lengths = layLengths(program);
        for (const { before, first } of splitIntoStretches(program)) {
          if (!isThreadCut(before) && before.first > 0) continue;
          expect(lengths[first]).toBe(0);
          for (let i = before.first; i < before.end; i++) if (isThreadCut(before) && i > before.first) expect(lengths[i]! >= 0).toBe(true);
        }
        for (let i = 1; i < program.rowCount; i++) {
          const way = Math.hypot(program.x[i]! - program.x[i - 1]!, program.y[i]! - program.y[i - 1]!);
          expect(lengths[i] === 0 || Math.abs(lengths[i]! - way) < 1e-9).toBe(true);
        }
      }),
      runs(150, 23),
    );
  });
});

describe('locks', () => {
  const lockOf = (points: readonly (readonly [number, number])[]): boolean => {
    const program = sewPath(points);
    return findLock(program, 2, 1 + points.length) >= 0;
  };

  test('to and fro and a small triangle are locks, rounded to 0.1 mm and scaled by 85 to 115 % too', () => {
    const go: [number, number][] = [
      [4, 0],
      [8, 0],
      [12, 0],
    ];
    const fro: [number, number][] = [[0, 0], [0.7, 0], [0, 0], [0.7, 0], [0, 0], ...go];
    const triangle: [number, number][] = [[0, 0], [0.8, 0], [0.4, 0.7], [0, 0], ...go];
    for (const points of [fro, triangle]) {
      for (const scale of [0.85, 1, 1.15]) {
        const scaled = points.map(([x, y]): [number, number] => [x * scale, y * scale]);
        expect(lockOf(scaled)).toBe(true);
        expect(lockOf(scaled.map(([x, y]): [number, number] => [Math.round(x * 10) / 10, Math.round(y * 10) / 10]))).toBe(true);
      }
    }
  });

  test('a plain run, a double run of usual stitches and satins of any width are none', () => {
    expect(
      lockOf([
        [0, 0],
        [2.5, 0],
        [5, 0],
        [7.5, 0],
        [10, 0],
      ]),
    ).toBe(false);
    expect(
      lockOf([
        [0, 0],
        [2.5, 0],
        [0, 0],
        [2.5, 0],
        [0, 0],
        [2.5, 0],
      ]),
    ).toBe(false);
    for (const width of [0.8, 1, 1.4, 2, 5])
      for (const spacing of [0.3, 0.4, 0.6]) expect(lockOf(zigzag(0, 0, 30, width, spacing))).toBe(false);
    expect(lockOf([[1, 1]])).toBe(false);
    expect(
      lockOf([
        [1, 1],
        [1, 1],
        [1, 1],
        [1, 1],
      ]),
    ).toBe(false);
  });

  test('a generated lock is found from either end, in any direction', () => {
    for (let degrees = 0; degrees < 360; degrees += 30) {
      const [dx, dy] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      const lock = generateLock(5, 5, 5 + 3 * dx, 5 + 3 * dy);
      const points: [number, number][] = [[5, 5]];
      for (let k = 0; k < lock.length; k += 2) points.push([Math.round(lock[k]! * 1000) / 1000, Math.round(lock[k + 1]! * 1000) / 1000]);
      points.push([5 + 3 * dx, 5 + 3 * dy], [5 + 6 * dx, 5 + 6 * dy]);
      expect(lockOf(points)).toBe(true);
      const program = sewPath([...points].reverse());
      expect(findLock(program, 1 + points.length, 2)).toBeGreaterThan(0);
    }
  });
});

describe('small computations', () => {
  test('decimals are read to the last bit as Number reads them, and written so that they read back', () => {
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), fc.integer({ min: 0, max: 12 }), (value, digits) => {
        const text = value.toFixed(digits);
        expect(Object.is(parseDecimal(text), Number(text))).toBe(true);
        expect(Number(formatMillimetre(value))).toBe(value + 0);
        expect(formatMillimetre(value)).toMatch(/^-?\d+(\.\d+)?$/);
      }),
      runs(1000, 24),
    );
    for (const text of ['', ' ', '.', '-', '1.2.3', '0x10', 'Infinity', 'NaN', '1,5', '--1', '1e', '1_000'])
      expect(parseDecimal(text)).toBeNaN();
    for (const text of ['+1.5', ' 2 ', '1e2', '.5', '5.', '-.25', '123456789012345678', '0.00000000000000000001'])
      expect(parseDecimal(text)).toBe(Number(text));
    expect(parseDecimal('stitch,-12.02,4', 7, 13)).toBe(-12.02);
  });

  test('no part of a split stitch is over the limit, and parts are in order', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 200, noNaN: true }),
        fc.double({ min: 1, max: 12, noNaN: true }),
        fc.nat(9),
        (length, longest, index) => {
          const places = [0, ...splitStitch(length, longest, index), 1];
          for (let k = 1; k < places.length; k++) {
            expect(places[k]!).toBeGreaterThan(places[k - 1]!);
            expect((places[k]! - places[k - 1]!) * length).toBeLessThanOrEqual(longest * (1 + 1e-9));
          }
          if (length <= longest) expect(places).toEqual([0, 1]);
        },
      ),
      runs(500, 25),
    );
  });

  test('the run clock never goes back, takes time for every stitch, and more for the same with a trim in it', () => {
    const { machine } = defaultTarget();
    fc.assert(
      fc.property(anyProgramWithin(60), (program) => {
        const { done, totals } = runClock(program, machine);
        for (let i = 1; i < program.rowCount; i++) {
          expect(done[i]!).toBeGreaterThanOrEqual(done[i - 1]!);
          if (program.command[i] === STITCH) expect(done[i]! - done[i - 1]!).toBeGreaterThanOrEqual(60 / machine.topSpeed - 1e-9);
        }
        const cut = new ProgramBuilder()
          .copy(program, 0, program.rowCount - 1, 0)
          .trim()
          .end()
          .build();
        expect(runClock(cut, machine).totals.seconds).toBeGreaterThan(totals.seconds);
      }),
      runs(100, 26),
    );
  });

  test('what the shop starts with fits its own schemas, has ids of its own, and places name hoops that hold them', () => {
    const lists = [
      [Fabric, FABRICS],
      [Garment, GARMENTS],
      [Hoop, HOOPS],
      [Machine, MACHINES],
      [ThreadType, THREADS],
    ] as const;
    for (const [schema, list] of lists) {
      for (const item of list) expect(schema.safeParse(item).success).toBe(true);
      expect(new Set(list.map((item) => item.id)).size).toBe(list.length);
    }
    for (const garment of GARMENTS) {
      const hoop = HOOPS.find((h) => h.id === garment.hoopId)!;
      expect(hoop.width >= garment.width && hoop.height >= garment.height).toBe(true);
    }
    expect(Target.safeParse(defaultTarget()).success).toBe(true);
    expect(Target.safeParse({ ...defaultTarget(), quantity: 0 }).success).toBe(false);
    // Needles by thread: 75 for 40 weight, 90 for 30, 100 to 110 for 12 (common practice).
    expect(THREADS.filter((t) => [40, 30, 12].includes(t.weight)).map((t) => [t.weight, t.needle])).toEqual([
      [40, 75],
      [40, 75],
      [30, 90],
      [12, 110],
    ]);
  });
});
