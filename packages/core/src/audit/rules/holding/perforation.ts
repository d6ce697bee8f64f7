import { median } from '../../../geometry/statistics.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, type ObjectFault, priceOfStitches, worstOf } from '../objectFault.ts';

/** Lines of fewer stitches tear nothing. */
const LEAST = 8;

export const perforation: Rule<ObjectFault> = {
  id: 'perforation',
  group: 'holding',
  scope: 'object',
  title: 'Row of holes that tears',
  measures: 'distance of the penetrations of a line on cloth that tears along its holes',
  unit: 'mm',
  why: 'Leather and film do not close around a needle. A line of holes close together tears out like a stamp.',
  source: 'from memory',
  follows: 'cloth',
  limit: (target) => target.fabric.tearsUnder ?? 0,
  list(context, limit) {
    if (limit <= 0) return [];
    return context.covers.flatMap((object) => {
      if (object.kind !== 'run' || object.stitches < LEAST || object.pattern !== undefined) return [];
      const usual = median(lengthsOf(context, object.spans));
      return usual < limit - 0.02 ? [faultOf(context, object, usual)] : [];
    });
  },
  say(context, faults, limit) {
    const worst = worstOf(faults, 'smallest');
    const saved = faults.reduce((sum, { of, value }) => sum + of.stitches * (1 - value / limit), 0);
    return {
      worst,
      severity: 'fix',
      ...{ measured: worst.value, limit },
      message: `a line of holes ${worst.value.toFixed(1)} mm apart`,
      reason: `${context.target.fabric.name} tears along holes nearer than ${limit.toFixed(1)} mm.`,
      cost: priceOfStitches(context, saved),
      fix: `Lengthen the stitches of ${allOf(faults)}`,
    };
  },
  mend: 'stitches lengthened',
};

function lengthsOf({ lengths }: AuditContext, spans: readonly { first: number; last: number }[]): number[] {
  return spans.flatMap(({ first, last }) => [...lengths.subarray(first, last + 1)]).filter((length) => length > 0);
}
