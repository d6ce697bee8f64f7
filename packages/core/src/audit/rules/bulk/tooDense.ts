import { threadThickness } from '../../../model/thread.ts';
import type { Target } from '../../../model/target.ts';
import type { Rule } from '../../rule.ts';
import { findSpots, priceOfExcess, type Spot } from './coverSpots.ts';
import { sayCount } from '../../../words/sayCount.ts';

/** The cover (K) of a single layer with its underlay beyond which thread piles up. From memory: at 0.35 mm, where 0.40 covers, it is tight. */
const DENSEST = 1.45;
/** From this share over the limit needles deflect and thread breaks. */
const SEVERE = 1.35;
/** A smaller spot (mm²) is no more than untidy, however dense. */
const SEVERE_AREA = 20;

export const tooDense: Rule<Spot> = {
  id: 'too-dense',
  group: 'bulk',
  scope: 'object',
  title: 'Too dense',
  measures: 'same-direction pitch of the densest single layer, from the thread laid on each square millimetre',
  unit: 'mm',
  why: 'Thread that does not fit beside its neighbor piles up: the cloth puckers, edges push out, needles deflect and break, and all of it costs stitches.',
  source: 'from memory',
  limit: (target) => pitchOfCover(target, densestCover(target)),
  list(context) {
    const { target, cover } = context;
    const spots = findSpots(context, cover.densestLayer, densestCover(target), (cell) => {
      const row = cover.densestRow[cell]!;
      return row < 0 ? 0 : context.threadOfRow[row]! + 2;
    });
    return spots.sort((a, b) => a.row - b.row);
  },
  say(context, faults) {
    const { target } = context;
    const limit = densestCover(target);
    const worst = faults.reduce((a, b) => (b.worst > a.worst ? b : a));
    const area = faults.reduce((sum, s) => sum + s.area, 0);
    const excess = faults.reduce((sum, s) => sum + s.excess, 0);
    const pitch = pitchOfCover(target, limit + excess / area);
    const tightest = pitchOfCover(target, worst.worst).toFixed(2);
    return {
      worst,
      severity: worst.worst > limit * SEVERE && area >= SEVERE_AREA ? 'stop' : 'fix',
      measured: pitch,
      limit: pitchOfCover(target, limit),
      message: `rows lie as if spaced ${pitch.toFixed(2)} mm on ${sayCount(area)} mm², ${tightest} at worst`,
      reason: `${target.fabric.name} wants ${target.fabric.fillSpacing.toFixed(2)} mm with ${target.thread.name}; under ${pitchOfCover(target, limit).toFixed(2)} thread piles up, the cloth puckers and needles deflect.`,
      cost: priceOfExcess(context, faults),
      advice: `Open the spacing to ${target.fabric.fillSpacing.toFixed(2)} mm.`,
    };
  },
};

/** The cover (K) of a single layer that this cloth takes: thick thread reaches it at a wider pitch than thin. */
function densestCover(target: Target): number {
  return Math.min(target.fabric.maxCover, DENSEST);
}

/** The same-direction pitch (mm) at which this thread would give a cover of `k`. */
function pitchOfCover(target: Target, k: number): number {
  return (2 * threadThickness(target.thread)) / k;
}
