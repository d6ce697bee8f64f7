import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { encodeLayout } from '../formats/layout/encodeLayout.ts';
import { SIMULATED_LAYOUT } from '../formats/layout/simulatedLayout.ts';
import { HOOPS, MACHINES } from '../materials/shop.ts';
import { ProgramBuilder } from '../model/program.ts';
import { runClock } from '../measure/runClock.ts';
import { simulateFile, simulateProgram, simulateRun } from './simulate.ts';
import { runs } from '../testing/runs.ts';

const machine = MACHINES[0]!;
const hoop = { ...HOOPS[0]!, name: 'test hoop', width: 100, height: 80 };
/** A row of stitches of 3 mm, a stop, and on with another thread. */
const sewable = (): ProgramBuilder => {
  const out = new ProgramBuilder().color('#1f4e79', 'Deep water').jump(-20, 0);
  for (let k = 0; k <= 10; k++) out.stitch(-20 + k * 3, 0);
  return out.trim().stop('Lay the badge fabric').color('#e0a526', 'Amber').jump(20, 10).jump(30, 20).stitch(30, 20).stitch(32, 20);
};

// What a machine refuses and waits for is common practice of the trade, with no source: the frame has an edge, the needle bar an end, each thread a needle.
describe('the simulated machine', () => {
  test('sews what fits it, waits where the operator is wanted, and takes the time that the clock says', () => {
    const program = sewable().end().build();
    const run = simulateProgram(program, machine, hoop);
    expect([run.ok, run.sewn, run.refused]).toEqual([true, 13, []]);
    expect(run.stops).toEqual([{ row: expect.any(Number), note: 'Lay the badge fabric', at: expect.any(Number) }]);
    expect(run.stops[0]!.at).toBeLessThan(run.seconds);
    // Parted jumps cost what they cost: the clock of the file as it is sewn.
    expect(run.seconds).toBeCloseTo(runClock(run.program, machine).totals.seconds, 9);
    expect(run.seconds).toBeGreaterThanOrEqual(runClock(program, machine).totals.seconds - 1e-9);
    expect(run.notes.join(' ')).toContain('1 move over 12.7 mm is parted');
  });

  test('stands still at the first thing that it cannot do, and tells the others', () => {
    const far = sewable().stitch(51, 20).stitch(60, 20).stitch(60, 45).end().build();
    const run = simulateRun(far, machine, hoop);
    expect(run.ok).toBe(false);
    expect(run.sewn).toBe(13);
    const whys = run.refused.map(({ why }) => why);
    expect(whys[0]).toMatch(/^51\.0, 20\.0 mm lies 1\.0 mm outside of test hoop: the needle would hit the frame$/);
    expect(whys).toContainEqual(expect.stringMatching(/^a stitch of 19\.0 mm; .* makes 12\.1$/));
    // In its own file moves over 12.7 mm are parted by jumps; what is left of a stitch may still be longer than the machine makes.
    const parted = simulateProgram(far, machine, hoop).refused.map(({ why }) => why);
    expect(parted.filter((why) => !why.includes('outside of test hoop'))).toEqual([expect.stringMatching(/^a stitch of 12\.5 mm/)]);
    const one = { ...machine, needles: 1 };
    expect(simulateRun(sewable().end().build(), one, hoop).refused.map(({ why }) => why)).toContainEqual(
      expect.stringMatching(/^thread 2, Amber: .* has 1 needle$/),
    );
    // A thread that comes again has its needle.
    const again = sewable().color('#1f4e79', 'Deep water').stitch(33, 20).end().build();
    expect(simulateRun(again, { ...machine, needles: 2 }, hoop).refused.filter(({ why }) => why.includes('thread'))).toEqual([]);
    const wild = new ProgramBuilder().color('#1f4e79');
    for (let k = 0; k < 20; k++) wild.stitch(80 + k * 0.1, 0);
    const told = simulateRun(wild.end().build(), machine, hoop).refused;
    expect(told).toHaveLength(6);
    expect(told.at(-1)).toEqual({ row: -1, why: '15 more of the same: places outside of the field' });
    expect(simulateRun(new ProgramBuilder().end().build(), machine, hoop)).toMatchObject({ ok: false, sewn: 0 });
  });
});

describe('a file that the simulated machine was given', () => {
  const program = new ProgramBuilder().color('#1f4e79', 'Deep water').jump(0, 0);
  for (let k = 0; k < 30; k++) program.stitch((k % 2) * 3, k * 0.4);
  const design = program.trim().end().build();
  const written = encodeLayout(design, SIMULATED_LAYOUT);
  const bytes = written.ok ? written.value.bytes : new Uint8Array();
  const sew = (file: Uint8Array) => simulateFile(file, design, MACHINES[0]!, HOOPS[0]!);

  test('is sewn as what it is: its own design without a word, another one with the byte at which it begins to be that', () => {
    expect(sew(bytes)).toMatchObject({ ok: true, sewn: 30, refused: [], notes: [] });
    const altered = bytes.slice();
    altered[256 + 6 * 9] = altered[256 + 6 * 9]! ^ 1;
    const { notes, ok } = sew(altered);
    expect([ok, notes[0]]).toEqual([true, expect.stringMatching(/^It is not the file of this design: from byte 310 on \(row 10\)/)]);
  });

  test('stands still at once where it is cut short or none, with the byte (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: bytes.length - 1 }), (length) => {
        const { ok, refused } = sew(bytes.slice(0, length));
        expect([ok, refused.length]).toEqual([false, 1]);
        expect(refused[0]!.why).toMatch(/^Byte \d+: found /);
      }),
      runs(100, 65),
    );
    expect(sew(new TextEncoder().encode('x'.repeat(600))).refused[0]!.why).toContain('ISLA1');
  });
});
