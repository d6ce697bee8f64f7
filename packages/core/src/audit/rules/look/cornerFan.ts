import type { AuditContext } from '../../AuditContext.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault, worstOf } from '../objectFault.ts';

/** A foot on the edge carries one prong; on the bisector of a corner a second one may stand beside it. Common practice. */
const MOST_PRONGS = 2;
/** Penetrations so near to each other (mm) are one foot; prongs are longer. */
const FOOT = 0.15;
const LEAST_PRONG = 0.8;

export const cornerFan: Rule<ObjectFault> = {
  id: 'corner-fan',
  group: 'look',
  scope: 'object',
  title: 'Corner fans out',
  measures: 'prongs of an edge stitch that stand on one foot',
  unit: 'prongs',
  why: 'On sharp corners an edge stitch fans out: prongs cross and the corner gets a knot. Shortened toward the tip, square to the edge, one on the bisector, it stays crisp.',
  source: 'common practice',
  follows: 'itself',
  limit: () => MOST_PRONGS,
  list(context, limit) {
    return context.covers.flatMap((object) => {
      if (object.pattern !== 'edge-stitch') return [];
      return fansOf(context, object)
        .filter(({ prongs }) => prongs > limit)
        .map(({ prongs, at }) => ({ ...faultOf(context, object, prongs, at), isOneOfSeveral: true as const }));
    });
  },
  say(_, faults, limit) {
    const worst = worstOf(faults);
    return {
      worst,
      severity: 'fix',
      ...{ measured: worst.value, limit },
      message: `${worst.value} prongs fan out from one foot at a corner`,
      reason: 'They cross and knot. The corner is laid out anew, one prong on its bisector.',
      cost: { seconds: 0, stitches: 0 },
      fix: faults.length === 1 ? 'Rebuild the corner' : `Rebuild ${faults.length} corners`,
    };
  },
  mend: 'corners rebuilt',
};

/** A foot with more than one prong: its place, the row that comes down on it first and the one that does last. */
export interface Fan {
  readonly prongs: number;
  readonly at: { readonly x: number; readonly y: number };
  readonly row: number;
  readonly last: number;
}

/** The fans of an object: the needle goes out from a foot and comes back to it, several times. */
export function fansOf({ program: { x, y } }: Pick<AuditContext, 'program'>, { spans }: StitchObject): Fan[] {
  const fans: Fan[] = [];
  for (const { first, last } of spans)
    for (let i = Math.max(1, first); i + 2 <= last;) {
      let prongs = 0;
      let at = i;
      while (at + 2 <= last && isNear(x, y, at, at + 2) && Math.hypot(x[at + 1]! - x[at]!, y[at + 1]! - y[at]!) >= LEAST_PRONG) {
        // The same prong over again is no other one.
        if (prongs === 0 || !isNear(x, y, at + 1, at - 1)) prongs++;
        at += 2;
      }
      if (prongs > 1) fans.push({ prongs, at: { x: x[i]!, y: y[i]! }, row: i, last: at });
      i = Math.max(i + 1, at);
    }
  return fans;
}

function isNear(x: Float64Array, y: Float64Array, a: number, b: number): boolean {
  return Math.hypot(x[a]! - x[b]!, y[a]! - y[b]!) <= FOOT;
}
