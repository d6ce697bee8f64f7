import { areaOf } from '../../../order/areas.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, isOpen, type PairFault, worstOf } from '../objectFault.ts';

/** A neighbor so many times as large pushes what is sewn already out of its place. From memory. */
const LARGER = 12;
/** What is smaller than this (mm²) or meets it along less (mm) is not pushed. */
const LEAST_AREA = 4;
const LEAST_CONTACT = 3;
/** What lies under its neighbor with more than this share of itself is meant to be below. */
const MEETING = 0.15;

export const smallBeforeLarge: Rule<PairFault> = {
  id: 'small-before-large',
  group: 'order',
  scope: 'pair',
  title: 'Small sewn before large',
  measures: 'how many times as large the neighbor is that is sewn after a small object',
  unit: 'times',
  why: 'Large areas push the cloth before them. What is small and already sewn beside them no longer sits where it should: large and lower first, small and upper last.',
  source: 'common practice',
  limit: () => LARGER,
  list(context, limit) {
    const { areas, pairs, target } = context;
    const blockOf = blocksOf(context);
    const out = new Map<string, PairFault>();
    for (const { a, b, relation } of pairs) {
      const [small, large] = [areas[a]!, areas[b]!];
      const [area, times] = [areaOf(small), areaOf(large) / Math.max(0.5, areaOf(small))];
      if (area < LEAST_AREA || times < limit || relation.contact < LEAST_CONTACT || relation.shared > MEETING * area) continue;
      if (blockOf.get(small.id) !== blockOf.get(large.id) || isOpen(large, target) || (out.get(small.id)?.value ?? 0) >= times) continue;
      out.set(small.id, { ...faultOf(context, small, times), other: large.id, against: large });
    }
    return [...out.values()].sort((p, q) => p.row - q.row);
  },
  say(_, faults, limit) {
    const worst = worstOf(faults);
    return {
      worst,
      severity: 'note',
      ...{ measured: worst.value, limit },
      message: `sewn before ${worst.against.name}, ${Math.round(worst.value)} times as large, that pushes it`,
      reason: `${countOf(faults.length, 'object')} will have moved when its large neighbor is done.`,
      cost: { seconds: 0, stitches: 0 },
      fix: `Sew ${faults.length === 1 ? 'it' : 'them'} after ${faults.length === 1 ? 'it' : 'those'}`,
    };
  },
  mend: 'sewn after its large neighbor',
};

/** The block that an object is sewn in: within one, the order costs nothing. */
function blocksOf({ plan }: AuditContext): ReadonlyMap<string, string> {
  return new Map((plan?.blocks ?? []).flatMap(({ id, objects }) => objects.map((object) => [object, id] as const)));
}
