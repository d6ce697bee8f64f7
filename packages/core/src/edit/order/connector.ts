import type { Design } from '../../model/design.ts';
import type { LinkWay, LinkWish, ObjectId } from '../../model/plan.ts';
import { JUMP, type Program, STITCH, TRIM } from '../../model/program.ts';
import type { Point } from '../../model/stitchObject.ts';
import type { Machine } from '../../model/target.ts';
import type { HiddenWays } from '../../order/hiddenWays.ts';
import { assemble } from '../../plan/assemble.ts';
import { hasStop } from '../../plan/stops.ts';
import { waysFor } from '../../order/waysFor.ts';
import { cutSeconds } from './wayCosts.ts';

/** A way between two objects that are sewn one after the other with one thread on. */
export interface Connector {
  readonly from: ObjectId;
  readonly to: ObjectId;
  readonly how: Exclude<LinkWay, 'as-found'>;
  /** Where it leads, both ends included, xyxy, mm. */
  readonly points: readonly number[];
  /** Between the two penetrations, or along the path, mm. */
  readonly length: number;
  /** An estimate of what it takes on the machine. */
  readonly seconds: number;
  /** What somebody wants there. */
  readonly wish?: LinkWish;
  /** Why it is what it is: what hides it, or what keeps it from being hidden. */
  readonly why: string;
}

/** The ways between objects that follow each other with one thread on, as they are. */
export function listConnectors(design: Design, reasons: ReadonlyMap<ObjectId, string> = new Map()): Connector[] {
  const { plan, program, target } = design;
  const { places } = assemble(plan);
  const out: Connector[] = [];
  let ways: HiddenWays | undefined;
  for (let k = 1; k < places.length; k++) {
    const [before, place] = [places[k - 1]!, places[k]!];
    if (before.block !== place.block || hasStop(plan, place.id)) continue;
    const seen = wayIn(program, place.link, place.first, target.machine);
    const points = pointsOf(program, place.link, place.first);
    const { wish } = plan.links[place.id]!;
    // A path that was found is hidden where later covers lie on all of it.
    if (seen.how === 'open') ways ??= waysFor(design, plan.blocks);
    const isHidden = seen.how === 'open' && isCovered(points, (at) => ways!.stack.covers(at, k - 1));
    out.push({
      ...{ from: before.id, to: place.id, points, ...seen, ...(wish === undefined ? {} : { wish }) },
      how: isHidden || plan.links[place.id]!.way === 'hidden' ? hiddenOr(seen.how) : seen.how,
      why: reasons.get(place.id) ?? '',
    });
  }
  return out;
}

/** A path in the open that lies under something is a hidden one. */
function hiddenOr(how: Connector['how']): Connector['how'] {
  return how === 'open' ? 'hidden' : how;
}

function isCovered(points: readonly number[], covers: (at: Point) => boolean): boolean {
  for (let k = 2; k + 3 < points.length; k += 2) if (!covers({ x: points[k]!, y: points[k + 1]! })) return false;
  return true;
}

/** Where the rows of a way lead, from the penetration before them on. */
function pointsOf({ x, y }: Program, link: number, first: number): number[] {
  const out: number[] = [];
  for (let i = Math.max(0, link - 1); i < first; i++)
    if (out.length === 0 || x[i] !== out.at(-2) || y[i] !== out.at(-1)) out.push(x[i]!, y[i]!);
  return out;
}

/** What the rows of a way do: cut, jump, one stitch or none, or a path in the open. */
export function wayIn(program: Program, link: number, first: number, machine: Machine): Pick<Connector, 'how' | 'length' | 'seconds'> {
  const { x, y, command } = program;
  let [isCut, isJump, stitches, length] = [false, false, 0, 0];
  for (let i = Math.max(1, link); i < first; i++) {
    isCut ||= command[i] === TRIM;
    isJump ||= command[i] === JUMP;
    if (command[i] === STITCH) stitches++;
    length += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
  }
  if (isCut) return { how: 'trim', length, seconds: cutSeconds(machine, length) };
  if (isJump) return { how: 'jump', length, seconds: machine.moveSettle + length / machine.moveSpeed };
  return { how: stitches > 1 ? 'open' : 'carry', length, seconds: (60 / machine.topSpeed) * stitches };
}
