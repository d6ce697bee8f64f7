import { STITCH } from '../../../model/program.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf, findWorst } from '../../findFaults.ts';
import type { Fault, Rule } from '../../rule.ts';
import { splitStitches } from './splitStitches.ts';

/** The longest stitch that lies flat in wear, mm: a satin up to this needs no split. Common practice. */
export const LONGEST_LYING_STITCH = 7;

export const longStitch: Rule = {
  id: 'long-stitch',
  group: 'holding',
  scope: 'object',
  title: 'Long stitch',
  measures: 'length of a stitch that the machine can still make',
  unit: 'mm',
  why: 'A stitch over 7 mm lies loose: it snags in wear and in the wash, and the machine has to slow down for it.',
  source: 'common practice',
  limit: () => LONGEST_LYING_STITCH,
  list: (context) => listStitchesBetween(context, LONGEST_LYING_STITCH, context.target.machine.maxStitch),
  say(context, faults) {
    const worst = findWorst(faults, ({ row }) => context.lengths[row]!);
    const longest = context.lengths[worst.row]!;
    return {
      worst,
      severity: longest > LONGEST_LYING_STITCH * 1.3 ? 'fix' : 'note',
      measured: longest,
      limit: LONGEST_LYING_STITCH,
      message: `${countOf(faults.length, 'stitch', 'stitches')} over ${LONGEST_LYING_STITCH} mm, the longest ${longest.toFixed(1)}`,
      reason: 'They lie loose and snag in wear. A penetration in between holds them down.',
      cost: priceOfPatches(context, splitStitches(context, faults, LONGEST_LYING_STITCH)),
      fix: `Split ${faults.length === 1 ? 'it' : `all ${faults.length}`}`,
    };
  },
  repair: { name: 'split', patches: (context, faults) => splitStitches(context, faults, LONGEST_LYING_STITCH) },
};

/** Stitches longer than `above` mm and no longer than `upTo`. */
export function listStitchesBetween(context: AuditContext, above: number, upTo: number): Fault[] {
  const faults: Fault[] = [];
  const { command } = context.program;
  const { lengths } = context;
  for (let i = 0; i < command.length; i++)
    if (command[i] === STITCH && lengths[i]! > above && lengths[i]! <= upTo) faults.push(context.place(i));
  return faults;
}
