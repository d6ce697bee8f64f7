import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault } from '../objectFault.ts';

export const marksFirst: Rule<ObjectFault> = {
  id: 'marks-first',
  group: 'order',
  scope: 'object',
  title: 'Registration mark sewn late',
  measures: 'objects sewn before a registration mark',
  unit: 'objects',
  why: 'Marks are there to place what comes after them. Sewn later they show where the cloth has crept to, not where it was hooped.',
  source: 'common practice',
  follows: 'itself',
  limit: () => 0,
  list(context, limit) {
    let others = 0;
    return context.covers.flatMap((object) => {
      if (object.pattern !== 'registration-mark') {
        others++;
        return [];
      }
      return others > limit ? [faultOf(context, object, others)] : [];
    });
  },
  say(_, faults, limit) {
    return {
      severity: 'fix',
      ...{ measured: faults[0]!.value, limit },
      message: `${countOf(faults.length, 'registration mark')} sewn after ${countOf(faults[0]!.value, 'object')}`,
      reason: 'By then the cloth has crept, and the marks with it.',
      cost: { seconds: 0, stitches: 0 },
      fix: 'Sew the marks first',
    };
  },
  mend: 'marks sewn first',
};
