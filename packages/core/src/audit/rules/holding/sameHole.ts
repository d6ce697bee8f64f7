import { STITCH } from '../../../model/program.ts';
import type { Target } from '../../../model/target.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf } from '../../findFaults.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';

/** So many penetrations one hole bears: locks come down up to five times. What tears along a row of holes bears fewer. From memory. */
const MOST = 7;
const WHERE_IT_TEARS = 5;
/** Penetrations in one cell of this edge (mm) are one hole. */
const HOLE = 0.1;

interface Hole extends Fault {
  readonly times: number;
}

export const sameHole: Rule<Hole> = {
  id: 'same-hole',
  group: 'holding',
  scope: 'object',
  title: 'Many stitches in one hole',
  measures: 'penetrations in one place',
  unit: 'times',
  why: 'Where the needle comes down again and again it cuts the cloth and its own thread: a hole with a hard rim, and thread breaks.',
  source: 'from memory',
  follows: 'cloth',
  limit: (target: Target) => (target.fabric.tearsUnder === undefined ? MOST : WHERE_IT_TEARS),
  list: listHoles,
  say(_, faults, limit) {
    const worst = faults.reduce((a, b) => (b.times > a.times ? b : a));
    return {
      worst,
      severity: worst.times > 2 * limit ? 'fix' : 'note',
      ...{ measured: worst.times, limit },
      message: `the needle comes down ${worst.times} times in one hole`,
      reason: `It cuts cloth and thread. ${countOf(faults.length, 'place')}; short stitches on the crowded side spread them.`,
      cost: { seconds: 0, stitches: 0 },
      fix: `Spread ${faults.length === 1 ? 'them' : 'them in each object'}`,
    };
  },
  mend: 'short stitches where they crowd',
};

function listHoles({ program }: AuditContext, limit: number): Hole[] {
  const { x, y, command, rowCount } = program;
  const seen = new Map<number, { row: number; times: number }>();
  for (let i = 0; i < rowCount; i++) {
    if (command[i] !== STITCH) continue;
    const key = Math.round(x[i]! / HOLE) * 65536 + Math.round(y[i]! / HOLE);
    const known = seen.get(key);
    if (known === undefined) seen.set(key, { row: i, times: 1 });
    else known.times++;
  }
  const out: Hole[] = [];
  for (const { row, times } of seen.values()) if (times > limit) out.push({ row, x: x[row]!, y: y[row]!, times });
  return out.sort((a, b) => a.row - b.row);
}
