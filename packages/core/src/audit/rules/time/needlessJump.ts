import type { AuditContext } from '../../AuditContext.ts';
import { countOf, describeRows, groupByThread } from '../../describeRows.ts';
import type { Finding } from '../../finding.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import type { Rule } from '../../rule.ts';
import { carryOver, type Connection, listConnections } from './connectGaps.ts';
import { CARRY_OVER } from './needlessTrim.ts';

export const needlessJump: Rule = {
  id: 'needless-jump',
  group: 'time',
  title: 'Needless jump',
  measures: 'distance of a jump with the thread uncut',
  unit: 'mm',
  why: 'For a jump the needle stops while the frame moves, then the machine starts again slowly. Within 2 mm a stitch does the same without stopping, and leaves no float to cut off by hand.',
  source: 'common practice',
  limit: () => CARRY_OVER,
  find(context) {
    const byRow = new Map(listNeedless(context).map((c) => [c.to.first, c]));
    return groupByThread(context, byRow.keys()).map((rows): Finding => {
      const connections = rows.map((row) => byRow.get(row)!);
      const widest = connections.reduce((most, c) => Math.max(most, c.distance), 0);
      return {
        ...describeRows(context, needlessJump.id, rows),
        severity: rows.length > 3 ? 'fix' : 'note',
        measured: widest,
        limit: CARRY_OVER,
        unit: 'mm',
        message: `${countOf(rows.length, 'jump')} across ${widest.toFixed(1)} mm or less`,
        reason: 'The machine stops and starts again for a distance that one stitch covers.',
        cost: priceOfPatches(context, carryOver(context, connections)),
        fix: `Sew across ${rows.length === 1 ? 'it' : `all ${rows.length}`}`,
      };
    });
  },
  repair: {
    name: 'sew across',
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
  return listConnections(context).filter((c) => c.gap.trims === 0 && c.gap.jumps > 0 && c.distance <= CARRY_OVER);
}
