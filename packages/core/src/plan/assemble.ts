import { type ObjectId, type Plan, readRows } from '../model/plan.ts';
import { type Program, ProgramBuilder, STITCH } from '../model/program.ts';
import { rememberFew } from '../model/remember.ts';
import { sewWay } from './sewWay.ts';

/** Where an object lies in an assembled program. */
export interface ObjectPlace {
  readonly id: ObjectId;
  /** Index of the block that it is in. */
  readonly block: number;
  /** The first row of the way to it. */
  readonly link: number;
  /** Its own rows, `end` not included. */
  readonly first: number;
  readonly end: number;
  /** Whether the row before its first is the penetration where it starts. */
  readonly isDown: boolean;
  /** Whether the way to it is as it was found. */
  readonly isWayFound: boolean;
}

export interface Assembled {
  readonly program: Program;
  /** In sewing order. */
  readonly places: readonly ObjectPlace[];
  /** The first row of what follows the last object, and whether that is as it was found. */
  readonly ending: { readonly first: number; readonly isFound: boolean };
}

/** The rows of a plan, and where its objects lie in them. Worked out once for the plans asked for last. O(rows), by copying whole columns. */
export const assemble: (plan: Plan) => Assembled = rememberFew((plan) => {
  const { source, blocks, objects, links, ending } = plan;
  const out = new ProgramBuilder(source.rowCount + 64);
  const places: ObjectPlace[] = [];
  let before: ObjectId | null = null;
  for (const [block, { thread, objects: ids }] of blocks.entries()) {
    for (const [k, id] of ids.entries()) {
      const object = objects[id]!;
      const link = out.rowCount;
      const wanted = k === 0 && (block > 0 || thread !== null) ? thread : null;
      const isWayFound = sewWay(out, {
        source,
        before: before === null ? null : objects[before]!,
        next: object,
        link: links[id]!,
        thread: wanted,
      });
      const first = out.rowCount;
      const { x, y } = out.placeAt();
      const { start } = object.sewn;
      const isDown = out.commandAt() === STITCH && x === start.x && y === start.y;
      const rows = readRows(source, object.sewn.rows);
      out.copy(rows.program, rows.first, rows.end);
      places.push({ id, block, link, first, end: out.rowCount, isDown, isWayFound });
      before = id;
    }
  }
  const first = out.rowCount;
  const isFound = sewWay(out, { source, before: before === null ? null : objects[before]!, next: null, link: ending, thread: null });
  return { program: out.build(), places, ending: { first, isFound } };
});

/** The place of an object in the program assembled from a plan. @throws when the plan has no such object. */
export function placeOf(plan: Plan, id: ObjectId): ObjectPlace {
  const place = placesById(plan).get(id);
  if (place === undefined) throw new RangeError(`no object ${id}`);
  return place;
}

const placesById = rememberFew((plan: Plan) => new Map(assemble(plan).places.map((place) => [place.id, place])));
