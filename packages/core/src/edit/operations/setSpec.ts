import { z } from 'zod';
import { UNDERLAY_KINDS } from '../../model/kinds.ts';
import { ObjectShape, ObjectSpec } from '../../model/objectSpec.ts';
import { unpackRows } from '../../model/packedRows.ts';
import type { Program } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { readMade } from '../../plan/madeReading.ts';
import { expectObject, Id, type OperationKind, Print, withPlan } from './kind.ts';

const Coordinate = z.number().min(-1000).max(1000);
const RowNumber = z.number().int().nonnegative();

const schema = z.object({
  id: z.literal('set-spec'),
  object: Id,
  was: Print,
  spec: ObjectSpec,
  shape: ObjectShape,
  start: z.tuple([Coordinate, Coordinate]),
  /**
   * What was sewn from the spec, packed. It stands here because the same spec may be sewn otherwise by a later generator, or by the same one on
   * another machine, and a journal has to give the same rows ever after.
   */
  rows: z.string().min(1).max(16_000_000),
  parts: z
    .array(
      z.object({
        role: z.enum(['underlay', 'travel', 'cover', 'tie']),
        layer: z.enum(UNDERLAY_KINDS).optional(),
        first: RowNumber,
        last: RowNumber,
      }),
    )
    .min(1)
    .max(20_000),
});

/** Sews an object from a spec. What the file had is kept beside it. */
export const setSpec: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, was, spec, shape, start: [x, y], rows: packed, parts }) {
    const expected = expectObject(design, id, was);
    if (!expected.ok) return expected;
    const rows = readPacked(packed);
    if (!rows.ok) return rows;
    const outside = parts.find((part) => part.last < part.first || part.last >= rows.value.rowCount);
    if (outside !== undefined)
      return fail(`a part of ${id} is said to be rows ${outside.first} to ${outside.last} of ${rows.value.rowCount}`);
    const object = expected.value;
    const { sewn } = object;
    const start = { x, y };
    const { role } = sewn.reading;
    const read = readMade({ ...sewn.reading, id, name: object.name, role }, spec, shape, rows.value, start, parts);
    return withPlan(design, {
      ...design.plan,
      objects: {
        ...design.plan.objects,
        [id]: {
          ...object,
          sewn: { rows: rows.value, start, isOwnStart: true, ...read, made: { spec, shape }, edited: 0 },
          own: object.own ?? sewn,
        },
      },
    });
  },
  touched: ({ object }) => [object],
};

function readPacked(text: string): Result<Program, string> {
  try {
    return succeed(unpackRows(text));
  } catch (error) {
    if (error instanceof RangeError) return fail(error.message);
    throw error;
  }
}
