import type { Recognition } from './recognizeProgram.ts';
import type { StitchObject } from '../model/stitchObject.ts';

/** An object as it stands in JSON: plain numbers and lists, rings as pairs, lengths in mm to the thousandth. */
export function publishObject(object: StitchObject): object {
  const { outline, holes, rails, path, thread: _, made, hasOwn: __, entry, exit, ...rest } = object;
  return {
    ...rest,
    outline: pairs(outline),
    holes: holes.map(pairs),
    ...(rails === undefined ? {} : { rails: { left: pairs(rails.left), right: pairs(rails.right) } }),
    ...(path === undefined ? {} : { path: pairs(path) }),
    ...(made === undefined ? {} : { spec: made.spec }),
    entry,
    exit,
  };
}

function pairs(points: Float64Array): [number, number][] {
  return Array.from({ length: points.length / 2 }, (_, k) => [thousandth(points[k * 2]!), thousandth(points[k * 2 + 1]!)]);
}

function thousandth(value: number): number {
  return Math.round(value * 1000) / 1000;
}

/** A row without an object of its own, such as a trim, looks so far back for one. */
const LOOK_BACK = 8;

/** The object that a row concerns: what lies there, in the place of a tie the object that it holds, and of a row that lays no thread the one before it. */
export function findConcernedObject(row: number, { objects, ownerOfRow }: Recognition): StitchObject | undefined {
  let owner = -1;
  for (let i = row; owner < 0 && i >= 0 && i > row - LOOK_BACK; i--) owner = ownerOfRow[i] ?? -1;
  return owner < 0 ? undefined : objects[heldBy(objects, owner)];
}

/** Of a tie the object beside it in the same thread, the one before it for a tie-off; of all others themselves. */
function heldBy(objects: readonly StitchObject[], index: number): number {
  const tie = objects[index]!;
  if (tie.role !== 'tie') return index;
  for (const beside of [index - 1, index + 1]) {
    const other = objects[beside];
    const isNext = other !== undefined && (other.last + 1 === tie.first || tie.last + 1 === other.first);
    if (isNext && other.role !== 'tie' && other.thread === tie.thread) return beside;
  }
  return index;
}
