import { containsPoint, distanceToRings, windsAround } from '../../../geometry/ring.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, isOpen, type ObjectFault, worstOf } from '../objectFault.ts';

/** So far beside its cover (mm) underlay is seen: more than a thread is thick. From memory. */
const SEEN = 0.3;
/** So many of its penetrations have to lie out there; one is a corner. */
const LEAST = 3;

export const underlayShowing: Rule<ObjectFault> = {
  id: 'underlay-showing',
  group: 'underlay',
  scope: 'object',
  title: 'Underlay shows',
  measures: 'how far underlay reaches beyond the edge of its cover',
  unit: 'mm',
  why: 'Underlay beside its cover or under open rows is seen: as whiskers along the edge, as a grid through the rows.',
  source: 'common practice',
  limit: () => SEEN,
  list(context, limit) {
    return context.areas.flatMap((object) => {
      const layers = context.underlay.get(object.id) ?? [];
      if (layers.length === 0) return [];
      // Under open rows all of it shows.
      if (isOpen(object, context.target)) return [faultOf(context, object, object.spacing!)];
      const far = reachBeyond(context, object, layers, limit);
      return far === undefined ? [] : [faultOf(context, object, far.beyond, far)];
    });
  },
  say({ target }, faults, limit) {
    const worst = worstOf(faults);
    const isUnderOpen = isOpen(worst.of, target);
    return {
      worst,
      severity: isUnderOpen || worst.value > 2 * limit ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: isUnderOpen
        ? `underlay under rows that lie ${worst.value.toFixed(1)} mm apart`
        : `underlay ${worst.value.toFixed(1)} mm beyond the edge of its cover`,
      reason: isUnderOpen ? 'An open fill wants no underlay: it shows between the rows.' : 'It shows as whiskers along the edge.',
      cost: { seconds: 0, stitches: 0 },
      fix: `Lay ${allOf(faults)} anew`,
    };
  },
  mend: 'underlay drawn in or left out',
};

function reachBeyond(
  { program }: AuditContext,
  { kind, outline, holes }: StitchObject,
  layers: readonly StitchObject[],
  limit: number,
): { beyond: number; x: number; y: number } | undefined {
  const { x, y } = program;
  const isInside = (px: number, py: number): boolean =>
    kind === 'satin' ? windsAround(outline, px, py) : containsPoint([outline, ...holes], px, py);
  let [count, worst, at] = [0, limit, -1];
  for (const { spans } of layers)
    for (const { first, last } of spans)
      for (let i = first; i <= last; i++) {
        if (isInside(x[i]!, y[i]!)) continue;
        const beyond = distanceToRings([outline, ...holes], x[i]!, y[i]!);
        if (beyond <= limit) continue;
        count++;
        if (beyond > worst) [worst, at] = [beyond, i];
      }
  return count < LEAST || at < 0 ? undefined : { beyond: worst, x: x[at]!, y: y[at]! };
}
