import { areaOf } from '../../../order/areas.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, type ObjectFault, priceOfStitches, worstOf } from '../objectFault.ts';
import { fillFrom, SPLIT_FROM } from '../../../materials/shopLimits.ts';

/** One throw in so many is an end, not the column. */
const FEW = 0.05;

export const wideSatin: Rule<ObjectFault> = {
  id: 'wide-satin',
  group: 'holding',
  scope: 'object',
  title: 'Wide satin, not split',
  measures: 'throws of a satin that nothing holds in between',
  unit: 'mm',
  why: 'A satin up to 7 mm wide needs no split. Over that its throws lie loose, snag in wear and slacken in the wash: split it, or make it a fill.',
  source: 'common practice',
  limit: () => SPLIT_FROM,
  alsoBy: ['satin-should-be-fill'],
  list(context, limit) {
    return context.areas.flatMap((object) => {
      const throws = widestThrow(context, object, limit);
      return throws === undefined ? [] : [faultOf(context, object, throws)];
    });
  },
  say(context, faults, limit) {
    const worst = worstOf(faults);
    const added = faults.reduce((sum, { of }) => sum + (of.stitches * Math.max(0, (of.width?.mean ?? 0) - 0.7 * limit)) / limit, 0);
    return {
      worst,
      severity: 'fix',
      ...{ measured: worst.value, limit },
      message: `throws up to ${worst.value.toFixed(1)} mm that nothing holds down`,
      reason: 'They lie loose and snag. A staggered split holds them and the shine stays.',
      cost: priceOfStitches(context, -added),
      fix: `Split ${allOf(faults)}`,
    };
  },
  mend: 'throws split',
};

/** The longest throws of a satin that is not broad enough for a fill, where enough of them are longer than a limit (mm). */
export function widestThrow(
  { lengths, target }: Pick<AuditContext, 'lengths' | 'target'>,
  object: StitchObject,
  limit: number,
): number | undefined {
  if (object.kind !== 'satin' || (object.width?.mean ?? 0) > fillFrom(target) || (object.width?.max ?? 0) <= limit) return undefined;
  let [over, widest] = [0, 0];
  for (const { first, last } of object.spans)
    for (let i = first; i <= last; i++) {
      if (lengths[i]! > limit) over++;
      widest = Math.max(widest, lengths[i]!);
    }
  return over > FEW * object.stitches ? widest : undefined;
}

/** Mean width of an area as if it were a strip, mm. */
export function stripWidth(object: Pick<StitchObject, 'outline' | 'holes' | 'kind'>): number {
  let perimeter = 0;
  for (const ring of [object.outline, ...object.holes])
    for (let k = 0, n = ring.length - 2; k < ring.length; n = k, k += 2)
      perimeter += Math.hypot(ring[k]! - ring[n]!, ring[k + 1]! - ring[n + 1]!);
  const area = areaOf(object);
  const half = perimeter / 2;
  // A strip as long as l and as wide as w has l + w = half its perimeter and l · w = its area.
  return (half - Math.sqrt(Math.max(0, half * half - 4 * area))) / 2;
}
