import { z } from 'zod';
import { keepsLengths } from '../../geometry/motion.ts';
import { STITCH } from '../../model/program.ts';
import { readRows } from '../../model/plan.ts';
import { fail } from '../../model/result.ts';
import { placeRows } from '../../plan/placeRows.ts';
import { expectObject, Id, type OperationKind, Print, withPlan } from './kind.ts';

const Value = z.number().min(-4000).max(4000);

const schema = z.object({
  id: z.literal('place-object'),
  object: Id,
  was: Print,
  /** A move, turn or mirror (geometry/motion.ts). */
  motion: z.tuple([Value, Value, Value, Value, Value, Value]),
});

/** The farthest that a machine's field reaches, mm. */
const FARTHEST = 1000;

/** Moves, turns or mirrors an object with the stitches that it has; none is sewn anew. */
export const placeObject: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, was, motion }) {
    const expected = expectObject(design, id, was);
    if (!expected.ok) return expected;
    if (!keepsLengths(motion)) return fail('a move, turn or mirror keeps lengths: scale the object instead');
    const object = expected.value;
    const { plan } = design;
    const sewn = placeRows(plan, object.sewn, motion);
    const { program, first, end } = readRows(plan.source, sewn.rows);
    for (let i = first; i < end; i++)
      if (program.command[i] === STITCH && Math.max(Math.abs(program.x[i]!), Math.abs(program.y[i]!)) > FARTHEST)
        return fail(`${object.name} would lie more than ${FARTHEST} mm from the middle, farther than any hoop reaches`);
    const own = object.isDrawn ? null : (object.own ?? object.sewn);
    return withPlan(design, { ...plan, objects: { ...plan.objects, [id]: { ...object, sewn, own } } });
  },
  touched: ({ object }) => [object],
};
