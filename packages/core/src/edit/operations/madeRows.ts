import { z } from 'zod';
import { UNDERLAY_KINDS } from '../../model/kinds.ts';
import { ObjectShape, ObjectSpec } from '../../model/objectSpec.ts';
import { unpackRows } from '../../model/packedRows.ts';
import type { Sewn } from '../../model/plan.ts';
import type { Program } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import { readMade } from '../../plan/madeReading.ts';

const Coordinate = z.number().min(-1000).max(1000);
const RowNumber = z.number().int().nonnegative();

/** What an operation says of an object that is sewn from a spec. */
export const MADE_FIELDS = {
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
};
type Made = { [K in keyof typeof MADE_FIELDS]: z.infer<(typeof MADE_FIELDS)[K]> };

/** An object as its operation says that it is sewn; refused where rows and parts do not fit each other. */
export function sewnOf(
  who: Pick<StitchObject, 'id' | 'name' | 'role' | 'thread' | 'color'>,
  { spec, shape, start: [x, y], rows: packed, parts }: Made,
): Result<Sewn, string> {
  const rows = readPacked(packed);
  if (!rows.ok) return rows;
  const outside = parts.find((part) => part.last < part.first || part.last >= rows.value.rowCount);
  if (outside !== undefined)
    return fail(`a part of ${who.id} is said to be rows ${outside.first} to ${outside.last} of ${rows.value.rowCount}`);
  const start = { x, y };
  const read = readMade(who, spec, shape, rows.value, start, parts);
  return succeed({ rows: rows.value, start, isOwnStart: true, ...read, made: { spec, shape }, edited: 0 });
}

function readPacked(text: string): Result<Program, string> {
  try {
    return succeed(unpackRows(text));
  } catch (error) {
    if (error instanceof RangeError) return fail(error.message);
    throw error;
  }
}
