import type { AuditContext } from '../../AuditContext.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { carryOver, type Connection, listConnections } from './connectGaps.ts';

/** One thread sews on within this distance without a jump, mm. Common practice. */
export const CARRY_OVER = 2;

export const needlessTrim: Rule<Connection> = {
  id: 'needless-trim',
  group: 'time',
  scope: 'link',
  title: 'Needless trim',
  measures: 'distance from a trim to where the same thread goes on',
  unit: 'mm',
  why: 'A trim costs about as much machine time as 120 stitches. Parts of one color that lie no more than 2 mm apart need none: one stitch carries over.',
  source: 'common practice',
  limit: () => CARRY_OVER,
  list: (context) => listNeedless(context),
  say(context, faults) {
    const widest = faults.reduce((most, { distance }) => Math.max(most, distance), 0);
    return {
      severity: 'fix',
      measured: widest,
      limit: CARRY_OVER,
      message: `${countOf(faults.length, 'trim')} between parts that lie ${widest.toFixed(1)} mm apart`,
      reason: 'One color, nothing in between: one stitch carries over, and the locks on either side go too.',
      cost: priceOfPatches(context, carryOver(context, faults)),
      fix: `Carry over ${faults.length === 1 ? 'it' : `all ${faults.length}`}`,
    };
  },
  repair: { name: 'carry over', patches: carryOver },
};

function listNeedless(context: AuditContext): Connection[] {
  return listConnections(context).filter((c) => c.gap.trims > 0 && c.distance <= CARRY_OVER);
}
