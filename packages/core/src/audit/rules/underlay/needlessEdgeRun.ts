import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, type ObjectFault, priceOfStitches, worstOf } from '../objectFault.ts';

/** So much of a fill's edge (percent) has to be covered later. */
const OUTLINED = 80;

export const needlessEdgeRun: Rule<ObjectFault> = {
  id: 'needless-edge-run',
  group: 'underlay',
  scope: 'object',
  title: 'Edge run under an outline',
  measures: 'how much of the edge of a fill with an edge run an outline covers',
  unit: '%',
  why: 'A fill that gets an outline needs no edge run: the outline holds and hides its edge. Tatami alone carries it.',
  source: 'common practice',
  limit: () => OUTLINED,
  list(context, limit) {
    return context.areas.flatMap((object) => {
      if (object.kind !== 'fill' || !object.underlay.some(({ kind }) => kind === 'edge-run')) return [];
      const outlined = context.outlinedShare(object.id) * 100;
      return outlined >= limit ? [faultOf(context, object, outlined)] : [];
    });
  },
  say(context, faults, limit) {
    const worst = worstOf(faults);
    const saved = faults.reduce(
      (sum, { of }) =>
        sum + (context.underlay.get(of.id) ?? []).reduce((n, layer) => n + (layer.layer === 'edge-run' ? layer.stitches : 0), 0),
      0,
    );
    return {
      worst,
      severity: 'note',
      ...{ measured: worst.value, limit },
      message: `an edge run though an outline covers ${Math.round(worst.value)} % of the edge`,
      reason: `${countOf(faults.length, 'fill')} would hold with tatami alone.`,
      cost: priceOfStitches(context, saved),
      fix: `Leave ${allOf(faults)} out`,
    };
  },
  mend: 'edge run left out',
};
