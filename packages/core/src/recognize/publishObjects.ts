import type { Recognition } from './recognizeProgram.ts';
import type { StitchObject } from '../model/stitchObject.ts';

/** An object as it stands in JSON: plain numbers and lists, rings as pairs, lengths in mm to the thousandth. */
export function publishObject(object: StitchObject): object {
  const { outline, holes, rails, path, thread: _, rebuilt, entry, exit, ...rest } = object;
  return {
    ...rest,
    outline: pairs(outline),
    holes: holes.map(pairs),
    ...(rails === undefined ? {} : { rails: { left: pairs(rails.left), right: pairs(rails.right) } }),
    ...(path === undefined ? {} : { path: pairs(path) }),
    ...(rebuilt === undefined ? {} : { spec: rebuilt.spec }),
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

/** A finding names no more objects than this; the rows have the others. */
const MOST_NAMED = 24;
/** A row without an object of its own, such as a trim, looks so far back for one. */
const LOOK_BACK = 8;

/**
 * Indices of the objects that some rows concern, in sewing order: what lies there, in the place of ties the object that they hold, and of a
 * row that lays no thread the object before it.
 */
export function findConcerned(rows: readonly number[], { objects, ownerOfRow }: Pick<Recognition, 'objects' | 'ownerOfRow'>): number[] {
  const concerned = new Set<number>();
  for (const row of rows) {
    let owner = -1;
    for (let i = row; owner < 0 && i >= 0 && i > row - LOOK_BACK; i--) owner = ownerOfRow[i] ?? -1;
    if (owner >= 0) concerned.add(heldBy(objects, owner));
    if (concerned.size >= MOST_NAMED) break;
  }
  return [...concerned].sort((a, b) => a - b);
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
