import type { StitchKind, StitchRole } from '../model/kinds.ts';
import type { Design } from '../model/design.ts';
import { type ObjectId, orderOf, type Plan } from '../model/plan.ts';
import { type Program, ProgramBuilder } from '../model/program.ts';
import { readingToJson } from '../model/readingJson.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { findBodies } from '../plan/adoptProgram.ts';
import { placeOf } from '../plan/assemble.ts';
import { countedFrom } from '../plan/countedFrom.ts';
import { recognizeAs } from '../recognize/recognizeAs.ts';
import { type Recognition, recognizeProgram } from '../recognize/recognizeProgram.ts';
import { printOf } from './operations/printOf.ts';
import type { SimpleOperation } from './operations/registry.ts';

type Regroup = Extract<SimpleOperation, { id: 'regroup-objects' }>;
type Group = Regroup['by'][number];

/** Objects that follow each other as one, which keeps the name of the first. Refused where they do not. */
export function joinObjects({ plan, program }: Design, ids: readonly ObjectId[]): Result<SimpleOperation, string> {
  const run = runOf(plan, ids);
  if (!run.ok) return run;
  const rows = rowsOf(plan, program, ids);
  const whole = pickWhole(recognizeAs(rows, { kind: 'join' }), 0, rows.rowCount - 1);
  if (whole === undefined) return fail('nothing is sewn there');
  return succeed(regroup(plan, ids, [groupOf(plan, ids[0]!, plan.objects[ids[0]!]!.name, 0, rows.rowCount - 1, whole)]));
}

/** An object parted so that its second part, `newId`, begins with the stitch that ends at a row of the assembled program. */
export function splitObject({ plan, program }: Design, id: ObjectId, row: number, newId: ObjectId): Result<SimpleOperation, string> {
  const object = plan.objects[id];
  if (object === undefined) return fail(`there is no object ${id}`);
  const { first, end } = placeOf(plan, id);
  if (row <= first || row >= end) return fail(`${object.name} is sewn by rows ${first} to ${end - 1}; part it between them`);
  const rows = rowsOf(plan, program, [id]);
  const at = row - first;
  const told = recognizeAs(rows, { kind: 'split', row: at + 1 });
  const [a, b] = [pickWhole(told, 0, at), pickWhole(told, at, end - first)];
  if (a === undefined || b === undefined) return fail('one part would have no stitches');
  return succeed(
    regroup(
      plan,
      [id],
      [groupOf(plan, id, object.name, 0, at, a), groupOf(plan, newId, `${object.name}, second part`, at, end - first, b)],
    ),
  );
}

/** An object taken for what somebody says that it is. Refused for what was made: that is known. */
export function tellObject({ plan, program }: Design, id: ObjectId, as: StitchKind, role: StitchRole): Result<SimpleOperation, string> {
  const object = plan.objects[id];
  if (object === undefined) return fail(`there is no object ${id}`);
  if (object.sewn.made !== null)
    return fail(`${object.name} is sewn from its spec, so what it is is known; give it its own stitches back first`);
  const rows = rowsOf(plan, program, [id]);
  const whole = pickWhole(recognizeAs(rows, { kind: 'tell', as, role }), 0, rows.rowCount - 1, role);
  if (whole === undefined) return fail('nothing is sewn there');
  return succeed(regroup(plan, [id], [groupOf(plan, id, object.name, 0, rows.rowCount - 1, whole)]));
}

/** What reading objects anew would change: the step that does it, and its changes in words; no operations where all is told as it is. */
export interface Rereading {
  readonly operations: readonly SimpleOperation[];
  readonly changes: readonly string[];
}

/**
 * Recognizes objects anew by the present rules, or all of a design; what was sewn from a spec is known and stays. Objects keep their ids and names
 * where most of their rows stay together.
 */
export function readAnew(design: Design, ids: readonly ObjectId[], newId: () => ObjectId): Rereading {
  const { plan, program } = design;
  const wanted = new Set(ids);
  const operations: SimpleOperation[] = [];
  const changes: string[] = [];
  for (const run of plan.blocks.flatMap(({ objects }) =>
    cutRuns(objects, (id) => wanted.has(id) && plan.objects[id]!.sewn.made === null),
  )) {
    const rows = rowsOf(plan, program, run);
    const bodies = findBodies(rows, recognizeProgram(rows));
    if (bodies.length === 0) continue;
    const base = placeOf(plan, run[0]!).first;
    const free = new Set(run);
    const by = bodies.map((body, k): Group => {
      const first = k === 0 ? 0 : body.first - 1;
      const end = k === bodies.length - 1 ? rows.rowCount - 1 : body.end - 1;
      const id = nearestOf(plan, free, base + first, base + end) ?? newId();
      free.delete(id);
      return groupOf(plan, id, plan.objects[id]?.name ?? body.main.name, first, end, body);
    });
    const said = [
      ...by.flatMap((group) => sayChange(plan, group)),
      ...[...free].map((id) => `${plan.objects[id]!.name} becomes part of another`),
    ];
    if (said.length === 0) continue;
    operations.push(regroup(plan, run, by));
    changes.push(...said);
  }
  return { operations, changes };
}

function runOf(plan: Plan, ids: readonly ObjectId[]): Result<true, string> {
  const order = orderOf(plan);
  const at = order.indexOf(ids[0] ?? '');
  if (ids.length < 2 || at < 0 || ids.some((id, k) => order[at + k] !== id))
    return fail('only objects that are sewn one right after the other can be joined');
  const block = plan.blocks.find((b) => b.objects.includes(ids[0]!))!;
  return ids.every((id) => block.objects.includes(id)) ? succeed(true) : fail('objects of different threads cannot be joined');
}

/** The rows of objects and the ways between them, after one row where the first of them starts. */
function rowsOf(plan: Plan, program: Program, ids: readonly ObjectId[]): Program {
  const [first, last] = [placeOf(plan, ids[0]!).first, placeOf(plan, ids[ids.length - 1]!).end];
  const { x, y } = plan.objects[ids[0]!]!.sewn.start;
  return new ProgramBuilder(last - first + 1).stitch(x, y).copy(program, first, last).build();
}

interface Whole {
  readonly main: StitchObject;
  readonly parts: readonly StitchObject[];
}

/** All that was told in rows `first` ≤ row < `end` (row 0 being the one after the start) as one object. */
function pickWhole({ objects }: Recognition, first: number, end: number, role?: StitchRole): Whole | undefined {
  const inside = objects.filter((o) => o.first >= first && o.last - 1 < end && o.last >= first + 1);
  const mains = inside.filter((o) =>
    role === undefined ? o.role === 'cover' || o.role === 'placement' || o.role === 'tackdown' : o.role === role,
  );
  const candidates = mains.length > 0 ? mains : inside;
  if (candidates.length === 0) return undefined;
  const main = candidates.reduce((a, b) => (b.stitches > a.stitches ? b : a));
  return { main, parts: inside.filter((o) => o !== main) };
}

function groupOf(plan: Plan, id: ObjectId, name: string, first: number, end: number, { main, parts }: Whole): Group {
  const old = plan.objects[id]?.sewn.reading;
  const ids = new Map(parts.map((part, k) => [part.id, `${id}.${k + 1}`]));
  // Rows of the mini program have the start before them; an object's rows are counted from its own first.
  const moved = (object: StitchObject): StitchObject => countedFrom(object, first + 1);
  const underlay = main.underlay.map((layer) => ({ ...layer, object: ids.get(layer.object) ?? layer.object }));
  const identity = { thread: old?.thread ?? main.thread, color: old?.color ?? main.color };
  return {
    ...{ object: id, name, first, end },
    reading: readingToJson(moved({ ...main, ...identity, id, name, underlay })),
    parts: parts.map((part) =>
      readingToJson(moved({ ...part, ...identity, id: ids.get(part.id)!, ...(part.parent === undefined ? {} : { parent: id }) })),
    ),
  };
}

function regroup(plan: Plan, ids: readonly ObjectId[], by: Group[]): Regroup {
  return { id: 'regroup-objects', objects: ids.map((object) => ({ object, was: printOf(plan, object) })), by };
}

function cutRuns(ids: readonly ObjectId[], isIn: (id: ObjectId) => boolean): ObjectId[][] {
  const runs: ObjectId[][] = [];
  let open: ObjectId[] | undefined;
  for (const id of ids) {
    if (!isIn(id)) open = undefined;
    else if (open === undefined) runs.push((open = [id]));
    else open.push(id);
  }
  return runs;
}

/** The object of some that has most of its rows between two rows. */
function nearestOf(plan: Plan, free: ReadonlySet<ObjectId>, first: number, end: number): ObjectId | undefined {
  let best: { id: ObjectId; rows: number } | undefined;
  for (const id of free) {
    const place = placeOf(plan, id);
    const rows = Math.min(end, place.end) - Math.max(first, place.first);
    if (rows > (place.end - place.first) / 2 && rows > (best?.rows ?? 0)) best = { id, rows };
  }
  return best?.id;
}

function sayChange(plan: Plan, { object, reading, name }: Group): string[] {
  const old = plan.objects[object]?.sewn.reading;
  const what = (o: Pick<StitchObject, 'kind' | 'role' | 'pattern'>): string => o.pattern ?? (o.role === 'cover' ? o.kind : o.role);
  if (old === undefined) return [`a new object: ${name}`];
  if (what(old) !== what(reading)) return [`${name}: ${what(old)}, would be told as ${what(reading)}`];
  if (old.stitches !== reading.stitches) return [`${name}: ${old.stitches} stitches, would be ${reading.stitches}`];
  return [];
}
