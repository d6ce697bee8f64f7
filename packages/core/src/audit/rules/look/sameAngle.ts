import { axisDifference } from '../../../geometry/axis.ts';
import { areaOf } from '../../../order/areas.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, isOpen, type PairFault, worstOf } from '../objectFault.ts';

/** 45 to 60 degrees between neighbours help already; less than this the eye reads as one direction. Common practice, the number from memory. */
const LEAST_TURN = 20;
/** Fills smaller than this (mm²), or that meet along less (mm), drag nothing. */
const LEAST_AREA = 40;
const LEAST_CONTACT = 8;

export const sameAngle: Rule<PairFault> = {
  id: 'same-angle',
  group: 'look',
  scope: 'pair',
  title: 'Neighbors run the same way',
  measures: 'difference of the directions of two fills that meet',
  unit: 'degrees',
  why: 'Touching fills that run the same way bleed together, and drag the cloth the same way so that gaps open on the far side. Turn one: 45 against 135 is opposed.',
  source: 'common practice',
  limit: () => LEAST_TURN,
  list(context, limit) {
    const { areas, pairs } = context;
    return pairs.flatMap(({ a, b, relation }) => {
      const [one, two] = [areas[a]!, areas[b]!];
      if (relation.contact < LEAST_CONTACT || !isBroadFill(context, one) || !isBroadFill(context, two)) return [];
      const turn = axisDifference(one.angle!, two.angle!);
      if (turn >= limit || isOnePiece(one, two)) return [];
      const [small, large] = areaOf(one) < areaOf(two) ? [one, two] : [two, one];
      return [{ ...faultOf(context, small, turn), other: large.id, against: large }];
    });
  },
  say(_, faults, limit) {
    const worst = worstOf(faults, 'smallest');
    return {
      worst,
      severity: 'note',
      ...{ measured: worst.value, limit },
      message: `runs as ${worst.against.name} does, ${Math.round(worst.value)}° apart`,
      reason: `They bleed together and drag the same way, at ${countOf(faults.length, 'meeting')}. Turning the smaller one changes its shine.`,
      cost: { seconds: 0, stitches: 0 },
      fix: faults.length === 1 ? 'Turn it against its neighbors' : 'Turn the smaller of each pair',
    };
  },
  mend: 'turned against its neighbors',
};

function isBroadFill({ target }: AuditContext, object: StitchObject): boolean {
  return object.kind === 'fill' && object.angle !== undefined && !isOpen(object, target) && areaOf(object) >= LEAST_AREA;
}

/** Pieces of one color whose rows differ no more than this are one shape in two parts, degrees. */
const ONE_WAY = 10;

/** Whether two fills are parts of what would be one: of one color, one direction and one spacing. */
export function isOnePiece(a: StitchObject, b: StitchObject): boolean {
  const isAlike = a.spacing !== undefined && b.spacing !== undefined && Math.abs(Math.log(a.spacing / b.spacing)) < 0.15;
  return a.color === b.color && isAlike && axisDifference(a.angle ?? 0, b.angle ?? 0) < ONE_WAY;
}
