import { boxOfRing } from '../../../geometry/ring.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { Target } from '../../../model/target.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault } from '../objectFault.ts';

/** Share of pairs (percent) sewn from outside in that is still no order of its own. From memory. */
const STILL = 55;
/** Objects whose middles are about as far out (mm) tell nothing, nor do designs of few. */
const APART = 6;
const LEAST_PAIRS = 6;

export const centerOut: Rule<ObjectFault> = {
  id: 'center-out',
  group: 'order',
  scope: 'design',
  title: 'Cap sewn from outside in',
  measures: 'pairs of objects of which the outer one is sewn first',
  unit: '%',
  why: 'On a hat, sew from the middle outward and from the brim up: the cloth is pushed away from the seam and the brim. The other way round it bulges in the middle.',
  source: 'from memory',
  limit: () => STILL,
  list(context, limit) {
    if (!isCap(context.target)) return [];
    const inward = shareInward(context);
    const first = context.areas[0];
    return inward === undefined || first === undefined || inward <= limit ? [] : [faultOf(context, first, inward)];
  },
  say(_, faults, limit) {
    return {
      severity: 'fix',
      ...{ measured: faults[0]!.value, limit },
      message: `${Math.round(faults[0]!.value)} % of the pairs are sewn from outside in`,
      reason: 'What is pushed inward bulges in the middle of the cap. Sewn from the middle outward it goes out at the sides.',
      cost: { seconds: 0, stitches: 0 },
      fix: 'Sew it from the middle outward',
    };
  },
  mend: 'sewn from the middle outward',
};

/** Whether a design is sewn on a cap. */
export function isCap({ fabric, garment, hoop }: Target): boolean {
  return [fabric.id, garment?.id ?? '', hoop.id].some((id) => /\bcap\b/.test(id));
}

/** How far out from the middle of a design an object lies, mm: sideways counts, and above the brim. */
export function distanceOut({ outline, entry }: StitchObject, middle: { readonly x: number; readonly y: number }): number {
  const box = outline.length >= 6 ? boxOfRing(outline) : [entry.x, entry.y, entry.x, entry.y];
  const [x, y] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  return Math.hypot(x - middle.x, (y - middle.y) / 2);
}

/** Where the sewing of a cap begins: the middle of the design, at the brim. */
export function middleOfCap({ areas }: AuditContext): { x: number; y: number } {
  let [minX, minY, maxX] = [Infinity, Infinity, -Infinity];
  for (const { outline } of areas) {
    const box = boxOfRing(outline);
    [minX, minY, maxX] = [Math.min(minX, box[0]), Math.min(minY, box[1]), Math.max(maxX, box[2])];
  }
  return { x: (minX + maxX) / 2, y: minY };
}

function shareInward(context: AuditContext): number | undefined {
  const middle = middleOfCap(context);
  const { pairs } = context;
  // Of what lies on each other the order is given.
  const isBound = new Set(pairs.filter(({ relation }) => relation.shared > 0.3).map(({ a, b }) => a * context.areas.length + b));
  const far = context.areas.map((object) => distanceOut(object, middle));
  let [inward, all] = [0, 0];
  for (let a = 0; a < far.length; a++)
    for (let b = a + 1; b < far.length; b++) {
      if (Math.abs(far[a]! - far[b]!) < APART || isBound.has(a * far.length + b)) continue;
      all++;
      if (far[a]! > far[b]!) inward++;
    }
  return all < LEAST_PAIRS ? undefined : (100 * inward) / all;
}
