/** @jest-environment node */
import { describe, expect, test } from '@jest/globals';
import { defaultTarget, MACHINES, productionSheet, ProgramBuilder, runClock, simulateProgram } from '@isola/core';
import { AT_START, breakThread, goOn, haltsOf, type MachineState, sewOn, turnAt } from './machineState.ts';

const machine = MACHINES[0]!;
function run(hoopWidth = 100) {
  const out = new ProgramBuilder().color('#1f4e79', 'Deep water').jump(-20, 0);
  for (let k = 0; k <= 30; k++) out.stitch(-20 + (k % 2) * 2, k * 0.4);
  out.trim().stop('Lay the badge fabric').color('#e0a526', 'Amber').jump(20, 0).stitch(20, 0).stitch(22, 0).stitch(30, 0);
  const program = out.end().build();
  const sewn = simulateProgram(program, machine, { ...defaultTarget().hoop, width: hoopWidth, height: 80 });
  const { done } = runClock(sewn.program, machine);
  return { ...sewn, done, halts: haltsOf({ ...sewn, done }), turns: productionSheet({ program, target: defaultTarget(), kept: {} }).turns };
}

describe('the simulated machine before an operator', () => {
  test('waits at a stop until that is done, goes on, and ends with the piece', () => {
    const { halts, done, program, turns } = run();
    expect(halts.map(({ kind, words }) => [kind, words])).toEqual([
      ['stop', 'Lay the badge fabric'],
      ['end', 'The piece is sewn.'],
    ]);
    let state: MachineState = AT_START;
    for (let k = 0; k < 500 && state.waits === undefined; k++) state = sewOn(state, halts, 0.1);
    expect([state.waits!.kind, state.time]).toEqual(['stop', halts[0]!.at]);
    expect(sewOn(state, halts, 100)).toBe(state);
    expect(turnAt(turns, program, 5)!.name).toBe('Deep water');
    state = goOn(state);
    expect([state.waits, state.time, state.passed]).toEqual([undefined, halts[0]!.onAt, 1]);
    state = sewOn(state, halts, 1e6);
    expect([state.waits!.kind, state.time]).toEqual(['end', done.at(-1)]);
    expect(goOn(state)).toBe(state);
    expect(turnAt(turns, program, program.rowCount)!.name).toBe('Amber');
  });

  test('a thread that breaks is sewn again from some stitches before, but not over a cut', () => {
    const { halts, done, program } = run();
    const sewing = sewOn(AT_START, halts, done[20]!);
    const broken = breakThread(sewing, program, done);
    expect([broken.waits!.kind, broken.breaks]).toEqual(['break', 1]);
    expect(broken.waits!.words).toContain('goes back 8 stitches');
    expect(breakThread(broken, program, done)).toBe(broken);
    const on = goOn(broken);
    expect(on.time).toBeLessThan(sewing.time);
    expect([on.passed, on.breaks]).toEqual([0, 1]);
    const fresh = breakThread(sewOn(AT_START, halts, done[3]!), program, done);
    expect(fresh.waits!.onAt).toBeGreaterThanOrEqual(0);
    expect(fresh.waits!.words).toMatch(/a stitch|\d stitches/);
  });

  test('stands still for good where it refuses a row', () => {
    const { halts } = run(50);
    expect(halts.map(({ kind }) => kind)).toEqual(['stop', 'refused']);
    const state = sewOn(goOn(sewOn(AT_START, halts, 1e6)), halts, 1e6);
    expect(state.waits!.words).toContain('the needle would hit the frame');
    expect(goOn(state)).toBe(state);
    expect(haltsOf({ stops: [], refused: [{ row: -1, why: 'no stitch' }], done: new Float64Array() })).toEqual([
      { kind: 'refused', at: 0, onAt: 0, words: 'no stitch' },
    ]);
  });
});
