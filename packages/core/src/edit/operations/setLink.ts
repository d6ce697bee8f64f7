import { z } from 'zod';
import { exitOf, type LaidPath, type Link, LINK_WAYS, LINK_WISHES, type ObjectId, orderOf, type Plan } from '../../model/plan.ts';
import { fail } from '../../model/result.ts';
import { expectObject, Id, type OperationKind, withPlan } from './kind.ts';

const Coordinate = z.number().min(-1000).max(1000);

const schema = z.object({
  id: z.literal('set-link'),
  object: Id,
  way: z.enum(LINK_WAYS).optional(),
  /** The penetrations of a hidden or open way between its ends, xyxy, mm. */
  path: z.array(Coordinate).max(20_000).optional(),
  /** Whether the thread is to be cut here, or must not be; null: as it comes. */
  wish: z.enum(LINK_WISHES).nullable().optional(),
});

/** How the needle gets to an object from the one before, and whether somebody wants a cut there. */
export const setLink: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, way, path, wish }) {
    const expected = expectObject(design, id, undefined);
    if (!expected.ok) return expected;
    const { plan } = design;
    const { path: oldPath, wish: oldWish, ...old } = plan.links[id]!;
    const next: Link = { ...old, ...(way === undefined ? {} : { way }) };
    const isPath = next.way === 'hidden' || next.way === 'open';
    if (isPath && way !== undefined && (path === undefined || path.length % 2 !== 0))
      return fail('a path is said by its penetrations, x and y');
    const laid = !isPath ? undefined : way === undefined ? oldPath : laidPath(plan, id, path!);
    if (isPath && laid === undefined) return fail('before the first object there is nothing that a path could come from');
    const wished = wish === undefined ? oldWish : (wish ?? undefined);
    const link = { ...next, ...(laid === undefined ? {} : { path: laid }), ...(wished === undefined ? {} : { wish: wished }) };
    return withPlan(design, { ...plan, links: { ...plan.links, [id]: link } });
  },
};

function laidPath(plan: Plan, id: ObjectId, points: readonly number[]): LaidPath | undefined {
  const order = orderOf(plan);
  const before = order[order.indexOf(id) - 1];
  if (before === undefined) return undefined;
  return { from: exitOf(plan.source, plan.objects[before]!.sewn), to: plan.objects[id]!.sewn.start, points };
}
