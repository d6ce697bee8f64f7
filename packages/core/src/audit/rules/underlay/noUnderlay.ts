import { isSoftCloth } from '../../../materials/specBands.ts';
import { areaOf } from '../../../order/areas.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, isOpen, type ObjectFault, priceOfStitches, worstOf } from '../objectFault.ts';

/** A cover up to so much cloth (mm²) holds without underlay; a column too that is narrower than so many mm. From memory. */
const LEAST_AREA = 25;
const LEAST_WIDTH = 1.2;
/** What lies on other closed stitching with such a share of itself has its base there. */
const ON_STITCHES = 0.8;
/** From so much cloth on (mm²) it is seen on firm cloth, too. */
const BROAD = 150;
/** Underlay takes about so many stitches for a mm². */
const STITCHES = 0.12;

export const noUnderlay: Rule<ObjectFault> = {
  id: 'no-underlay',
  group: 'underlay',
  scope: 'object',
  title: 'No underlay',
  measures: 'area of a closed cover that has no underlay',
  unit: 'mm²',
  why: 'Without a base the cover sinks in, draws the cloth together along its stitches and shows it between rows; on cloth that gives it never lies flat.',
  source: 'common practice',
  limit: () => LEAST_AREA,
  list(context, limit) {
    return context.areas.flatMap((object, k) => {
      if (object.underlay.length > 0 || isOpen(object, context.target)) return [];
      if (object.kind === 'satin' && (object.width?.mean ?? 0) < LEAST_WIDTH) return [];
      const area = areaOf(object);
      return area > limit && shareOnStitches(context, k) < ON_STITCHES ? [faultOf(context, object, area)] : [];
    });
  },
  say(context, faults, limit) {
    const { target } = context;
    const worst = worstOf(faults);
    const isSoft = isSoftCloth(target);
    const area = faults.reduce((sum, { value }) => sum + value, 0);
    return {
      worst,
      severity: isSoft || worst.value > BROAD ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: `no underlay under ${Math.round(worst.value)} mm²`,
      reason: isSoft
        ? `${target.fabric.name} gives way under a cover without a base: it puckers and its edges wander. Underlay adds stitches.`
        : 'It will sink in and draw the cloth together along its stitches. Underlay adds stitches.',
      cost: priceOfStitches(context, -STITCHES * area),
      fix: `Give ${allOf(faults)} ${faults.length === 1 ? 'its' : 'their'} underlay`,
    };
  },
  mend: 'underlay as the cloth wants it',
};

/** Which share of an area lies on closed areas sewn before it. */
function shareOnStitches({ areas, pairs, target }: AuditContext, index: number): number {
  let shared = 0;
  for (const { a, b, relation } of pairs) if (b === index && !isOpen(areas[a]!, target)) shared += relation.shared;
  return shared / Math.max(1, areaOf(areas[index]!));
}

/** Whether an area has a base of other stitching under most of it. */
export function isOnStitches(context: AuditContext, object: StitchObject): boolean {
  return shareOnStitches(context, context.areas.indexOf(object)) >= ON_STITCHES;
}
