import { describe, expect, test } from '@jest/globals';
import { parse } from 'csv-parse/sync';
import { defaultTarget } from '../materials/shop.ts';
import { ProgramBuilder } from '../model/program.ts';
import { planRun } from './planRun.ts';
import { productionSheet } from './productionSheet.ts';
import { threadListCsv } from './threadList.ts';

const ten = { onePiece: 600, stops: [], missingNeedles: 0 };
const order = { quantity: 24, heads: 6 };

// Worked by hand: 24 pieces on 6 heads are 4 runs of 10 minutes.
describe('the run of an order', () => {
  test('is as long as its runs, with what is hooped first and hoops changed between', () => {
    const ahead = planRun(ten, order, { hooping: 1, isHoopedAhead: true, aHoop: 1 });
    expect(ahead).toEqual({ runs: 4, machine: 40, operator: 24 + 4 * 3, whole: 6 + 40 + 3 * 3 });
    // Hooping six pieces takes longer than sewing them: the machine waits for two minutes each time.
    expect(planRun(ten, order, { hooping: 2, isHoopedAhead: true, aHoop: 1 }).whole).toBe(12 + 40 + 3 * (3 + 2));
    expect(planRun(ten, order, { hooping: 1, isHoopedAhead: false, aHoop: 1 }).whole).toBe(6 + 40 + 3 * (3 + 6));
    const twoUp = planRun(ten, order, { hooping: 1, isHoopedAhead: true, aHoop: 2 });
    expect([twoUp.runs, twoUp.machine]).toEqual([2, 40]);
    expect(planRun(ten, { quantity: 1, heads: 6 }, { hooping: 1, isHoopedAhead: true, aHoop: 1 }).whole).toBe(11);
  });

  test('takes the operator for stops and for threads without a needle', () => {
    const stop = { number: 1, at: 10, after: 1, note: 'lay the cloth' };
    const one = planRun({ ...ten, stops: [stop, stop, stop] }, { quantity: 10, heads: 1 }, { hooping: 0, isHoopedAhead: true, aHoop: 1 });
    expect(one.operator).toBeCloseTo(10 * (0.5 + 1), 9);
    const byHand = planRun({ ...ten, missingNeedles: 1 }, { quantity: 10, heads: 1 }, { hooping: 0, isHoopedAhead: true, aHoop: 1 });
    expect(byHand.whole - planRun(ten, { quantity: 10, heads: 1 }, { hooping: 0, isHoopedAhead: true, aHoop: 1 }).whole).toBe(20);
  });

  test('needs threads that stand in a table, read back by another library', () => {
    const program = new ProgramBuilder()
      .color('#1f4e79', 'Deep, "cold" water')
      .stitch(0, 0)
      .stitch(40, 0)
      .color('#e0a526')
      .stitch(40, 4)
      .end()
      .build();
    const sheet = productionSheet({ program, target: { ...defaultTarget(), quantity: 12 }, kept: {} });
    const rows = parse<Record<string, string>>(threadListCsv(sheet), { columns: true });
    expect(rows.map((row) => [row['needle'], row['thread'], row['color']])).toEqual([
      ['1', 'Deep, "cold" water', '#1f4e79'],
      ['2', '', '#e0a526'],
    ]);
    expect(Number(rows[0]!['order m'])).toBeCloseTo(12 * sheet.threads[0]!.onePiece, 1);
  });
});
