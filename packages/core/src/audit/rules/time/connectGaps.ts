import { type Patch, replaceRows } from '../../../model/patch.ts';
import { type Gap, isThreadCut, type Stretch } from '../../../model/stretches.ts';
import { findLock } from '../../../model/ties.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Fault } from '../../fault.ts';

/** A place where the needle leaves one stretch and takes up the next with the same thread; its row is the first of that one. */
export interface Connection extends Fault {
  readonly from: Stretch;
  readonly to: Stretch;
  readonly gap: Gap;
  /** From the last penetration to the next, mm. */
  readonly distance: number;
}

/** Neighbouring stretches of one thread between which the operator has nothing to do. */
export function listConnections(context: AuditContext): Connection[] {
  const { program, stretches } = context;
  const connections: Connection[] = [];
  for (let k = 1; k < stretches.length; k++) {
    const from = stretches[k - 1]!;
    const to = stretches[k]!;
    if (to.before.colors > 0 || to.before.stops > 0) continue;
    const distance = Math.hypot(program.x[to.first]! - program.x[from.last]!, program.y[to.first]! - program.y[from.last]!);
    connections.push({ ...context.place(to.first), from, to, gap: to.before, distance });
  }
  return connections;
}

/**
 * Patches (ascending, as the connections are) that let one stitch carry over each gap: the rows between go, and with a trim the locks on
 * either side, since a thread path is locked at its ends only. At least one penetration stays of every stretch.
 */
export function carryOver(context: AuditContext, connections: readonly Connection[]): Patch[] {
  const { program } = context;
  const patches: Patch[] = [];
  let firstFree = 0;
  for (const { from, to, gap } of connections) {
    let start = gap.first;
    let end = gap.end;
    if (isThreadCut(gap)) {
      const off = findLock(program, from.last, from.first);
      if (off >= from.first && off + 1 >= firstFree) start = off + 1;
      const into = findLock(program, to.first, to.last);
      if (into >= 0 && into < to.last) end = into;
    }
    // Down again in the hole it came from would be a stitch of no length.
    if (end < to.last && program.x[end] === program.x[start - 1] && program.y[end] === program.y[start - 1]) end++;
    patches.push(replaceRows(program, start, end - start, []));
    firstFree = end + 1;
  }
  return patches;
}
