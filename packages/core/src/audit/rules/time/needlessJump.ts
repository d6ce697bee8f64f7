import type { AuditContext } from '../../AuditContext.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { carryOver, type Connection, listConnections } from './connectGaps.ts';
import { CARRY_OVER } from './needlessTrim.ts';

export const needlessJump: Rule<Connection> = {
  id: 'needless-jump',
  group: 'time',
  scope: 'link',
  title: 'Needless jump',
  measures: 'distance of a jump with the thread uncut',
  unit: 'mm',
  why: 'For a jump the needle stops while the frame moves, then the machine starts again slowly. Within 2 mm a stitch does the same without stopping, and leaves no float to cut off by hand.',
  source: 'common practice',
  limit: () => CARRY_OVER,
  list: listNeedless,
  say(context, faults, limit) {
    const widest = faults.reduce((most, { distance }) => Math.max(most, distance), 0);
    return {
      severity: faults.length > 3 ? 'fix' : 'note',
      measured: widest,
      limit,
      message: `${countOf(faults.length, 'jump')} across ${widest.toFixed(1)} mm or less`,
      reason: 'The machine stops and starts again for a distance that one stitch covers.',
      cost: priceOfPatches(context, carryOver(context, faults)),
      fix: `Sew across ${faults.length === 1 ? 'it' : `all ${faults.length}`}`,
    };
  },
  repair: { name: 'sew across', patches: carryOver },
};

function listNeedless(context: AuditContext, limit: number): Connection[] {
  return listConnections(context).filter((c) => c.gap.trims === 0 && c.gap.jumps > 0 && c.distance <= limit);
}
