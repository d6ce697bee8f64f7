import type { AuditContext } from '../../AuditContext.ts';
import { countOf, describeRows, groupByThread } from '../../describeRows.ts';
import type { Finding } from '../../finding.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import type { Rule } from '../../rule.ts';
import { carryOver, type Connection, listConnections } from './connectGaps.ts';

/** One thread sews on within this distance without a jump, mm. Common practice. */
export const CARRY_OVER = 2;

export const needlessTrim: Rule = {
  id: 'needless-trim',
  group: 'time',
  title: 'Needless trim',
  measures: 'distance from a trim to where the same thread goes on',
  unit: 'mm',
  why: 'A trim costs about as much machine time as 120 stitches. Parts of one color that lie no more than 2 mm apart need none: one stitch carries over.',
  source: 'common practice',
  limit: () => CARRY_OVER,
  find(context) {
    const byRow = new Map(listNeedless(context).map((c) => [c.to.first, c]));
    return groupByThread(context, byRow.keys()).map((rows): Finding => {
      const connections = rows.map((row) => byRow.get(row)!);
      const widest = connections.reduce((most, c) => Math.max(most, c.distance), 0);
      const price = priceOfPatches(context, carryOver(context, connections));
      return {
        ...describeRows(context, needlessTrim.id, rows),
        severity: 'fix',
        measured: widest,
        limit: CARRY_OVER,
        unit: 'mm',
        message: `${countOf(rows.length, 'trim')} between parts that lie ${widest.toFixed(1)} mm apart`,
        reason: 'One color, nothing in between: one stitch carries over, and the locks on either side go too.',
        cost: price,
        fix: `Carry over ${rows.length === 1 ? 'it' : `all ${rows.length}`}`,
      };
    });
  },
  repair: {
    name: 'carry over',
    patches(context, finding) {
      const rows = new Set(finding.rows);
      return carryOver(
        context,
        listNeedless(context).filter((c) => rows.has(c.to.first)),
      );
    },
  },
};

function listNeedless(context: AuditContext): Connection[] {
  return listConnections(context).filter((c) => c.gap.trims > 0 && c.distance <= CARRY_OVER);
}
