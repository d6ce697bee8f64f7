import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import {
  applyOperation,
  baseFromJson,
  baseToJson,
  defaultTarget,
  type Design,
  historyFrom,
  type JournalEntry,
  makeBase,
  objectsOf,
  type ObjectSpec,
  type Operation,
  readObjectSpec,
  readStitchFile,
  sewSpecs,
} from '@isola/core';

/** Steps that a digitizer makes of a file of the demo, each on top of the ones before: fills and satins sewn anew, names, places that are kept. */
export function stepsOn(file: string, count: number): { readonly operations: readonly Operation[]; readonly objects: readonly string[] } {
  const read = readStitchFile(readFileSync(file));
  if (!read.ok) throw new Error(read.error.message);
  const made = makeBase(read.value.program, defaultTarget(), []);
  if (!made.ok) throw new Error(made.error);
  // As the server gets it: through JSON.
  let { design } = historyFrom(baseFromJson(baseToJson(made.value), read.value.program));
  const objects = objectsOf(design.plan).objects.filter(({ role }) => role === 'cover');
  const sewn = objects.filter(({ id, kind }) => kind !== 'run' && readObjectSpec(design, id).ok);
  const operations: Operation[] = [];
  for (let k = 0; operations.length < count; k++) {
    const operation = k % 3 === 0 ? respec(design, sewn[k % sewn.length]!.id, k) : light(objects[k % objects.length]!.id, k);
    const next = operation === undefined ? undefined : applyOperation(design, operation);
    if (next?.ok !== true) continue;
    operations.push(operation!);
    design = next.value;
  }
  return { operations, objects: objects.map(({ id }) => id) };
}

function respec(design: Design, object: string, k: number): Operation | undefined {
  const spec = readObjectSpec(design, object);
  if (!spec.ok) return undefined;
  const changed: ObjectSpec = { ...spec.value, spacing: 0.38 + (k % 5) / 50 };
  const { operations } = sewSpecs(design, [{ object, spec: changed }]);
  return operations.length === 0 ? undefined : { id: 'sequence', operations: [...operations] };
}

const light = (object: string, k: number): Operation =>
  k % 2 === 0
    ? { id: 'rename-object', object, name: `Piece ${k}` }
    : { id: 'keep-finding', places: [`place ${k}`], rule: 'needless-trim', title: `place ${k}`, reason: 'wanted so' };

export const entryOf = (operation: Operation, name: string = operation.id): JournalEntry => ({
  id: randomUUID(),
  kind: 'do',
  name,
  operation,
});
