import type { ShopRules } from '../model/target.ts';
import { texFromMetricNumber, type ThreadType } from '../model/thread.ts';

/** How thick what is sewn is thought to be when a fabric's pitches are given: the usual 40-weight thread. */
const USUAL_WEIGHT = 40;
/** The weights that the habit counts by, thinnest first, and what it leaves of the density at each step. Common practice. */
const HABIT_WEIGHTS = [60, USUAL_WEIGHT, 30, 12];
const LEFT_OF_DENSITY = 0.66;

/** How many times as wide a pitch a thread takes as the usual one: by its thickness (ISO 1144), or by the habit of a third off where that is the shop's school. */
export function pitchFactor(thread: Pick<ThreadType, 'weight'>, rules?: ShopRules): number {
  if (rules?.schools.thickerThread === 'third-off') return habitFactor(thread.weight);
  return Math.sqrt(texFromMetricNumber(thread.weight) / texFromMetricNumber(USUAL_WEIGHT));
}

/** The same by the habit: a third of the density off with each weight down. */
export function habitFactor(weight: number): number {
  const step = (one: number): number => {
    const at = HABIT_WEIGHTS.findIndex((w) => w <= one);
    return at < 0 ? HABIT_WEIGHTS.length - 1 : at;
  };
  return LEFT_OF_DENSITY ** (step(USUAL_WEIGHT) - step(weight));
}
