import { STITCH } from '../../../model/program.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf, findWorst } from '../../findFaults.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';
import { fillFrom } from '../../../materials/shopLimits.ts';
import { widestThrow } from './wideSatin.ts';
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
  alsoBy: ['satin-should-be-fill'],
  list: (context, limit) => {
    // Throws of a satin that is too wide are one fault of that satin.
    const wide = new Set(
      context.areas
        .filter((object) => widestThrow(context, object, limit) !== undefined || (object.width?.mean ?? 0) > fillFrom(context.target))
        .map(({ id }) => id),
    );
    return listStitchesBetween(context, limit, context.target.machine.maxStitch).filter(
      ({ row }) => wide.size === 0 || !wide.has(context.objectAt(row) ?? ''),
    );
  },
  say(context, faults, limit) {
    const worst = findWorst(faults, ({ row }) => context.lengths[row]!);
    const longest = context.lengths[worst.row]!;
    return {
      worst,
      severity: longest > limit * 1.3 ? 'fix' : 'note',
      measured: longest,
      limit,
      message: `${countOf(faults.length, 'stitch', 'stitches')} over ${limit} mm, the longest ${longest.toFixed(1)}`,
      reason: 'They lie loose and snag in wear. A penetration in between holds them down.',
      cost: priceOfPatches(context, splitStitches(context, faults, limit)),
      fix: `Split ${faults.length === 1 ? 'it' : `all ${faults.length}`}`,
    };
  },
  repair: { name: 'split', patches: splitStitches },
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
