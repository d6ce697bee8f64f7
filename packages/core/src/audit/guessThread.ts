import { habitFactor, pitchFactor } from '../materials/pitchFactor.ts';
import { isOpenFill, spacingBand } from '../materials/specBands.ts';
import { THREADS } from '../materials/shop.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import type { Target } from '../model/target.ts';
import type { ThreadType } from '../model/thread.ts';

/** The thread that a file was made for, as far as its spacing tells or somebody said. */
export interface MadeForThread {
  readonly thread: Pick<ThreadType, 'weight'>;
  readonly isSaid: boolean;
  /** How many times as wide as the thread that is used would want its rows lie, and whose: ids. */
  readonly factor: number;
  readonly objects: ReadonlySet<string>;
}

/** A design with fewer closed objects than this tells nothing. */
const LEAST_OBJECTS = 3;
/** So many of them have to agree, within so much of the usual one. */
const AGREEING = 0.75;
const SPREAD = 0.055;
/** The usual pitch is a weight's where it is so near to what that weight wants, as a logarithm. */
const NEAR = 0.08;

/**
 * What thread a file was made for, where that is another weight than the target's: guessed from the spacing of its closed satins and fills against what
 * the cloth wants with each weight. Guessed only where most of them agree; spacing alone cannot tell a habit from a thread. None where nothing tells.
 */
export function guessThread(areas: readonly StitchObject[], target: Target): MadeForThread | undefined {
  const closed = areas.filter(({ kind, spacing, made }) => {
    return !isOpenFill({ kind: kind === 'fill' ? 'fill' : 'satin', spacing: spacing!, ...openness(made) }, pitchFactor(target.thread));
  });
  // What was spaced here tells nothing of the file.
  const found = closed.filter(({ made }) => made === undefined);
  const ratios = (target.madeFor === undefined ? found : closed).map((object) => ({
    id: object.id,
    stitches: object.stitches,
    ratio: object.spacing! / wantedPitch(object, target),
  }));
  if (target.madeFor !== undefined) {
    if (target.madeFor.weight === target.thread.weight) return undefined;
    const factor = pitchFactor(target.madeFor, target.rules) / pitchFactor(target.thread, target.rules);
    const objects = ratios.filter(({ ratio }) => Math.abs(Math.log(ratio / factor)) < Math.abs(Math.log(ratio))).map(({ id }) => id);
    return objects.length === 0 ? undefined : { thread: target.madeFor, isSaid: true, factor, objects: new Set(objects) };
  }
  if (ratios.length < LEAST_OBJECTS) return undefined;
  const usual = weightedMedian(ratios);
  const agreeing = ratios.filter(({ ratio }) => Math.abs(Math.log(ratio / usual)) <= SPREAD);
  const total = ratios.reduce((sum, r) => sum + r.stitches, 0);
  if (agreeing.reduce((sum, r) => sum + r.stitches, 0) < AGREEING * total || agreeing.length < LEAST_OBJECTS) return undefined;
  const used = pitchFactor(target.thread, target.rules);
  // By its thickness, or by the habit of a third of the density off with each weight.
  const distance = (weight: number): number =>
    Math.min(...[pitchFactor({ weight }), habitFactor(weight)].map((factor) => Math.abs(Math.log((usual * used) / factor))));
  const weights = [...new Set(THREADS.map(({ weight }) => weight))];
  const nearest = weights.reduce((best, weight) => (distance(weight) < distance(best) ? weight : best));
  if (nearest === target.thread.weight || distance(nearest) > NEAR) return undefined;
  return {
    ...{ thread: { weight: nearest }, isSaid: false, factor: usual },
    objects: new Set(agreeing.map(({ id }) => id)),
  };
}

/** What spacing the cloth wants of an object that is meant to be closed, mm. */
export function wantedPitch({ kind, spacing }: Pick<StitchObject, 'kind' | 'spacing'>, target: Target): number {
  return spacingBand(target, { kind: kind === 'fill' ? 'fill' : 'satin', spacing: spacing!, isOpen: false }).best;
}

function openness(made: StitchObject['made']): { isOpen?: boolean } {
  return made?.spec.isOpen === undefined ? {} : { isOpen: made.spec.isOpen };
}

/** The ratio below which half of all stitches are. */
function weightedMedian(ratios: readonly { readonly ratio: number; readonly stitches: number }[]): number {
  const sorted = [...ratios].sort((a, b) => a.ratio - b.ratio);
  const half = sorted.reduce((sum, r) => sum + r.stitches, 0) / 2;
  let sum = 0;
  for (const { ratio, stitches } of sorted) {
    sum += stitches;
    if (sum >= half) return ratio;
  }
  return 1;
}
