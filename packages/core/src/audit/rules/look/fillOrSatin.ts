import { FILL_FROM, SPLIT_FROM } from '../../../materials/shopLimits.ts';
import { areaOf } from '../../../order/areas.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { Rule } from '../../rule.ts';
import { stripWidth } from '../holding/wideSatin.ts';
import { allOf, faultOf, isOpen, type ObjectFault, priceOfStitches, worstOf } from '../objectFault.ts';

/** A strip is so many times as long as wide. */
const STRIP = 3.5;
/** What is narrower (mm) or smaller (mm²) is judged elsewhere. */
const NARROWEST = 1.2;
const LEAST_AREA = 8;

export const fillShouldBeSatin: Rule<ObjectFault> = {
  id: 'fill-should-be-satin',
  group: 'look',
  scope: 'object',
  title: 'Narrow fill, better a satin',
  measures: 'width of a fill that is a strip',
  unit: 'mm',
  why: 'A strip under 7 mm wide is often better as a satin: cleaner edges, more shine, and fewer stitches.',
  source: 'common practice',
  limit: () => SPLIT_FROM,
  list(context, limit) {
    return context.areas.flatMap((object) => {
      if (object.kind !== 'fill' || isOpen(object, context.target) || object.holes.length > 1) return [];
      const [width, area] = [stripWidth(object), areaOf(object)];
      const isStrip = area >= LEAST_AREA && area / width >= STRIP * width;
      return isStrip && width >= NARROWEST && width < limit ? [faultOf(context, object, width)] : [];
    });
  },
  say(context, faults, limit) {
    const worst = worstOf(faults, 'smallest');
    const saved = faults.reduce(
      (sum, { of, value }) => sum + of.stitches - (2 * areaOf(of)) / (context.target.fabric.satinSpacing * value),
      0,
    );
    return {
      worst,
      severity: 'note',
      ...{ measured: worst.value, limit },
      message: `a fill in a strip ${worst.value.toFixed(1)} mm wide`,
      reason: 'As a satin its edges are cleaner. That changes how it looks: throws across instead of rows.',
      cost: priceOfStitches(context, Math.max(0, saved)),
      fix: `Make ${allOf(faults)} a satin`,
    };
  },
  mend: 'made a satin',
};

export const satinShouldBeFill: Rule<ObjectFault> = {
  id: 'satin-should-be-fill',
  group: 'look',
  scope: 'object',
  title: 'Satin too wide',
  measures: 'mean width of a satin',
  unit: 'mm',
  why: 'Throws this long slacken in the wash, split or not, and the column loses its edge. A fill of the same shape lies flat.',
  source: 'from memory',
  limit: () => FILL_FROM,
  list(context, limit) {
    return context.areas.flatMap((object) => {
      const mean = meanWidth(object);
      return mean > limit ? [faultOf(context, object, mean)] : [];
    });
  },
  say(context, faults, limit) {
    const worst = worstOf(faults);
    const added = faults.reduce((sum, { of, value }) => sum + of.stitches * (value / 4 - 1), 0);
    return {
      worst,
      severity: 'fix',
      ...{ measured: worst.value, limit },
      message: `a satin ${worst.value.toFixed(1)} mm wide`,
      reason: 'It slackens and snags. As a fill it lies flat and takes more stitches.',
      cost: priceOfStitches(context, -added),
      fix: `Make ${allOf(faults)} a fill`,
    };
  },
  mend: 'made a fill',
};

function meanWidth({ kind, width }: StitchObject): number {
  return kind === 'satin' ? width!.mean : 0;
}
