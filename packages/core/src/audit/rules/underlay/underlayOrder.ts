import { USUAL_RULES } from '../../../model/target.ts';
import type { UnderlayLayer } from '../../../model/stitchObject.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, isOpen, type ObjectFault } from '../objectFault.ts';

export const underlayOrder: Rule<ObjectFault> = {
  id: 'underlay-order',
  group: 'underlay',
  scope: 'object',
  title: 'Underlay in the other order',
  measures: 'layers of a fill that are sewn before the one that should come first',
  unit: 'layers',
  why: 'Tatami first, then the edge run: the edge is laid on cloth that is held already and draws in less. Some do it the other way round; the shop chooses.',
  source: 'common practice',
  follows: 'itself',
  limit: () => 0,
  list(context, limit) {
    const { rules = USUAL_RULES } = context.target;
    const isTatamiFirst = rules.schools.underlayOrder === 'tatami-first';
    return context.areas.flatMap((object) => {
      if (object.kind !== 'fill' || isOpen(object, context.target)) return [];
      const wrong = countWrong(object.underlay, isTatamiFirst);
      return wrong > limit ? [faultOf(context, object, wrong)] : [];
    });
  },
  say(context, faults, limit) {
    const { rules = USUAL_RULES } = context.target;
    const isTatamiFirst = rules.schools.underlayOrder === 'tatami-first';
    return {
      severity: 'note',
      ...{ measured: faults[0]!.value, limit },
      message: isTatamiFirst ? 'edge run before the tatami' : 'tatami before the edge run',
      reason: isTatamiFirst
        ? `${countOf(faults.length, 'fill')} draw in more than they would with the tatami first.`
        : `The shop lays the edge run first; in ${countOf(faults.length, 'fill')} it comes last.`,
      cost: { seconds: 0, stitches: 0 },
      fix: `Turn ${allOf(faults)} round`,
    };
  },
  mend: 'underlay in the shop’s order',
};

/** How many layers come before one that should be sewn first. */
function countWrong(layers: readonly UnderlayLayer[], isTatamiFirst: boolean): number {
  const [early, late] = isTatamiFirst ? (['tatami', 'edge-run'] as const) : (['edge-run', 'tatami'] as const);
  const last = layers.findLastIndex(({ kind }) => kind === early);
  return layers.filter(({ kind }, k) => kind === late && k < last).length;
}
