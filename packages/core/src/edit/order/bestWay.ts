import type { Design } from '../../model/design.ts';
import { exitOf, type ObjectId, orderOf, type Plan } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { Point } from '../../model/stitchObject.ts';
import type { HiddenWays } from '../../order/hiddenWays.ts';
import { assemble } from '../../plan/assemble.ts';
import { CARRY } from '../../plan/joining.ts';
import { hasStop } from '../../plan/stops.ts';
import type { SimpleOperation } from '../operations/registry.ts';
import { type Connector, wayIn } from './connector.ts';
import { waysFor } from '../../order/waysFor.ts';
import { cutSeconds } from './wayCosts.ts';

/** A way that was looked for: what it takes, or why it cannot be. */
interface Way {
  readonly how: Connector['how'];
  readonly points?: Float64Array;
  readonly length: number;
  readonly seconds: number;
  readonly why: string;
}

/** Gains below this (seconds) change no way. */
const WORTH = 0.5;

/** What sets the ways of a design that are not the best they can be; ways that are as they came and cost no more stay as they came. */
export function linksFor(
  current: Design,
  only: ReadonlySet<ObjectId> | undefined,
  ways = waysFor(current, current.plan.blocks),
): { readonly operations: readonly SimpleOperation[]; readonly reasons: ReadonlyMap<ObjectId, string> } {
  const { plan } = current;
  const operations: SimpleOperation[] = [];
  const reasons = new Map<ObjectId, string>();
  let time = 0;
  for (const { objects } of plan.blocks) {
    objects.forEach((id, k) => {
      if (k > 0 && only?.has(id) !== false) {
        const way = bestWay(current, ways, objects[k - 1]!, id, time - 1);
        if (way !== undefined) reasons.set(id, way.why);
        if (way !== undefined && !isAsGood(current, id, way)) operations.push(operationOf(id, way));
      }
      time++;
    });
  }
  return { operations, reasons };
}

/** Whether the way to an object stands as it came and is no dearer than another one. */
function isAsGood({ plan, program, target }: Design, id: ObjectId, way: Way): boolean {
  const { places } = assemble(plan);
  const place = places.find((p) => p.id === id)!;
  if (plan.links[id]!.way === way.how) return way.how !== 'hidden';
  if (plan.links[id]!.way !== 'as-found' || !place.isWayFound) return false;
  const now = wayIn(program, place.link, place.first, target.machine);
  if (way.how === 'trim') return true;
  return now.how !== 'trim' && now.how !== 'jump' && now.seconds <= way.seconds + WORTH;
}

type SetLink = Extract<SimpleOperation, { id: 'set-link' }>;

function operationOf(object: ObjectId, { how, points }: Way): SetLink {
  if (points === undefined) return { id: 'set-link', object, way: how };
  return { id: 'set-link', object, way: how, path: Array.from(points, (v) => Math.round(v * 1000) / 1000) };
}

/** The best way between two objects, the first of which is at place `time` of the order; none where the machine has to stop between them. */
function bestWay({ plan, target }: Design, ways: HiddenWays, before: ObjectId, id: ObjectId, time: number): Way | undefined {
  if (hasStop(plan, id)) return undefined;
  const link = plan.links[id]!;
  const [from, to] = [exitOf(plan.source, plan.objects[before]!.sewn), plan.objects[id]!.sewn.start];
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const { machine } = target;
  const stitch = 60 / machine.topSpeed;
  const cut = (why: string): Way => ({ how: 'trim', length, seconds: cutSeconds(machine, length), why });
  if (link.wish === 'cut') return cut('a cut is wanted here');
  if (length <= CARRY) return { how: 'carry', length, seconds: stitch, why: `${length.toFixed(1)} mm: one stitch carries over` };
  const path = ways.find(from, to, time);
  if (typeof path === 'string' && link.wish !== 'uncut') return cut(path);
  if (typeof path === 'string') {
    const points = openPoints(from, to);
    return { how: 'open', points, length, seconds: stitch * (points.length / 2 + 1), why: `no cut is wanted here, and ${path}` };
  }
  const names = path.under.slice(0, 3).map((k) => plan.objects[orderOf(plan)[k]!]!.name);
  const why =
    names.length === 0 ? 'on what its own thread covers' : `under ${names.join(', ')}${path.under.length > 3 ? ' and others' : ''}`;
  return { how: 'hidden', points: path.points, length: path.length, seconds: stitch * (path.points.length / 2 + 1), why };
}

/**
 * The best way to an object from the one before, as an edit and in words. Refused where the machine stops or changes the thread there, and where
 * nothing hides a path, unless a cut is forbidden: then it leads over the open cloth.
 */
export function proposeWay(
  design: Design,
  id: ObjectId,
  isCutForbidden: boolean,
): Result<{ operation: SimpleOperation; why: string }, string> {
  const { plan } = design;
  const order = orderOf(plan);
  const at = order.indexOf(id);
  const block = plan.blocks.find((b) => b.objects.includes(id));
  if (block === undefined) return fail('it is not there any more');
  if (block.objects[0] === id) return fail('another thread is put on before it');
  const wished: Plan = { ...plan, links: { ...plan.links, [id]: { ...plan.links[id]!, wish: 'uncut' } } };
  const way = bestWay({ ...design, plan: wished }, waysFor(design, plan.blocks), order[at - 1]!, id, at - 1);
  if (way === undefined) return fail('the operator has to do something before it');
  if (way.how === 'open' && !isCutForbidden) return fail(way.why.replace('no cut is wanted here, and ', ''));
  const operation = operationOf(id, way);
  return succeed({ operation: isCutForbidden ? { ...operation, wish: 'uncut' } : operation, why: way.why });
}

/** Walking in the open takes such steps, mm. Common practice: 2 to 2.5. */
const OPEN_STITCH = 2.5;

function openPoints(from: Point, to: Point): Float64Array {
  const count = Math.ceil(Math.hypot(to.x - from.x, to.y - from.y) / OPEN_STITCH);
  const out = new Float64Array(Math.max(0, count - 1) * 2);
  for (let k = 1; k < count; k++) out.set([from.x + ((to.x - from.x) * k) / count, from.y + ((to.y - from.y) * k) / count], 2 * k - 2);
  return out;
}
