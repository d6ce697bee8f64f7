import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault } from '../objectFault.ts';

/** Stops that applique by step needs: one to lay the fabrics, one to cut them. */
const STOPS = 2;

export const appliqueOrder: Rule<ObjectFault> = {
  id: 'applique-order',
  group: 'order',
  scope: 'design',
  title: 'Applique piece by piece',
  measures: 'stops for laying and cutting against one of each',
  unit: 'stops',
  why: 'All placement lines, then all tack-downs, then all covers: the operator lays all fabrics at one stop and cuts them at one, instead of at two for each piece.',
  source: 'common practice',
  follows: 'itself',
  limit: () => STOPS,
  list(context) {
    const steps = stepsOf(context);
    if (steps.filter(({ role }) => role === 'placement').length < 2) return [];
    // A placement line after the first tack-down, or a tack-down after the first cover, begins another round.
    const firstTack = steps.findIndex(({ role }) => role === 'tackdown');
    const late = steps.filter(({ role }, k) => role === 'placement' && firstTack >= 0 && k > firstTack);
    return late.map((object) => faultOf(context, object, late.length));
  },
  say({ target }, faults, limit) {
    const stops = STOPS * (faults.length + 1);
    return {
      severity: 'fix',
      ...{ measured: stops, limit },
      message: `${faults.length + 1} pieces sewn one after the other, with about ${stops} stops`,
      reason: `Each stop takes the operator about ${Math.round(target.machine.stop)} s at the machine. Keep hands away until it stands.`,
      cost: { seconds: (stops - STOPS) * target.machine.stop, stitches: 0 },
      fix: 'Sew it by step',
    };
  },
  mend: 'sewn by step: all placements, all tack-downs, all covers',
};

function stepsOf({ objects }: AuditContext) {
  return (objects?.objects ?? []).filter(({ role }) => role === 'placement' || role === 'tackdown');
}
