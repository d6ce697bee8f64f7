import { z } from 'zod';
import { ObjectShape, ObjectSpec } from './objectSpec.ts';
import { UNDERLAY_KINDS } from './kinds.ts';
import { type PatchRow, RowValue } from './rowValue.ts';

const RowNumber = z.number().int().nonnegative();

/** Rows of one part of a rebuilt object, both ends included. */
export const RebuiltPart = z.object({
  role: z.enum(['underlay', 'travel', 'cover', 'tie']),
  layer: z.enum(UNDERLAY_KINDS).optional(),
  first: RowNumber,
  last: RowNumber,
});
export type RebuiltPart = z.infer<typeof RebuiltPart>;

/**
 * An object whose stitches were generated from its spec: what it is need not be recognized any more. Its own rows are kept, so that it can be
 * given back what the file had.
 */
export const RebuiltObject = z.object({
  /** Stays the same however often the object is rebuilt. */
  key: z.string().min(1).max(80),
  /** The rows in its place, ties, underlay and jumps between its parts included. */
  first: RowNumber,
  last: RowNumber,
  spec: ObjectSpec,
  shape: ObjectShape,
  /** Ascending. */
  parts: z.array(RebuiltPart),
  /** What the file had in its place. */
  own: z.array(RowValue),
});
export type RebuiltObject = z.infer<typeof RebuiltObject>;

/** Whose rows change by how much: as a patch says it. */
interface RowChange {
  readonly at: number;
  readonly removed: readonly PatchRow[];
  readonly inserted: readonly PatchRow[];
}

/** Where a row is after changes that stand in ascending order; a row that is gone becomes the one in its place. */
export function moveRow(row: number, changes: readonly RowChange[]): number {
  let shift = 0;
  for (const { at, removed, inserted } of changes) {
    if (row < at) break;
    if (row < at + removed.length) return at + shift + Math.min(row - at, Math.max(0, inserted.length - 1));
    shift += inserted.length - removed.length;
  }
  return row + shift;
}

/** A rebuilt object with its rows counted as after changes. */
export function moveRebuilt(object: RebuiltObject, changes: readonly RowChange[]): RebuiltObject {
  if (changes.every(({ at }) => at > object.last)) return object;
  const move = (row: number): number => moveRow(row, changes);
  return {
    ...object,
    first: move(object.first),
    last: move(object.last),
    parts: object.parts.map((part) => ({ ...part, first: move(part.first), last: move(part.last) })),
  };
}

/** Whether changes touch rows of a rebuilt object, so that moving it there and back may not bring it where it was. */
export function isTouched({ first, last }: RebuiltObject, changes: readonly RowChange[]): boolean {
  return changes.some(({ at, removed }) => at <= last && at + removed.length > first);
}
