import { replaceRows, type Patch } from '../../../model/patch.ts';
import { isThreadCut } from '../../../model/stretches.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf } from '../../findFaults.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import type { Fault, Rule } from '../../rule.ts';

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

/** Locks that recognition told as such and that do not stand where a thread is cut or begins. */
function listInnerLocks(context: AuditContext): InnerLock[] {
  const { objects, stretches } = context;
  const out: InnerLock[] = [];
  let at = 0;
  for (const { role, first, last } of objects?.objects ?? []) {
    if (role !== 'tie') continue;
    while (at + 1 < stretches.length && stretches[at]!.last < first) at++;
    const stretch = stretches[at];
    if (stretch === undefined || first <= stretch.first || last > stretch.last) continue;
    const isStart = (at === 0 || isThreadCut(stretch.before)) && first - stretch.first <= AT_AN_END;
    const isEnd = (at === stretches.length - 1 || isThreadCut(stretch.after)) && stretch.last - last <= AT_AN_END;
    const comesBack =
      Math.hypot(context.program.x[last]! - context.program.x[first - 1]!, context.program.y[last]! - context.program.y[first - 1]!) < HOLE;
    if (!isStart && !isEnd && comesBack) out.push({ ...context.place(last), from: first });
  }
  return out.sort((a, b) => a.row - b.row);
}

/** A lock ends in the hole it began in, mm. */
const HOLE = 0.15;

/** Takes the rows of locks away: the needle is back where it was. */
function removeLocks({ program }: AuditContext, locks: readonly InnerLock[]): Patch[] {
  return locks.map(({ from, row }) => replaceRows(program, from, row - from + 1, []));
}
