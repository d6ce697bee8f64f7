import type { Rule } from '../../rule.ts';
import { allOf, faultOf, type ObjectFault, worstOf } from '../objectFault.ts';

/** Under about 1 mm satins sew thin, under 0.8 mm they do not hold. From memory. */
const THIN = 1;
const DOES_NOT_HOLD = 0.8;
/** Widths are measured to this, mm. */
const SLACK = 0.03;

export const thinSatin: Rule<ObjectFault> = {
  id: 'thin-satin',
  group: 'holding',
  scope: 'object',
  title: 'Thin satin',
  measures: 'mean width of a satin',
  unit: 'mm',
  why: 'Under 1 mm the needle comes down almost where it was: the column sews as a ragged line, and under 0.8 mm it does not hold at all.',
  source: 'from memory',
  limit: () => THIN,
  list(context, limit) {
    // On pile it sinks in as well; that is judged there.
    if (context.target.fabric.pile >= SINKS) return [];
    return context.areas.flatMap((object) => {
      const mean = object.kind === 'satin' ? object.width!.mean : Infinity;
      return mean < limit - SLACK ? [faultOf(context, object, mean)] : [];
    });
  },
  say({ target }, faults, limit) {
    const worst = worstOf(faults, 'smallest');
    return {
      worst,
      severity: worst.value < DOES_NOT_HOLD ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: `a satin ${worst.value.toFixed(2)} mm wide`,
      reason: `${target.fabric.name} draws it in further. Widened to ${limit.toFixed(1)} mm it reads as a column.`,
      cost: { seconds: 0, stitches: 0 },
      fix: `Widen ${allOf(faults)}`,
    };
  },
  mend: 'widened',
};

/** Cloth whose pile stands this high (mm) swallows what is thin. */
export const SINKS = 0.8;
