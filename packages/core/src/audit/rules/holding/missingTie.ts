import { type Patch, replaceRows } from '../../../model/patch.ts';
import type { PatchRow } from '../../../model/rowValue.ts';
import { roundToThousandth } from '../../../geometry/number.ts';
import { generateLock } from '../../../generate/line/tie.ts';
import { isThreadCut } from '../../../model/stretches.ts';
import { findLock } from '../../../model/ties.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf, describeRows, groupByThread, nameThreads } from '../../describeRows.ts';
import type { Finding } from '../../finding.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import type { Rule } from '../../rule.ts';

/** Penetrations that a lock is expected to have at least: to and fro. */
const LEAST_LOCKS = 2;

/** A place where a thread starts or is cut without a lock: the penetration there, and the one that the stitching has on its other side. */
interface LooseEnd {
  readonly row: number;
  readonly neighbor: number;
}

export const missingTie: Rule = {
  id: 'missing-tie',
  group: 'holding',
  title: 'Thread end not locked',
  measures: 'lock stitches where a thread starts or is cut',
  unit: 'stitches',
  why: 'An end that is not locked pulls out, at the machine or in the first wash, and takes its row of stitches with it.',
  source: 'common practice',
  limit: () => LEAST_LOCKS,
  find(context) {
    const byRow = indexLooseEnds(context);
    return groupByThread(
      context,
      [...byRow.keys()].sort((a, b) => a - b),
    ).map((rows): Finding => {
      const ends = rows.flatMap((row) => byRow.get(row)!);
      return {
        ...describeRows(context, missingTie.id, rows),
        severity: 'fix',
        measured: 0,
        limit: LEAST_LOCKS,
        unit: 'stitches',
        message: `${countOf(ends.length, 'end')} of ${nameThreads(context, rows)} ${ends.length === 1 ? 'is' : 'are'} not locked`,
        reason: 'An end that is not locked pulls out in the wash. A short to and fro inside the stitching holds it.',
        cost: priceOfPatches(context, lock(context, ends)),
        fix: `Lock ${ends.length === 1 ? 'it' : `all ${ends.length}`}`,
      };
    });
  },
  repair: {
    name: 'lock',
    patches(context, finding) {
      const byRow = indexLooseEnds(context);
      return lock(
        context,
        finding.rows.flatMap((row) => byRow.get(row) ?? []),
      );
    },
  },
};

/** Loose ends by row; the single penetration of a dot may be both a start and an end, and cannot be locked. */
function indexLooseEnds(context: AuditContext): Map<number, LooseEnd[]> {
  const found = new Map<number, LooseEnd[]>();
  const { stretches, program } = context;
  const add = (end: LooseEnd): void => {
    found.set(end.row, [...(found.get(end.row) ?? []), end]);
  };
  stretches.forEach((stretch, k) => {
    if (stretch.first === stretch.last) return;
    const isStart = k === 0 || isThreadCut(stretch.before);
    const isEnd = k === stretches.length - 1 || isThreadCut(stretch.after);
    if (isStart && findLock(program, stretch.first, stretch.last) < 0) add({ row: stretch.first, neighbor: stretch.first + 1 });
    if (isEnd && findLock(program, stretch.last, stretch.first) < 0) add({ row: stretch.last, neighbor: stretch.last - 1 });
  });
  return found;
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
