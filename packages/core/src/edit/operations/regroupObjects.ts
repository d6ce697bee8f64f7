import { z } from 'zod';
import type { Design } from '../../model/design.ts';
import { entryEnd, exitEnd, type Link, type ObjectId, orderOf, type Plan, type PlanObject } from '../../model/plan.ts';
import { readingFromJson, ReadingJson } from '../../model/readingJson.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { assemble, placeOf } from '../../plan/assemble.ts';
import { sliceRows } from '../../plan/sliceRows.ts';
import { expectObject, Id, Name, type OperationKind, Print, withPlan } from './kind.ts';

const RowNumber = z.number().int().nonnegative();

const Group = z.object({
  object: Id,
  name: Name,
  /** Which rows are its own, counted from the first of the first object that is taken apart; `end` not included. */
  first: RowNumber,
  end: RowNumber,
  reading: ReadingJson,
  parts: z.array(ReadingJson).max(20_000),
});

const schema = z.object({
  id: z.literal('regroup-objects'),
  /** Objects that follow each other in one block, and how each was sewn. */
  objects: z
    .array(z.object({ object: Id, was: Print }))
    .min(1)
    .max(4000),
  /** What their rows, the ways between them included, are from now on. Rows that are nobody's lead from one to the next. */
  by: z.array(Group).min(1).max(4000),
});

/** Takes the rows of objects for other objects: joined, parted, told or recognized anew. No stitch changes. */
export const regroupObjects: OperationKind<typeof schema> = {
  schema,
  apply(design, operation) {
    const ids = operation.objects.map(({ object }) => object);
    for (const { object, was } of operation.objects) {
      const expected = expectObject(design, object, was);
      if (!expected.ok) return expected;
    }
    const block = design.plan.blocks.find((b) => b.objects.includes(ids[0]!));
    const at = block === undefined ? -1 : block.objects.indexOf(ids[0]!);
    if (block === undefined || ids.some((id, k) => block.objects[at + k] !== id))
      return fail('these objects do not follow each other in one block any more');
    const made = regroup(design, ids, operation.by);
    if (!made.ok) return made;
    const blocks = design.plan.blocks.map((b) =>
      b === block ? { ...b, objects: b.objects.toSpliced(at, ids.length, ...operation.by.map((group) => group.object)) } : b,
    );
    return withPlan(design, { ...design.plan, blocks, ...made.value });
  },
};

function regroup(
  { plan, program }: Design,
  ids: readonly ObjectId[],
  by: z.infer<typeof schema>['by'],
): Result<Pick<Plan, 'objects' | 'links' | 'ending'>, string> {
  const [head, tail] = [placeOf(plan, ids[0]!), placeOf(plan, ids[ids.length - 1]!)];
  const base = head.first;
  const ordered = by.every(({ first, end }, k) => first >= (by[k - 1]?.end ?? 0) && end >= first);
  const last = by[by.length - 1]!;
  if (!ordered || by[0]!.first !== 0 || last.end !== tail.end - base)
    return fail('the new objects do not take in the rows of the old ones in order');
  const objects: Record<ObjectId, PlanObject> = { ...plan.objects };
  const links: Record<ObjectId, Link> = { ...plan.links };
  const old = plan.objects[ids[0]!]!;
  for (const id of ids) {
    delete objects[id];
    delete links[id];
  }
  const taken = by.find(({ object }) => object in objects);
  if (taken !== undefined) return fail(`there is an object ${taken.object} already`);
  for (const [k, group] of by.entries()) {
    const row = base + group.first;
    const start = k === 0 ? old.sewn.start : { x: program.x[row - 1]!, y: program.y[row - 1]! };
    // What is only told otherwise keeps the file's stitches beside its own.
    const isTold = ids.length === 1 && by.length === 1;
    objects[group.object] = {
      ...{ id: group.object, name: group.name, own: isTold ? old.own : null },
      sewn: {
        rows: sliceRows(plan, row, base + group.end),
        start,
        isOwnStart: k === 0 ? old.sewn.isOwnStart : group.first > by[k - 1]!.end,
        reading: readingFromJson(group.reading),
        parts: group.parts.map(readingFromJson),
        made: null,
        edited: isTold ? old.sewn.edited : 0,
      },
    };
  }
  const order = orderOf(plan);
  const [from, to] = [order.indexOf(ids[0]!), order.indexOf(ids[ids.length - 1]!)];
  const way = (before: ObjectId | null, next: ObjectId | null, first: number, end: number, ties: Link['ties']): Link => ({
    way: 'as-found',
    found: {
      after: before,
      rows: sliceRows(plan, first, end),
      from: before === null ? null : exitEnd(plan.source, objects[before]!.sewn),
      to: next === null ? null : entryEnd(objects[next]!.sewn),
    },
    ties,
  });
  const tiesOf = (link: Link, isFound: boolean): Link['ties'] => (isFound ? link.ties : []);
  links[by[0]!.object] = way(order[from - 1] ?? null, by[0]!.object, head.link, head.first, tiesOf(plan.links[ids[0]!]!, head.isWayFound));
  for (let k = 1; k < by.length; k++)
    links[by[k]!.object] = way(by[k - 1]!.object, by[k]!.object, base + by[k - 1]!.end, base + by[k]!.first, []);
  const next = order[to + 1];
  const { places, ending } = assemble(plan);
  if (next === undefined)
    return succeed({ objects, links, ending: way(last.object, null, ending.first, program.rowCount, tiesOf(plan.ending, ending.isFound)) });
  const after = places[to + 1]!;
  links[next] = way(last.object, next, after.link, after.first, tiesOf(plan.links[next]!, after.isWayFound));
  return succeed({ objects, links, ending: plan.ending });
}
