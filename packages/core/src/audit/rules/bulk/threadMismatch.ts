import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault, priceOfStitches } from '../objectFault.ts';

export const threadMismatch: Rule<ObjectFault> = {
  id: 'thread-mismatch',
  group: 'bulk',
  scope: 'design',
  title: 'Made for another thread',
  measures: 'weight of the thread that the spacing of closed objects fits, against the one that is used',
  unit: 'weight',
  why: 'Rows spaced for thick thread show cloth with a thin one; rows spaced for thin thread pile up with a thick one. Thickness goes with the root of tex (ISO 1144).',
  source: 'common practice',
  follows: 'thread',
  limit: (target) => target.thread.weight,
  list(context) {
    const { madeFor, areas } = context;
    return madeFor === undefined
      ? []
      : areas.filter(({ id }) => madeFor.objects.has(id)).map((object) => faultOf(context, object, madeFor.factor));
  },
  say(context, faults) {
    const { target } = context;
    const { thread, isSaid, factor } = context.madeFor!;
    const isWide = factor > 1;
    const change = faults.reduce((sum, { of }) => sum + of.stitches * (1 - factor), 0);
    const share = Math.round(Math.abs(factor - 1) * 100);
    return {
      severity: isSaid ? 'fix' : 'note',
      ...{ measured: thread.weight, limit: target.thread.weight },
      message: `${isSaid ? 'made' : 'spaced as if made'} for ${thread.weight}-weight thread: rows lie ${share} % ${isWide ? 'wider' : 'closer'} than ${target.thread.weight}-weight covers`,
      reason: isWide
        ? `With ${target.thread.name} the cloth will show between the rows of ${faults.length} objects. Closer rows add stitches.`
        : `With ${target.thread.name} the rows of ${faults.length} objects pile up. ${isSaid ? '' : 'It may also be a hand that spaces closely. '}Opening them saves stitches.`,
      cost: priceOfStitches(context, change),
      fix: `Fit to ${target.thread.weight}-weight thread`,
    };
  },
  mend: 'spacing fitted to the thread',
};
