import { describe, expect, test } from '@jest/globals';
import { parse } from 'csv-parse/sync';
import {
  compareObjects,
  decodeLayout,
  defaultTarget,
  encodeLayout,
  HOOPS,
  isSameProgram,
  MACHINES,
  type MachineLayout,
  orderOf,
  planOfRepair,
  productionSheet,
  readGcode,
  SIMULATED_LAYOUT,
  simulateProgram,
  startDesign,
  threadListCsv,
  writeGcode,
} from '@isola/core';
import { handSet } from './recognition/handSet.ts';
import { IS_GUARD, someOf, triesOf } from '../packages/core/src/testing/runs.ts';

const programs = someOf(handSet('kept')).map(({ name, program }) => ({ name, program }));
const target = { ...defaultTarget(), quantity: 24 };
/** Steps of a tenth of a millimetre as sums of weighted bits; what does not move is three records in place. */
const axis = (from: number): MachineLayout['record']['x'] => ({
  bits: [1, -1, 3, -3, 9, -9, 27, -27, 81, -81].map((weight, k) => ({ byte: (from + k) >> 3, bit: (from + k) & 7, weight })),
  relative: true,
});
const BITS: MachineLayout = {
  ...SIMULATED_LAYOUT,
  ...{ name: 'weighted bits', mmPerCount: 0.1, longest: 12.1, end: 'size' },
  header: { length: 0, fill: 0, fields: [] },
  record: { ...SIMULATED_LAYOUT.record, length: 5, x: axis(0), y: axis(10) },
};

describe('programs that our generators did not stitch', () => {
  test('go through G-code bit for bit, and through machine layouts the same each time', () => {
    for (const { name, program } of programs) {
      const read = readGcode(writeGcode(program));
      expect([name, read.ok && isSameProgram(read.value.program, program)]).toEqual([name, true]);
      for (const layout of [SIMULATED_LAYOUT, BITS]) {
        const written = encodeLayout(program, layout, name);
        if (!written.ok) throw new Error(`${name}: ${written.error}`);
        const again = decodeLayout(written.value.bytes, layout);
        if (!again.ok) throw new Error(`${name}: ${again.error.message}`);
        const twice = encodeLayout(again.value.program, layout, name);
        expect([name, twice.ok && Buffer.compare(Buffer.from(twice.value.bytes), Buffer.from(written.value.bytes))]).toEqual([name, 0]);
      }
    }
  });

  test('sew on the simulated machine as far as they fit, and have a sheet that counts each of their stitches', () => {
    for (const { name, program } of programs) {
      const run = simulateProgram(program, MACHINES[1]!, HOOPS.at(-1)!);
      const stitches = [...program.command].filter((command) => command === 0).length;
      if (run.ok) expect([name, run.sewn]).toEqual([name, [...run.program.command].filter((command) => command === 0).length]);
      else expect([name, run.refused.every(({ why }) => why !== '')]).toEqual([name, true]);
      const sheet = productionSheet({ program, target, kept: {} });
      expect([name, sheet.turns.reduce((sum, turn) => sum + turn.stitches, 0)]).toEqual([name, stitches]);
      const rows = parse<Record<string, string>>(threadListCsv(sheet), { columns: true });
      expect(rows).toHaveLength(sheet.threads.length);
      expect(new Set(sheet.turns.map(({ needle }) => needle)).size).toBe(sheet.threads.length);
    }
  });

  test('repaired by plan differ from what they were in what the plan changed, told alike from both sides', () => {
    let [changed, compared] = [0, 0];
    for (const { name, program } of programs.filter((_, k) => (IS_GUARD ? k % 9 === 4 : k % 4 === 1))) {
      const design = startDesign(program, target);
      const { design: mended, steps } = planOfRepair(design, { without: new Set(), isFree: false });
      expect([name, compareObjects(design.plan, design.plan)]).toEqual([name, []]);
      const [forth, back] = [compareObjects(design.plan, mended.plan), compareObjects(mended.plan, design.plan)];
      compared++;
      if (steps.length === 0) expect([name, forth]).toEqual([name, []]);
      if (forth.length > 0) changed++;
      const ids = (changes: typeof forth, but: string): string[] =>
        changes
          .filter(({ kinds }) => kinds.some((kind) => kind !== but))
          .map(({ object }) => object)
          .sort();
      // Which of two that changed places has moved may be told otherwise from the other side.
      expect([name, ids(forth, 'moved')]).toEqual([name, ids(back, 'moved')]);
      const known = new Set([...orderOf(design.plan), ...orderOf(mended.plan)]);
      expect([name, forth.every(({ object }) => known.has(object))]).toEqual([name, true]);
    }
    expect(compared).toBeGreaterThanOrEqual(triesOf(3));
    expect(changed).toBeGreaterThan(0);
  });
});
