import { boxOfRing } from '../../../geometry/ring.ts';
import { threadThickness } from '../../../model/thread.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import { isClosedCover } from '../../../order/cells.ts';
import { liesOn } from '../../../order/areas.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault, worstOf } from '../objectFault.ts';

/** So much of a walk (mm) nobody sees: the step over an edge. From memory. */
const UNSEEN = 2;
/** From this length on (mm) it is seen at arm's length. */
const PLAIN = 6;
/** Walks are looked at every so many mm. */
const STEP = 0.4;

export const exposedTravel: Rule<ObjectFault> = {
  id: 'exposed-travel',
  group: 'look',
  scope: 'link',
  title: 'Walk in the open',
  measures: 'length of a travel run that no stitching hides',
  unit: 'mm',
  why: 'A walk across open cloth, or across another color, reads as a line that nobody drew. Under later cover it shows nowhere.',
  source: 'common practice',
  limit: () => UNSEEN,
  list(context, limit) {
    const thickness = threadThickness(context.target.thread);
    const covers = context.areas
      .filter((object) => isClosedCover(object, thickness))
      .map((object) => ({ object, box: boxOfRing(object.outline) }));
    return (context.objects?.objects ?? []).flatMap((object) => {
      if (object.role !== 'travel') return [];
      const seen = seenLength(context, object, covers);
      return seen.length > limit ? [{ ...faultOf(context, object, seen.length, seen.at), object: object.parent ?? object.id }] : [];
    });
  },
  say(_, faults, limit) {
    const worst = worstOf(faults);
    return {
      worst,
      severity: worst.value > PLAIN ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: `a walk shows for ${worst.value.toFixed(1)} mm`,
      reason: `${countOf(faults.length, 'walk')} in the open read as lines that nobody drew.`,
      cost: { seconds: 0, stitches: 0 },
      fix: faults.length === 1 ? 'Walk under what comes later' : 'Walk under what comes later, where that hides them',
    };
  },
  mend: 'walked under cover',
};

type Cover = { readonly object: StitchObject; readonly box: ReturnType<typeof boxOfRing> };

/** How much of a walk lies neither under what is sewn later nor on its own color, mm, and the middle of that. */
function seenLength(
  { program }: AuditContext,
  travel: StitchObject,
  covers: readonly Cover[],
): { length: number; at: { x: number; y: number } } {
  const { x, y } = program;
  let [count, sumX, sumY] = [0, 0, 0];
  for (const { first, last } of travel.spans)
    for (let i = Math.max(1, first); i <= last; i++) {
      const way = Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
      const looks = Math.round(way / STEP);
      for (let k = 0; k < looks; k++) {
        const t = (k + 0.5) / looks;
        const [px, py] = [x[i - 1]! + (x[i]! - x[i - 1]!) * t, y[i - 1]! + (y[i]! - y[i - 1]!) * t];
        if (isHidden(travel, covers, px, py)) continue;
        count++;
        sumX += px;
        sumY += py;
      }
    }
  return { length: count * STEP, at: { x: sumX / count, y: sumY / count } };
}

/** So near to a cover (mm) a walk is taken for lying at its edge. */
const BESIDE = 0.3;

function isHidden(travel: StitchObject, covers: readonly Cover[], x: number, y: number): boolean {
  return covers.some(({ object, box }) => {
    if (x < box[0] - BESIDE || x > box[2] + BESIDE || y < box[1] - BESIDE || y > box[3] + BESIDE) return false;
    if (object.last < travel.first && object.color !== travel.color) return false;
    return (
      liesOn(object, x, y) ||
      liesOn(object, x + BESIDE, y) ||
      liesOn(object, x - BESIDE, y) ||
      liesOn(object, x, y + BESIDE) ||
      liesOn(object, x, y - BESIDE)
    );
  });
}
