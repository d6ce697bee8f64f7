import { colorDifference } from '../../../measure/colorDifference.ts';
import { areaOf } from '../../../order/areas.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, isOpen, type ObjectFault, worstOf } from '../objectFault.ts';

/** Colors nearer to each other than this (CIEDE2000) do not part at arm's length; under the second they are one. From memory. */
const PARTS = 8;
const IS_ONE = 4;
/** What lies on other stitches with so much of itself is seen against those. */
const ON_STITCHES = 0.6;

export const threadVanishes: Rule<ObjectFault> = {
  id: 'thread-vanishes',
  group: 'look',
  scope: 'object',
  title: 'Thread vanishes on this cloth',
  measures: 'difference of the thread’s color to the cloth’s (CIEDE2000)',
  unit: 'ΔE',
  why: 'Thread of the cloth’s color is seen by its shine alone: letters and outlines are gone.',
  source: 'standard',
  limit: () => PARTS,
  list(context, limit) {
    const { clothColor } = context.target;
    return context.covers.flatMap((object) => {
      const difference = colorDifference(object.color, clothColor);
      if (difference >= limit || isBase(context, object) || shareOnOthers(context, object) > ON_STITCHES) return [];
      return [faultOf(context, object, difference)];
    });
  },
  say({ target }, faults, limit) {
    const worst = worstOf(faults, 'smallest');
    return {
      worst,
      severity: worst.value < IS_ONE ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: `${worst.of.color} on ${target.clothColor} cloth, ${worst.value.toFixed(1)} apart (CIEDE2000)`,
      reason: `Under ${limit.toFixed(0)} nobody tells it from the cloth at arm’s length.`,
      cost: { seconds: 0, stitches: 0 },
      advice: 'Give it another thread, or a border that parts it from the cloth. Check on the real cloth: screens and dye lots differ.',
    };
  },
};

/** An open layer that is sewn first is meant to vanish. */
function isBase({ covers, target }: AuditContext, object: StitchObject): boolean {
  return isOpen(object, target) && covers.indexOf(object) < 2;
}

function shareOnOthers({ areas, pairs }: AuditContext, object: StitchObject): number {
  const index = areas.indexOf(object);
  if (index < 0) return 0;
  let shared = 0;
  for (const { b, relation } of pairs) if (b === index) shared += relation.shared;
  return shared / Math.max(0.5, areaOf(object));
}
