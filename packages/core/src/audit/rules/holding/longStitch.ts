import { STITCH } from '../../../model/program.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf, describeRows, findWorst, groupByThread, nameThreads } from '../../describeRows.ts';
import type { Finding } from '../../finding.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import type { Rule } from '../../rule.ts';
import { splitStitches } from './splitStitches.ts';

/** The longest stitch that lies flat in wear, mm: a satin up to this needs no split. Common practice. */
export const LONGEST_LYING_STITCH = 7;

export const longStitch: Rule = {
  id: 'long-stitch',
  group: 'holding',
  title: 'Long stitch',
  measures: 'length of a stitch that the machine can still make',
  unit: 'mm',
  why: 'A stitch over 7 mm lies loose: it snags in wear and in the wash, and the machine has to slow down for it.',
  source: 'common practice',
  limit: () => LONGEST_LYING_STITCH,
  find(context) {
    const max = context.target.machine.maxStitch;
    const rows = listStitchesBetween(context, LONGEST_LYING_STITCH, max);
    return groupByThread(context, rows).map((group): Finding => {
      const worst = findWorst(group, (row) => context.lengths[row]!);
      const longest = context.lengths[worst]!;
      return {
        ...describeRows(context, longStitch.id, group, worst),
        severity: longest > LONGEST_LYING_STITCH * 1.3 ? 'fix' : 'note',
        measured: longest,
        limit: LONGEST_LYING_STITCH,
        unit: 'mm',
        message: `${countOf(group.length, 'stitch', 'stitches')} of ${nameThreads(context, group)} over ${LONGEST_LYING_STITCH} mm, the longest ${longest.toFixed(1)}`,
        reason: 'They lie loose and snag in wear. A penetration in between holds them down.',
        cost: priceOfPatches(context, splitStitches(context, group, LONGEST_LYING_STITCH)),
        fix: `Split ${group.length === 1 ? 'it' : `all ${group.length}`}`,
      };
    });
  },
  repair: { name: 'split', patches: (context, finding) => splitStitches(context, finding.rows, LONGEST_LYING_STITCH) },
};

/** Rows of stitches longer than `above` mm and no longer than `upTo`, ascending. */
export function listStitchesBetween(context: AuditContext, above: number, upTo: number): number[] {
  const rows: number[] = [];
  const { command } = context.program;
  const { lengths } = context;
  for (let i = 0; i < command.length; i++) if (command[i] === STITCH && lengths[i]! > above && lengths[i]! <= upTo) rows.push(i);
  return rows;
}
