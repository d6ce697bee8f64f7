import { boxOfRing } from '../../../geometry/ring.ts';
import { TRIM } from '../../../model/program.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import { assemble } from '../../../plan/assemble.ts';
import { CARRY } from '../../../plan/joining.ts';
import { hasStop } from '../../../plan/stops.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type PairFault, worstOf } from '../objectFault.ts';

export const farEntry: Rule<PairFault> = {
  id: 'far-entry',
  group: 'time',
  scope: 'link',
  title: 'Entry far from the exit before it',
  measures: 'way from where one object ends to where the next begins, though their edges lie within one stitch',
  unit: 'mm',
  why: 'Objects that lie side by side need no trim when the first ends where the second begins. Moving an object leaves its ends where they were.',
  source: 'common practice',
  limit: () => CARRY,
  list(context, limit) {
    const { plan, program } = context;
    if (plan === undefined) return [];
    const { places } = assemble(plan);
    const byId = new Map(context.covers.map((object) => [object.id, object]));
    return places.flatMap((place, k) => {
      const before = places[k - 1];
      const [one, two] = [before === undefined ? undefined : byId.get(before.id), byId.get(place.id)];
      if (one === undefined || two === undefined || before!.block !== place.block || hasStop(plan, place.id)) return [];
      if (!isMovable(one) && !isMovable(two)) return [];
      const way = Math.hypot(one.exit.x - two.entry.x, one.exit.y - two.entry.y);
      if (way <= limit || !isCut(program.command, place.link, place.first) || gapBetween(one, two) > CARRY) return [];
      return [{ ...faultOf(context, two, way, two.entry), row: Math.min(place.first, program.rowCount - 1), other: one.id, against: one }];
    });
  },
  say({ target }, faults, limit) {
    const worst = worstOf(faults);
    return {
      worst,
      severity: 'fix',
      ...{ measured: worst.value, limit },
      message: `begins ${worst.value.toFixed(0)} mm from where ${worst.against.name} ends, though they touch`,
      reason: `${countOf(faults.length, 'trim')} that ends at the right place would save. Some objects are sewn anew for it from their own spec.`,
      cost: { seconds: faults.length * target.machine.trimCycle, stitches: 0 },
      fix: faults.length === 1 ? 'Let them meet' : 'Let each pair meet',
    };
  },
  mend: 'entry and exit moved to where they meet',
};

/** Whether an object can begin or end elsewhere. */
function isMovable({ kind, pattern }: StitchObject): boolean {
  return pattern === undefined && (kind === 'fill' || kind === 'satin' || kind === 'run');
}

function isCut(command: Uint8Array, first: number, end: number): boolean {
  for (let i = first; i < end; i++) if (command[i] === TRIM) return true;
  return false;
}

/** The distance between the edges or lines of two objects by their corners, mm; boxes first. O(corners²). */
function gapBetween(a: StitchObject, b: StitchObject): number {
  const [p, q] = [pointsOf(a), pointsOf(b)];
  const [boxA, boxB] = [boxOfRing(p), boxOfRing(q)];
  const apart = Math.hypot(Math.max(0, boxA[0] - boxB[2], boxB[0] - boxA[2]), Math.max(0, boxA[1] - boxB[3], boxB[1] - boxA[3]));
  if (apart > CARRY) return apart;
  let least = Infinity;
  for (let i = 0; i < p.length; i += 2)
    for (let k = 0; k < q.length; k += 2) least = Math.min(least, (p[i]! - q[k]!) ** 2 + (p[i + 1]! - q[k + 1]!) ** 2);
  return Math.sqrt(least);
}

/** The places where an object can begin and end: a fill and what closes anywhere on its edge, a column and a line at either end. */
function pointsOf({ kind, outline, rails, path, entry, exit }: StitchObject): Float64Array {
  if (kind === 'satin' && rails !== undefined) return isClosed(rails.left) && isClosed(rails.right) ? outline : endsOfColumn(rails);
  if (kind === 'fill' && outline.length >= 6) return outline;
  return path !== undefined && path.length >= 4 && isClosed(path) ? path : Float64Array.of(entry.x, entry.y, exit.x, exit.y);
}

/** Ends nearer than this (mm) are one place. */
const CLOSED = 0.3;

function isClosed(line: Float64Array): boolean {
  return Math.hypot(line[0]! - line[line.length - 2]!, line[1]! - line[line.length - 1]!) <= CLOSED;
}

function endsOfColumn({ left, right }: NonNullable<StitchObject['rails']>): Float64Array {
  const middle = (a: number, b: number): number[] => [(left.at(a)! + right.at(a)!) / 2, (left.at(b)! + right.at(b)!) / 2];
  return Float64Array.from([...middle(0, 1), ...middle(-2, -1)]);
}
