import { describe, expect, test } from '@jest/globals';
import {
  applyOperation,
  brokenBy,
  countProgram,
  defaultTarget,
  type Design,
  findSeenLayers,
  isSameProgram,
  type Operation,
  orderOf,
  proposeOrder,
  runClock,
  startDesign,
} from '@isola/core';
import { CELL } from '../../packages/core/src/order/cells.ts';
import { topPicture } from '../../packages/core/src/order/topPicture.ts';
import { assemble } from '../../packages/core/src/plan/assemble.ts';
import { readRows } from '../../packages/core/src/model/plan.ts';
import { handSet } from '../recognition/handSet.ts';
import { someOf, triesOf } from '../../packages/core/src/testing/runs.ts';

/** Half of a path's thread lies where the object's own does that it leads from or to, so near to its ends (mm). */
const AT_THE_ENDS = 0.4 + CELL;

const target = defaultTarget();
const designs = someOf(handSet('kept'))
  .map(({ name, program }): [string, Design] => [name, startDesign(program, target)])
  .filter(([, design]) => orderOf(design.plan).length >= 4)
  .filter((_, k) => k % 3 === 0);

/** Each cell where a hidden path of a design is the topmost thread and another color would be without it, as its distance to the nearest end of a path, mm. */
function seenOfPaths({ plan, program }: Design): number[] {
  const isPath = new Uint8Array(program.rowCount);
  const ends: [number, number][] = [];
  for (const { id, link, first } of assemble(plan).places) {
    if (plan.links[id]!.way !== 'hidden') continue;
    isPath.fill(1, link, first);
    ends.push([program.x[link - 1]!, program.y[link - 1]!], [program.x[first - 1]!, program.y[first - 1]!]);
  }
  const [all, without] = [topPicture(program), topPicture(program, (row) => isPath[row] === 0)];
  const out: number[] = [];
  for (let k = 0; k < all.colors.length; k++) {
    if (all.names[all.colors[k]!] === without.names[without.colors[k]!]) continue;
    // Cells are numbered from a corner far outside; the middle of one is half a cell on.
    const x = ((k % all.columns) + all.minColumn - 8192 + 0.5) * CELL;
    const y = (Math.floor(k / all.columns) + all.minRow - 8192 + 0.5) * CELL;
    out.push(Math.min(...ends.map(([ex, ey]) => Math.hypot(ex - x, ey - y))));
  }
  return out;
}

describe('orders proposed for programs of other hands', () => {
  test('are there to be proposed for', () => {
    expect(designs.length).toBeGreaterThanOrEqual(triesOf(6));
  });

  test.each(designs)(
    '%s: keeps what is on top, costs no more, shows no path, and leaves what it does not sew anew as it came',
    (_, design) => {
      const found = proposeOrder(design);
      const seen = findSeenLayers(design.plan);
      expect(brokenBy(seen, orderOf(found.design.plan))).toEqual([]);
      const [before, after] = [design, found.design].map(({ program }) => ({
        cuts: countProgram(program).trims,
        changes: countProgram(program).colorChanges,
        seconds: runClock(program, target.machine).totals.seconds,
      }));
      expect(after!.cuts).toBeLessThanOrEqual(before!.cuts);
      expect(after!.changes).toBeLessThanOrEqual(before!.changes);
      expect(after!.seconds).toBeLessThanOrEqual(before!.seconds);
      expect(found.after.seconds).toBeCloseTo(after!.seconds, 6);
      expect(found.changed).toBeLessThanOrEqual(0.002);

      // A journal entry says the same after it was written and read.
      const step = JSON.parse(JSON.stringify({ id: 'sequence', operations: found.operations })) as Operation;
      const again = applyOperation(design, step);
      if (!again.ok) throw new Error(again.error);
      expect(isSameProgram(again.value.program, found.design.program)).toBe(true);

      // Every object is still there once; its own penetrations are where they were, unless it is said to be turned or sewn anew.
      expect([...orderOf(found.design.plan)].sort()).toEqual([...orderOf(design.plan)].sort());
      const changed = new Set([...found.turned, ...found.sewn]);
      for (const id of orderOf(design.plan)) {
        const [was, is] = [design, found.design].map(({ plan }) => {
          const { program, first, end } = readRows(plan.source, plan.objects[id]!.sewn.rows);
          return [program.x.subarray(first, end), program.y.subarray(first, end)].map((column) => [...column]);
        });
        if (!changed.has(id)) expect([id, is]).toEqual([id, was]);
        else if (!found.sewn.includes(id)) expect([id, is![0]!.length]).toEqual([id, was![0]!.length]);
      }

      for (const distance of seenOfPaths(found.design)) expect(distance).toBeLessThanOrEqual(AT_THE_ENDS);
      // Nothing is walked in the open unasked, and what stays cut says why.
      expect(found.connectors.filter(({ how, why }) => how === 'trim' && why === '')).toEqual([]);
      expect(Object.values(found.design.plan.links).filter(({ way }) => way === 'open')).toEqual(
        Object.values(design.plan.links).filter(({ way }) => way === 'open'),
      );
    },
  );
});
