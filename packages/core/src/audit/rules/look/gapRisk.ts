import { predictGaps } from '../../../measure/predictedGaps.ts';
import { isClosedCover } from '../../../order/cells.ts';
import { threadThickness } from '../../../model/thread.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type PairFault, worstOf } from '../objectFault.ts';
import { sayPull } from '../../../materials/sayLearned.ts';

/** Gaps narrower than this (mm) are closed by two threads beside each other. From memory. */
const SEEN = 0.4;
/** Edges that lie farther apart in the file (mm) are meant to. */
const MEETS = 0.15;
/** From this on (mm) it is seen at arm's length. */
const PLAIN = 0.7;

export const gapRisk: Rule<PairFault> = {
  id: 'gap-risk',
  group: 'look',
  scope: 'pair',
  title: 'A gap will open',
  measures: 'the widest gap predicted between two objects that meet (an estimate)',
  unit: 'mm',
  why: 'Thread draws things narrower along the stitches. Objects that only meet in the file part on the cloth, on knits first: let the lower one reach under the upper one.',
  source: 'from memory',
  limit: () => SEEN,
  list(context, limit) {
    const { areas, target } = context;
    const thickness = threadThickness(target.thread);
    const closed = areas.filter((object) => isClosedCover(object, thickness));
    return predictGaps(closed, target, undefined, MEETS)
      .filter(({ width }) => width > limit)
      .map(({ objects: [a, b], width, at }) => {
        const [one, two] = [closed[a]!, closed[b]!];
        // The one below gives: it is sewn first, and what is added to it lies under the other.
        const [lower, upper] = one.first < two.first ? [one, two] : [two, one];
        return { ...faultOf(context, lower, width, at), other: upper.id, against: upper };
      })
      .sort((a, b) => a.row - b.row);
  },
  say({ target }, faults, limit) {
    const worst = worstOf(faults);
    return {
      worst,
      severity: worst.value > PLAIN ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: `${worst.value.toFixed(1)} mm of cloth will show against ${worst.against.name} (an estimate)`,
      reason: `${target.fabric.name} draws each edge in by about ${sayPull(target.fabric)}; ${countOf(faults.length, 'pair')} will part.`,
      cost: { seconds: 0, stitches: 0 },
      fix: faults.length === 1 ? 'Compensate the lower one' : 'Compensate the lower of each pair',
    };
  },
  mend: 'compensated for the pull',
};
