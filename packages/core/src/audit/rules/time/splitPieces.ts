import { areaOf } from '../../../order/areas.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, isOpen, type PairFault, worstOf } from '../objectFault.ts';
import { isOnePiece } from '../look/sameAngle.ts';

/** Pieces that meet along less than this (mm) are no seam that shows. */
const LEAST_SEAM = 5;
/** Of two that lie on each other with more than this share of the smaller, one is meant to be on top. */
const LAID_OVER = 0.3;

export const splitPieces: Rule<PairFault> = {
  id: 'split-pieces',
  group: 'time',
  scope: 'pair',
  title: 'One shape in pieces',
  measures: 'length of the seam between pieces of one color that run the same way',
  unit: 'mm',
  why: 'Pieces of one color with one angle that touch are better merged into one: the seam goes, and one path sews them without a trim.',
  source: 'common practice',
  limit: () => LEAST_SEAM,
  list(context, limit) {
    const { areas, pairs, target } = context;
    return pairs.flatMap(({ a, b, relation }) => {
      const [one, two] = [areas[a]!, areas[b]!];
      if (one.kind !== 'fill' || two.kind !== 'fill' || relation.contact < limit || isOpen(one, target) || !isOnePiece(one, two)) return [];
      if (relation.shared > LAID_OVER * Math.min(areaOf(one), areaOf(two))) return [];
      return [{ ...faultOf(context, two, relation.contact), other: one.id, against: one }];
    });
  },
  say(_, faults, limit) {
    const worst = worstOf(faults);
    return {
      worst,
      severity: 'note',
      ...{ measured: worst.value, limit },
      message: `one shape with ${worst.against.name}, parted by a seam of ${worst.value.toFixed(0)} mm`,
      reason: `${countOf(faults.length, 'seam')} that may open and that a joined shape would not have.`,
      cost: { seconds: 0, stitches: 0 },
      fix: 'Join the pieces into one shape',
    };
  },
  mend: 'pieces joined',
};
