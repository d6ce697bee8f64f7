import { pitchFactor } from '../../materials/pitchFactor.ts';
import { isOpenFill } from '../../materials/specBands.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import type { Target } from '../../model/target.ts';
import type { AuditContext } from '../AuditContext.ts';
import type { Price } from '../finding.ts';
import type { Fault } from '../fault.ts';

/** A fault of an object as a whole, and the figure that it is judged by. */
export interface ObjectFault extends Fault {
  readonly object: string;
  readonly of: StitchObject;
  readonly value: number;
}

/** A fault of two objects: of the first, against the other. */
export interface PairFault extends ObjectFault {
  readonly other: string;
  readonly against: StitchObject;
}

/** A fault of an object, said at a penetration in its middle, or at another place. */
export function faultOf(
  context: AuditContext,
  of: StitchObject,
  value: number,
  at?: { readonly x: number; readonly y: number },
): ObjectFault {
  const row = middleRow(of);
  return { ...context.place(row), ...at, object: of.id, of, value };
}

/** The row in the middle of what lays an object's thread. */
function middleRow({ spans, first }: StitchObject): number {
  const longest = spans.reduce((a, b) => (b.last - b.first > a.last - a.first ? b : a), spans[0] ?? { first, last: first });
  return (longest.first + longest.last) >> 1;
}

/** Whether an object is meant to let the cloth show between its rows. */
export function isOpen({ kind, spacing, made }: StitchObject, { thread }: Target): boolean {
  if (spacing === undefined) return false;
  const said = made?.spec.isOpen;
  return isOpenFill(
    { kind: kind === 'fill' ? 'fill' : 'satin', spacing, ...(said === undefined ? {} : { isOpen: said }) },
    pitchFactor(thread),
  );
}

/** What so many stitches cost on the machine at its top speed. An estimate. */
export function priceOfStitches({ target: { machine } }: AuditContext, stitches: number): Price {
  const whole = Math.round(stitches);
  return { stitches: whole, seconds: (whole * 60) / machine.topSpeed };
}

/** The fault with the largest figure, or the smallest. */
export function worstOf<F extends ObjectFault>(faults: readonly F[], by: 'largest' | 'smallest' = 'largest'): F {
  return faults.reduce((a, b) => ((by === 'largest' ? b.value > a.value : b.value < a.value) ? b : a));
}

/** “it” or “all 6”. */
export function allOf(faults: readonly Fault[]): string {
  return faults.length === 1 ? 'it' : `all ${faults.length}`;
}
