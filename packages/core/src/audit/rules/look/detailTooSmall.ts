import type { StitchObject } from '../../../model/stitchObject.ts';
import type { Target } from '../../../model/target.ts';
import { areaOf } from '../../../order/areas.ts';
import { SINKS } from '../holding/thinSatin.ts';
import { stripWidth } from '../holding/wideSatin.ts';
import { faultOf, type ObjectFault, worstOf } from '../objectFault.ts';
import type { Rule } from '../../rule.ts';

/** What stays of a detail on flat cloth, and what each mm of pile takes, mm. From memory. */
const ON_FLAT = 1;
const BY_PILE = 0.35;
/** A line gone over so often stands up out of low pile. */
const STANDS_UP = 3;
/** Lines thinner than two threads (mm) sink in. */
const LINE = 0.4;
/** A fill of so many times the limit square is large enough. */
const SQUARE = 1.5;

export const detailTooSmall: Rule<ObjectFault> = {
  id: 'detail-too-small',
  group: 'look',
  scope: 'object',
  title: 'Detail sinks into the pile',
  measures: 'width of columns, lines and small areas against what the pile leaves of them',
  unit: 'mm',
  why: 'Pile closes over thin columns, single lines and small areas: after the first wash nobody can read them.',
  source: 'from memory',
  follows: 'cloth',
  limit: ({ fabric }: Target) => (fabric.pile < SINKS ? 0 : ON_FLAT + BY_PILE * fabric.pile),
  list(context, limit) {
    if (context.target.fabric.pile < SINKS) return [];
    return context.covers.flatMap((object) => {
      const size = sizeOf(object, limit);
      return size < limit ? [faultOf(context, object, size)] : [];
    });
  },
  say({ target }, faults, limit) {
    const worst = worstOf(faults, 'smallest');
    const isLine = worst.of.kind === 'run';
    return {
      worst,
      severity: worst.value < 0.6 * limit ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: isLine
        ? 'a line that the pile closes over'
        : `${worst.value.toFixed(1)} mm wide where the pile leaves nothing under ${limit.toFixed(1)}`,
      reason: `${target.fabric.name} stands ${target.fabric.pile.toFixed(1)} mm high. Widen it, or lay a nap-holding layer under the design.`,
      cost: { seconds: 0, stitches: 0 },
      ...(faults.some(({ of }) => of.kind === 'satin')
        ? { fix: faults.length === 1 ? 'Widen it' : 'Widen the columns among them' }
        : { advice: 'Sew it larger, as a satin, or leave it out: a nap-holding layer alone does not carry a single line.' }),
    };
  },
  mend: 'widened',
};

/** What the pile would have to leave of an object, mm; areas that are large enough have no limit. */
function sizeOf(object: StitchObject, limit: number): number {
  if (object.kind === 'satin') return object.width?.mean ?? Infinity;
  if (object.kind === 'run' && object.pattern === undefined) return (object.passes ?? 1) >= STANDS_UP ? Infinity : LINE;
  if (object.kind !== 'fill' || object.outline.length < 6) return Infinity;
  return areaOf(object) < (SQUARE * limit) ** 2 ? stripWidth(object) : Infinity;
}
