import { type Patch, replaceRows } from '../../../model/patch.ts';
import type { PatchRow } from '../../../model/rowValue.ts';
import { roundToThousandth } from '../../../geometry/number.ts';
import { generateLock } from '../../../generate/line/tie.ts';
import { isThreadCut } from '../../../model/stretches.ts';
import { findLock } from '../../../model/ties.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf } from '../../findFaults.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';

/** Penetrations that a lock is expected to have at least: to and fro. */
const LEAST_LOCKS = 2;

/** A place where a thread starts or is cut without a lock: the penetration there, and the one that the stitching has on its other side. */
interface LooseEnd extends Fault {
  readonly neighbor: number;
}

export const missingTie: Rule<LooseEnd> = {
  id: 'missing-tie',
  group: 'holding',
  scope: 'link',
  title: 'Thread end not locked',
  measures: 'lock stitches where a thread starts or is cut',
  unit: 'stitches',
  why: 'An end that is not locked pulls out, at the machine or in the first wash, and takes its row of stitches with it.',
  source: 'common practice',
  follows: 'itself',
  limit: () => LEAST_LOCKS,
  list: listLooseEnds,
  say: (context, faults) => ({
    severity: 'fix',
    measured: 0,
    limit: LEAST_LOCKS,
    message: `${countOf(faults.length, 'end')} ${faults.length === 1 ? 'is' : 'are'} not locked`,
    reason: 'An end that is not locked pulls out in the wash. A short to and fro inside the stitching holds it.',
    cost: priceOfPatches(context, lock(context, faults)),
    fix: `Lock ${faults.length === 1 ? 'it' : `all ${faults.length}`}`,
  }),
  repair: { name: 'lock', patches: lock },
};

/** Ends without a lock; the single penetration of a dot may be both a start and an end, and cannot be locked. */
function listLooseEnds(context: AuditContext): LooseEnd[] {
  const { stretches, program } = context;
  return stretches.flatMap((stretch, k): LooseEnd[] => {
    if (stretch.first === stretch.last) return [];
    const isStart = k === 0 || isThreadCut(stretch.before);
    const isEnd = k === stretches.length - 1 || isThreadCut(stretch.after);
    return [
      ...(isStart && findLock(program, stretch.first, stretch.last) < 0
        ? [{ ...context.place(stretch.first), neighbor: stretch.first + 1 }]
        : []),
      ...(isEnd && findLock(program, stretch.last, stretch.first) < 0
        ? [{ ...context.place(stretch.last), neighbor: stretch.last - 1 }]
        : []),
    ];
  });
}

/** To and fro twice along the first stitch, so that the lock sinks in under or into what is sewn anyway. */
function lock(context: AuditContext, ends: readonly LooseEnd[]): Patch[] {
  const { x, y } = context.program;
  return ends
    .map((end): Patch => {
      const points = generateLock(x[end.row]!, y[end.row]!, x[end.neighbor]!, y[end.neighbor]!);
      const locks: PatchRow[] = [];
      for (let k = 0; k < points.length; k += 2)
        locks.push({ command: 'stitch', x: roundToThousandth(points[k]!), y: roundToThousandth(points[k + 1]!) });
      return replaceRows(context.program, end.row + 1, 0, locks);
    })
    .sort((a, b) => a.at - b.at);
}
