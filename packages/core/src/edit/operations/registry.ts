import { z } from 'zod';
import type { Design } from '../../model/design.ts';
import { type Result, succeed } from '../../model/result.ts';
import { addObject } from './addObject.ts';
import { editRows } from './editRows.ts';
import { keepFinding } from './keepFinding.ts';
import type { OperationKind } from './kind.ts';
import { layCloth } from './layCloth.ts';
import { lockObject } from './lockObject.ts';
import { moveObjects } from './moveObjects.ts';
import { placeObjects } from './placeObjects.ts';
import { regroupObjects } from './regroupObjects.ts';
import { removeObjects } from './removeObjects.ts';
import { renameObject } from './renameObject.ts';
import { reopenFinding } from './reopenFinding.ts';
import { resetObject } from './resetObject.ts';
import { setLink } from './setLink.ts';
import { setOrder } from './setOrder.ts';
import { setSpec } from './setSpec.ts';
import { setStop } from './setStop.ts';
import { setTarget } from './setTarget.ts';
import { tellCompensation } from './tellCompensation.ts';
import { turnObject } from './turnObject.ts';

const KINDS = [
  ...[
    setTarget,
    keepFinding,
    reopenFinding,
    setSpec,
    resetObject,
    editRows,
    setLink,
    regroupObjects,
    renameObject,
    moveObjects,
    tellCompensation,
    setOrder,
    setStop,
    turnObject,
    lockObject,
    addObject,
    removeObjects,
    placeObjects,
    layCloth,
  ],
] as unknown as readonly OperationKind<z.ZodObject>[];

/** One edit of one kind. */
export const SimpleOperation = z.discriminatedUnion('id', [
  setTarget.schema,
  keepFinding.schema,
  reopenFinding.schema,
  setSpec.schema,
  resetObject.schema,
  editRows.schema,
  setLink.schema,
  regroupObjects.schema,
  renameObject.schema,
  moveObjects.schema,
  tellCompensation.schema,
  setOrder.schema,
  setStop.schema,
  turnObject.schema,
  lockObject.schema,
  addObject.schema,
  removeObjects.schema,
  placeObjects.schema,
  layCloth.schema,
]);
export type SimpleOperation = z.infer<typeof SimpleOperation>;

/** Another thread for a file of the largest size sews as many objects anew. */
const MOST_AT_ONCE = 50_000;

const Sequence = z.object({ id: z.literal('sequence'), operations: z.array(SimpleOperation).max(MOST_AT_ONCE) });

/** An edit as data. A sequence is several simple ones that are done and undone as one step. */
export const Operation = z.union([SimpleOperation, Sequence]);
export type Operation = z.infer<typeof Operation>;

/** The kinds by their ids. @throws when two have the same. */
export function registerKinds(kinds: readonly OperationKind<z.ZodObject>[]): ReadonlyMap<string, OperationKind<z.ZodObject>> {
  const byId = new Map<string, OperationKind<z.ZodObject>>();
  for (const kind of kinds) {
    const id = (kind.schema.shape['id'] as z.ZodLiteral<string>).value;
    if (byId.has(id)) throw new RangeError(`two operations are called ${id}`);
    byId.set(id, kind);
  }
  return byId;
}

const BY_ID = registerKinds(KINDS);

/** The design after an operation, or the reason why it does not fit. Never changes the design it is given. */
export function applyOperation(design: Design, operation: Operation): Result<Design, string> {
  let current = design;
  for (const part of partsOf(operation)) {
    const next = BY_ID.get(part.id)!.apply(current, part);
    if (!next.ok) return next;
    current = next.value;
  }
  return succeed(current);
}

export function partsOf(operation: Operation): readonly SimpleOperation[] {
  return operation.id === 'sequence' ? operation.operations : [operation];
}
