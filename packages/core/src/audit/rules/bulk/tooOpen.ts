import { wantedPitch } from '../../guessThread.ts';
import { STILL_COVERS } from '../../../materials/shopLimits.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, isOpen, type ObjectFault, priceOfStitches, worstOf } from '../objectFault.ts';

/** From here on cloth shows between the rows at arm's length. From memory. */
const SHOWS = 1.3;
/** Recognition measures spacing to this share. */
const MEASURED_TO = 0.02;

export const tooOpen: Rule<ObjectFault> = {
  id: 'too-open',
  group: 'bulk',
  scope: 'object',
  title: 'Too open to cover',
  measures: 'how many times as wide as the cloth wants them the rows of a closed satin or fill lie',
  unit: 'times',
  why: 'Rows too far apart let the cloth show between them, most where its color is far from the thread’s.',
  source: 'common practice',
  limit: () => STILL_COVERS,
  list(context, limit) {
    const { areas, target, madeFor } = context;
    return areas.flatMap((object) => {
      if (isOpen(object, target) || madeFor?.objects.has(object.id) === true) return [];
      const times = object.spacing! / wantedPitch(object, target);
      return times > limit + MEASURED_TO ? [faultOf(context, object, times)] : [];
    });
  },
  say(context, faults, limit) {
    const { target } = context;
    const worst = worstOf(faults);
    const wanted = wantedPitch(worst.of, target);
    const added = faults.reduce((sum, { of, value }) => sum + of.stitches * (value - 1), 0);
    return {
      worst,
      severity: worst.value > SHOWS ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: `rows ${worst.of.spacing!.toFixed(2)} mm apart where ${target.fabric.name} wants ${wanted.toFixed(2)}`,
      reason: `${target.fabric.name} shows between the rows with ${target.thread.name}. Closing them adds stitches.`,
      cost: priceOfStitches(context, -added),
      fix: `Close ${allOf(faults)}`,
    };
  },
  mend: 'set to what the cloth wants',
};
