import { BROAD, isSoftCloth, NARROW } from '../../../materials/specBands.ts';
import type { Target } from '../../../model/target.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import { areaOf } from '../../../order/areas.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, isOpen, type ObjectFault, worstOf } from '../objectFault.ts';
import { isOnStitches } from './noUnderlay.ts';

/** Widths by which columns are told apart may be off by this share before it is said. */
const SLACK = 0.25;
/** A fill up to so much cloth (mm²) is held by a run along its edge or middle. From memory. */
const SMALL_FILL = 60;

export const wrongUnderlay: Rule<ObjectFault> = {
  id: 'wrong-underlay',
  group: 'underlay',
  scope: 'object',
  title: 'Underlay that does not hold',
  measures: 'width of a column, or root of the area of a fill, whose underlay is not of its size',
  unit: 'mm',
  why: 'A satin up to 2 mm takes a center run, a wider one edge runs, a wide one a zigzag; a fill takes tatami. Less does not hold, more only adds stitches.',
  source: 'common practice',
  follows: 'itself',
  limit: () => NARROW,
  list(context) {
    return context.areas.flatMap((object) => {
      if (object.underlay.length === 0 || isOpen(object, context.target) || isOnStitches(context, object)) return [];
      const why = wrongBecause(object, context.target);
      const size = object.kind === 'satin' ? object.width!.mean : Math.sqrt(areaOf(object));
      return why === undefined ? [] : [faultOf(context, object, size)];
    });
  },
  say(context, faults, limit) {
    const { target } = context;
    const worst = worstOf(faults);
    const isSoft = isSoftCloth(target);
    return {
      worst,
      severity: isSoft && worst.value > BROAD ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: wrongBecause(worst.of, target)!,
      reason: isSoft ? `${target.fabric.name} gives way: its base has to carry the cover.` : 'The base has to fit the size of the cover.',
      cost: { seconds: 0, stitches: 0 },
      fix: `Lay ${allOf(faults)} anew`,
    };
  },
  mend: 'underlay as the cloth wants it',
};

/** What is wrong with an object's underlay, in words; nothing where it holds. */
function wrongBecause({ kind, width, underlay, ...area }: StitchObject, target: Target): string | undefined {
  const kinds = new Set(underlay.map((layer) => layer.kind));
  const isSoft = isSoftCloth(target);
  if (kind === 'fill') {
    if (kinds.has('tatami') || areaOf({ kind, ...area }) < SMALL_FILL) return undefined;
    return `a fill of ${Math.round(areaOf({ kind, ...area }))} mm² on runs only`;
  }
  const mean = width?.mean ?? 0;
  if (mean < NARROW * (1 - SLACK) && kinds.has('zigzag')) return `zigzag under a satin of ${mean.toFixed(1)} mm: a center run holds it`;
  if (mean > NARROW * (1 + 2 * SLACK) && kinds.size === 1 && kinds.has('center-run'))
    return `a satin of ${mean.toFixed(1)} mm on a center run only`;
  if (mean > BROAD * (1 + SLACK) && !kinds.has('zigzag') && !kinds.has('tatami')) return `a satin of ${mean.toFixed(1)} mm on runs only`;
  if (isSoft && mean > NARROW * (1 + 2 * SLACK) && !kinds.has('zigzag') && !kinds.has('tatami'))
    return `a satin of ${mean.toFixed(1)} mm on runs only`;
  return undefined;
}
