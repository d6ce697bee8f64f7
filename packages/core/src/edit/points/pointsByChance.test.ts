import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { countProgram } from '../../measure/counts.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import { isSameProgram, JUMP, STITCH } from '../../model/program.ts';
import { placeOf } from '../../plan/assemble.ts';
import { fourObjects } from '../../testing/designs.ts';
import { applyOperation, type Operation } from '../operations/registry.ts';
import { editPoints } from './editPoints.ts';
import { PointsAsk } from './pointsAsk.ts';
import { runs, triesOf } from '../../testing/runs.ts';

const start = fourObjects();

/** Rows of an object as texts, so that what stays can be told. */
function rowsOf({ plan, program }: Design, id: string): string {
  const { first, end } = placeOf(plan, id);
  return Array.from({ length: end - first }, (_, k) =>
    [program.command[first + k], program.x[first + k], program.y[first + k]].join(),
  ).join(' ');
}

const row = fc.nat(start.program.rowCount + 20);
const rows = fc.array(row, { minLength: 1, maxLength: 40 });
const stretch = fc.tuple(row, fc.integer({ min: 1, max: 60 })).map(([first, count]) => Array.from({ length: count }, (_, k) => first + k));
const some = fc.oneof(rows, stretch);
const far = fc.double({ min: -30, max: 30, noNaN: true });
const long = fc.constantFrom('split', 'refuse');
const anyAsk = fc.oneof(
  fc.record({ what: fc.constant('move'), rows: some, dx: far, dy: far, long }),
  fc.record({
    what: fc.constant('insert'),
    row,
    side: fc.constantFrom('before', 'after'),
    at: fc.option(fc.tuple(far, far), { nil: undefined }),
    long,
  }),
  fc.record({ what: fc.constantFrom('delete', 'jump', 'stitch', 'smooth', 'straighten'), rows: some, long }),
  fc.record({ what: fc.constant('cut'), row }),
  fc.record({ what: fc.constant('respace'), rows: some, length: fc.double({ min: 0.5, max: 12, noNaN: true }) }),
  fc.record({ what: fc.constant('take-out'), rows: some }),
);

describe('whatever is asked of single stitches', () => {
  test('is done or refused in words; what is done holds in a journal, and leaves objects that it does not speak of as they were', () => {
    let [done, refused] = [0, 0];
    fc.assert(
      fc.property(fc.array(anyAsk, { minLength: 1, maxLength: 4 }), (asks) => {
        let design = start;
        for (const asked of asks) {
          const ask = PointsAsk.parse(asked);
          const made = editPoints(design, ask);
          if (!made.ok) {
            refused++;
            expect(made.error.length).toBeGreaterThan(8);
            continue;
          }
          done++;
          const { operations, design: after, rows: now } = made.value;
          const again = applyOperation(design, JSON.parse(JSON.stringify({ id: 'sequence', operations })) as Operation);
          expect(again.ok && isSameProgram(again.value.program, after.program)).toBe(true);
          for (const kept of now) expect([STITCH, JUMP]).toContain(after.program.command[kept]);
          const named = new Set('rows' in ask ? ask.rows : [ask.row]);
          for (const id of orderOf(design.plan)) {
            const { first, end } = placeOf(design.plan, id);
            // The first rows after what was changed may come to belong to the way there.
            // Within a lock the thread is cut at that one's end.
            const isNear = ask.what === 'cut' || [...named].some((one) => one >= first - 3 && one <= end + 1);
            if (!isNear && after.plan.objects[id] !== undefined) expect([id, rowsOf(after, id)]).toEqual([id, rowsOf(design, id)]);
          }
          design = after;
        }
      }),
      runs(150, 22),
    );
    expect(Math.min(done, refused)).toBeGreaterThan(triesOf(30));
  });

  test('no stitch becomes longer than the machine makes, or nothing is done', () => {
    const most = Math.max(start.target.machine.maxStitch, countProgram(start.program).longestStitch);
    fc.assert(
      fc.property(stretch, far, far, long, (asked, dx, dy, onLong) => {
        const ask = PointsAsk.parse({ what: 'move', rows: asked, dx, dy, long: onLong });
        const made = editPoints(start, ask);
        if (!made.ok) return;
        expect(countProgram(made.value.design.program).longestStitch).toBeLessThanOrEqual(most + 1e-9);
        if (onLong === 'refuse') expect(made.value.design.program.rowCount).toBe(start.program.rowCount);
      }),
      runs(150, 23),
    );
  });
});
