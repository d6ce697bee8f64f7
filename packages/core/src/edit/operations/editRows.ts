import { z } from 'zod';
import type { Design } from '../../model/design.ts';
import { applyPatches, Patch } from '../../model/patch.ts';
import { entryEnd, exitEnd, type Link, orderOf, type Plan, type PlanObject } from '../../model/plan.ts';
import { END, type Program, ProgramBuilder } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import { assemble, placeOf } from '../../plan/assemble.ts';
import { movedBy } from '../../plan/movedBy.ts';
import { Id, type OperationKind, Print, withPlan } from './kind.ts';
import { printRows } from './printOf.ts';

const Edit = z.object({
  /** Whose rows: an object's own, those of the way to it, or (null) those after the last object. */
  object: Id.nullable(),
  part: z.enum(['rows', 'way']),
  /** How that part was sewn; earlier steps do not say it. */
  was: Print.optional(),
  /** Rows are counted from the first of that part; patches ascend. */
  patches: z.array(Patch).min(1).max(100_000),
});
export type RowEdit = z.infer<typeof Edit>;

const schema = z.object({ id: z.literal('edit-rows'), edits: z.array(Edit).min(1).max(20_000) });

/** Changes single rows of objects and of the ways between them, saying what stood there. */
export const editRows: OperationKind<typeof schema> = {
  schema,
  apply(design, { edits }) {
    const { plan } = design;
    for (const edit of edits) {
      const expected = expectPart(design, edit);
      if (!expected.ok) return expected;
    }
    const objects: Record<string, PlanObject> = { ...plan.objects };
    const links: Record<string, Link> = { ...plan.links };
    let { ending } = plan;
    for (const edit of edits.filter((e) => e.part === 'rows')) {
      const object = edit.object === null ? undefined : objects[edit.object];
      if (object === undefined) return fail(`there is no object ${edit.object ?? ''} any more`);
      const changed = changeObject(design, object, edit);
      if (!changed.ok) return changed;
      objects[object.id] = changed.value;
    }
    const order = orderOf(plan);
    // Nothing but the rows named is to change: the way that leads on stays as found, wherever the object ends now.
    for (const edit of edits.filter((e) => e.part === 'rows')) {
      const next = order[order.indexOf(edit.object!) + 1];
      const link = next === undefined ? ending : links[next]!;
      const isFound = next === undefined ? assemble(plan).ending.isFound : placeOf(plan, next).isWayFound;
      if (!isFound || link.found === null) continue;
      const leadsOn = { ...link, found: { ...link.found, from: exitEnd(plan.source, objects[edit.object!]!.sewn) } };
      if (next === undefined) ending = leadsOn;
      else links[next] = leadsOn;
    }
    for (const edit of edits.filter((e) => e.part === 'way')) {
      if (edit.object !== null && objects[edit.object] === undefined) return fail(`there is no object ${edit.object} any more`);
      const at = edit.object === null ? order.length : order.indexOf(edit.object);
      const before = at > 0 ? objects[order[at - 1]!]! : null;
      const next = edit.object === null ? null : objects[edit.object]!;
      const changed = changeWay(plan, edit, before, next);
      if (!changed.ok) return changed;
      if (edit.object === null) ending = changed.value;
      else links[edit.object] = changed.value;
    }
    return withPlan(design, { ...plan, objects, links, ending });
  },
};

/** Refuses where what is to be changed is sewn otherwise than the edit expects: what only inserts would fit anywhere. */
function expectPart({ plan, program }: Design, { object: id, part, was }: RowEdit): Result<undefined, string> {
  if (was === undefined || (id !== null && plan.objects[id] === undefined)) return succeed(undefined);
  const [first, end] = part === 'rows' && id !== null ? rowsOf(plan, id) : wayTo(plan, id);
  if (printRows(program, first, end) === was) return succeed(undefined);
  const name = id === null ? 'the end' : plan.objects[id]!.name;
  return fail(`${part === 'rows' ? name : `the way to ${name}`} was changed since this step was thought of`);
}

function rowsOf(plan: Plan, id: string): readonly [first: number, end: number] {
  const { first, end } = placeOf(plan, id);
  return [first, end];
}

/** The rows of the way to an object, or (null) of those after the last one. */
function wayTo(plan: Plan, id: string | null): readonly [first: number, end: number] {
  const { program, places, ending } = assemble(plan);
  const place = places.find((p) => p.id === id);
  return place === undefined ? [ending.first, program.rowCount] : [place.link, place.first];
}

function changeObject({ plan, program }: Design, object: PlanObject, { patches }: RowEdit): Result<PlanObject, string> {
  const place = placeOf(plan, object.id);
  const rows = slice(program, place.first, place.end);
  const changed = applyPatches(rows, patches);
  if (!changed.ok) return fail(`${object.name}: ${changed.error}`);
  if (changed.value.threads.length > 0) return fail(`${object.name}: a thread cannot be changed within an object`);
  const { sewn } = object;
  const move = (part: StitchObject): StitchObject => movedBy(part, patches, changed.value);
  const count = patches.reduce((sum, { removed, inserted }) => sum + Math.max(removed.length, inserted.length), 0);
  return succeed({
    ...object,
    sewn: { ...sewn, rows: changed.value, reading: move(sewn.reading), parts: sewn.parts.map(move), edited: sewn.edited + count },
    own: object.own ?? sewn,
  });
}

function changeWay(plan: Plan, { object: id, patches }: RowEdit, before: PlanObject | null, next: PlanObject | null): Result<Link, string> {
  const { program, places, ending } = assemble(plan);
  const place = places.find((p) => p.id === id);
  const [first, end] = place === undefined ? [ending.first, program.rowCount] : [place.link, place.first];
  const rows = slice(program, first, end);
  // What ends a program ends it still.
  const body = place === undefined ? withoutEnd(rows) : rows;
  const changed = applyPatches(body, patches);
  const link = id === null ? plan.ending : plan.links[id]!;
  if (!changed.ok) return fail(`the way to ${next?.name ?? 'the end'}: ${changed.error}`);
  const whole = new ProgramBuilder().copy(changed.value, 0, changed.value.rowCount).copy(rows, body.rowCount, rows.rowCount).build();
  const isFound = place === undefined ? ending.isFound : place.isWayFound;
  return succeed({
    way: 'as-found',
    found: {
      after: before?.id ?? null,
      rows: whole,
      from: before === null ? null : exitEnd(plan.source, before.sewn),
      to: next === null ? null : entryEnd(next.sewn),
    },
    ties: isFound ? link.ties.map((tie) => movedBy(tie, patches, whole)) : [],
  });
}

function slice(program: Program, first: number, end: number): Program {
  return new ProgramBuilder(end - first).copy(program, first, end).build();
}

function withoutEnd(rows: Program): Program {
  let end = rows.command.findIndex((command) => command === END);
  if (end < 0) end = rows.rowCount;
  return slice(rows, 0, end);
}
