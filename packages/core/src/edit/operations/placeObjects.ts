import { z } from 'zod';
import { keepsLengths, type Motion } from '../../geometry/motion.ts';
import { type Link, type ObjectId, orderOf, type Plan, type PlanObject, readRows } from '../../model/plan.ts';
import { STITCH } from '../../model/program.ts';
import { fail } from '../../model/result.ts';
import { placeLink, placeRows } from '../../plan/placeRows.ts';
import { expectObject, Id, type OperationKind, Print, withPlan } from './kind.ts';

const Value = z.number().min(-4000).max(4000);

const schema = z.object({
  id: z.literal('place-objects'),
  objects: z
    .array(z.object({ object: Id, was: Print }))
    .min(1)
    .max(20_000),
  /** A move, turn or mirror (geometry/motion.ts). */
  motion: z.tuple([Value, Value, Value, Value, Value, Value]),
});

/** The farthest that a machine's field reaches, mm. */
const FARTHEST = 1000;

/** Moves, turns or mirrors objects with the stitches that they have, and the ways between those of them that follow each other; none is sewn anew. */
export const placeObjects: OperationKind<typeof schema> = {
  schema,
  apply(design, { objects: asked, motion }) {
    if (!keepsLengths(motion)) return fail('a move, turn or mirror keeps lengths: scale the objects instead');
    const { plan } = design;
    const objects: Record<ObjectId, PlanObject> = { ...plan.objects };
    for (const { object: id, was } of asked) {
      const expected = expectObject(design, id, was);
      if (!expected.ok) return expected;
      const object = expected.value;
      const sewn = placeRows(plan, object.sewn, motion);
      const { program, first, end } = readRows(plan.source, sewn.rows);
      for (let i = first; i < end; i++)
        if (program.command[i] === STITCH && Math.max(Math.abs(program.x[i]!), Math.abs(program.y[i]!)) > FARTHEST)
          return fail(`${object.name} would lie more than ${FARTHEST} mm from the middle, farther than any hoop reaches`);
      objects[id] = { ...object, sewn, own: object.isDrawn ? null : (object.own ?? object.sewn) };
    }
    return withPlan(design, { ...plan, objects, ...placeWays(plan, new Set(asked.map(({ object }) => object)), motion) });
  },
};

/** The ways whose ends were all moved, moved with them. */
function placeWays(plan: Plan, moved: ReadonlySet<ObjectId>, motion: Motion): Pick<Plan, 'links' | 'ending'> {
  const order = orderOf(plan);
  const links: Record<ObjectId, Link> = { ...plan.links };
  order.forEach((id, k) => {
    if (moved.has(id) && (k === 0 || moved.has(order[k - 1]!))) links[id] = placeLink(plan, links[id]!, motion);
  });
  const isLastMoved = order.length > 0 && moved.has(order.at(-1)!);
  return { links, ending: isLastMoved ? placeLink(plan, plan.ending, motion) : plan.ending };
}
