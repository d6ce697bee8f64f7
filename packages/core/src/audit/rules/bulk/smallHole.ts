import { boxOfRing, containsPoint, signedArea } from '../../../geometry/ring.ts';
import { isClosedCover } from '../../../order/cells.ts';
import { liesOn } from '../../../order/areas.ts';
import { threadThickness } from '../../../model/thread.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import { USUAL_RULES } from '../../../model/target.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, type ObjectFault, worstOf } from '../objectFault.ts';

/** A hole smaller than this across (mm), or of less than so much cloth (mm²), is better sewn through. Common practice. */
const LEAST_ACROSS = 5;
const LEAST_AREA = 20;
/** A hole is there for a detail that covers so much of it. */
const COVERED = 0.75;

export const smallHole: Rule<ObjectFault> = {
  id: 'small-hole',
  group: 'bulk',
  scope: 'object',
  title: 'Small hole under a detail',
  measures: 'how far across a hole in a fill is that a detail covers',
  unit: 'mm',
  why: 'A small hole under a detail breaks up the rows, costs stitches around its edge, and gaps when cloth and detail shift. Sewn through, nothing shows.',
  source: 'common practice',
  limit: () => LEAST_ACROSS,
  list(context, limit) {
    const { areas, target } = context;
    const school = (target.rules ?? USUAL_RULES).schools.holes;
    if (school === 'carve') return [];
    const thickness = threadThickness(target.thread);
    return areas.flatMap((object, k) =>
      object.holes.flatMap((hole) => {
        const [minX, minY, maxX, maxY] = boxOfRing(hole);
        const across = Math.min(maxX - minX, maxY - minY);
        const isSmall = school === 'sew-through' || across < limit || Math.abs(signedArea(hole)) < (LEAST_AREA * limit) / LEAST_ACROSS;
        if (
          !isSmall ||
          across < 0.8 ||
          !isUnder(
            hole,
            areas.slice(k + 1).filter((o) => isClosedCover(o, thickness)),
          )
        )
          return [];
        return [faultOf(context, object, across, { x: (minX + maxX) / 2, y: (minY + maxY) / 2 })];
      }),
    );
  },
  say(_, faults, limit) {
    const worst = worstOf(faults, 'smallest');
    return {
      worst,
      severity: 'note',
      ...{ measured: worst.value, limit },
      message: `${countOf(faults.length, 'hole')} under a detail, the smallest ${worst.value.toFixed(1)} mm across`,
      reason: 'It gaps when cloth and detail shift, and its edge costs stitches. The shop sews through holes of this size.',
      cost: { seconds: 0, stitches: 0 },
      fix: `Sew through ${allOf(faults)}`,
    };
  },
  mend: 'hole filled',
};

/** Whether details that are sewn later cover a hole. */
function isUnder(hole: Float64Array, later: readonly StitchObject[]): boolean {
  const [minX, minY, maxX, maxY] = boxOfRing(hole);
  let [inside, covered] = [0, 0];
  for (let a = 0.5; a < LOOKS; a++)
    for (let b = 0.5; b < LOOKS; b++) {
      const [x, y] = [minX + ((maxX - minX) * a) / LOOKS, minY + ((maxY - minY) * b) / LOOKS];
      if (!containsPoint([hole], x, y)) continue;
      inside++;
      if (later.some((o) => liesOn(o, x, y))) covered++;
    }
  return inside > 0 && covered / inside >= COVERED;
}

const LOOKS = 9;
