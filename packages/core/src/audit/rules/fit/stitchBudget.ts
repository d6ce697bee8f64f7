import type { Target } from '../../../model/target.ts';
import { sayCount } from '../../../words/sayCount.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault, priceOfStitches } from '../objectFault.ts';

/** Stitches that a place bears for each g/m² of its cloth, by its area to this power: a full back bears less on each cm² than a chest. From memory. */
const BY_MASS = 1.2;
const BY_AREA = 0.8;
const MM2 = 100;

export const stitchBudget: Rule<ObjectFault> = {
  id: 'stitch-budget',
  group: 'fit',
  scope: 'design',
  title: 'More stitches than this place bears',
  measures: 'stitches of the design against what the place bears on this cloth',
  unit: 'stitches',
  why: 'Full density over a large place turns light cloth into a board: it warps, hangs stiff and pulls at its seams. Opening the largest fills brings it down fastest.',
  source: 'from memory',
  follows: 'cloth',
  limit: ({ fabric, garment }: Target) =>
    garment === null ? Infinity : Math.round((BY_MASS * fabric.mass * ((garment.width * garment.height) / MM2) ** BY_AREA) / 100) * 100,
  list(context, limit) {
    const { stitches } = context.counts;
    const first = context.covers[0];
    return stitches > limit && first !== undefined ? [faultOf(context, first, stitches)] : [];
  },
  say(context, faults, limit) {
    const { target } = context;
    const stitches = faults[0]!.value;
    return {
      severity: stitches > 1.5 * limit ? 'fix' : 'note',
      ...{ measured: stitches, limit },
      message: `${sayCount(stitches)} stitches; ${target.fabric.name} bears about ${sayCount(limit)} at ${target.garment === null ? 'a place like this' : `the ${target.garment.name}`}`,
      reason: 'It will hang stiff and warp. Opening the largest fills saves most and changes how they look.',
      cost: priceOfStitches(context, stitches - limit),
      fix: 'Open the largest fills',
    };
  },
  mend: 'fills opened',
};
