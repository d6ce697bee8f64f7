import { replaceRows, type Patch } from '../../../model/patch.ts';
import { isThreadCut } from '../../../model/stretches.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf } from '../../findFaults.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';

/** A lock so near (rows) to where its thread starts or ends is there for that. */
const AT_AN_END = 3;

/** A lock with the thread going on before and after it; its row is its last. */
interface InnerLock extends Fault {
  readonly from: number;
}

export const tieInsidePath: Rule<InnerLock> = {
  id: 'tie-inside-path',
  group: 'holding',
  scope: 'link',
  title: 'Lock inside a path',
  measures: 'locks where the thread neither starts nor ends',
  unit: 'locks',
  why: 'One thread path has a lock at its start and at its end and none between: each one more is a hard spot and costs stitches.',
  source: 'common practice',
  follows: 'itself',
  limit: () => 0,
  list: listInnerLocks,
  say: (context, faults, limit) => ({
    severity: 'note',
    ...{ measured: faults.length, limit },
    message: `${countOf(faults.length, 'lock')} where the thread goes on`,
    reason: 'The thread neither starts nor ends there: the lock is a hard spot for nothing.',
    cost: priceOfPatches(context, removeLocks(context, faults)),
    fix: `Take ${faults.length === 1 ? 'it' : `all ${faults.length}`} out`,
  }),
  repair: { name: 'lock taken out', patches: removeLocks },
};

/** A lock goes to and fro between two holes at least so often, in steps no longer than this (mm), into the same holes (mm). */
const LEAST_STEPS = 4;
const LONGEST = 1.05;
const HOLE = 0.12;

/** Places inside stretches where the needle goes to and fro between two holes and on from one of them. */
function listInnerLocks({ program, stretches }: AuditContext): InnerLock[] {
  const { x, y } = program;
  const out: InnerLock[] = [];
  const isSame = (a: number, b: number): boolean => Math.hypot(x[a]! - x[b]!, y[a]! - y[b]!) <= HOLE;
  for (const [k, { first, last, before, after }] of stretches.entries()) {
    const [isStart, isEnd] = [k === 0 || isThreadCut(before), k === stretches.length - 1 || isThreadCut(after)];
    for (let i = first; i + LEAST_STEPS <= last;) {
      let end = i + 1;
      while (
        end < last &&
        isSame(end - 1, end + 1) &&
        !isSame(end, end + 1) &&
        Math.hypot(x[end + 1]! - x[end]!, y[end + 1]! - y[end]!) <= LONGEST
      )
        end++;
      const isLock = end - i >= LEAST_STEPS && (end - i) % 2 === 0;
      const isAtAnEnd = (isStart && i - first <= AT_AN_END) || (isEnd && last - end <= AT_AN_END);
      // An even number of steps ends in the hole it began in: without them the thread goes on from there.
      if (isLock && !isAtAnEnd) out.push({ row: end, x: x[end]!, y: y[end]!, from: i + 1 });
      i = Math.max(i + 1, end);
    }
  }
  return out;
}

/** Takes the rows of locks away: the needle is back where it was. */
function removeLocks({ program }: AuditContext, locks: readonly InnerLock[]): Patch[] {
  return locks.map(({ from, row }) => replaceRows(program, from, row - from + 1, []));
}
