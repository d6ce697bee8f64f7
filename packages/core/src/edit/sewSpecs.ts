import type { Design } from '../model/design.ts';
import type { ObjectShape, ObjectSpec } from '../model/objectSpec.ts';
import { packRows } from '../model/packedRows.ts';
import { exitOf, isSourceRows, type ObjectId, readRows, type Sewn } from '../model/plan.ts';
import { type Program, STITCH } from '../model/program.ts';
import { remember } from '../model/remember.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import type { Point, StitchObject } from '../model/stitchObject.ts';
import { countedFrom } from '../plan/countedFrom.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { placeOf } from '../plan/assemble.ts';
import { sewObject } from '../plan/sewObject.ts';
import { layersUnder } from '../recognize/read/readUnderlay.ts';
import { shapeOf, specOf } from '../recognize/read/specOf.ts';
import { printOf } from './operations/printOf.ts';
import type { SimpleOperation } from './operations/registry.ts';

/** One object and what it is to be sewn like; null gives it its own stitches back. */
export interface SpecEdit {
  readonly object: ObjectId;
  readonly spec: ObjectSpec | null;
  /** Another shape than it has. */
  readonly shape?: ObjectShape;
  /** Where it is to begin and end, as far as its shape allows; where it does, where nothing is said. */
  readonly ends?: { readonly from: Point; readonly to: Point };
}

export interface SewnReport {
  readonly object: ObjectId;
  readonly name: string;
  /** Stitches of the object before and after, without the ways to it and from it. */
  readonly before: number;
  readonly after: number;
  /** What had to be put right or could not be as asked, in words. */
  readonly notes: readonly string[];
}

export interface SewnSpecs {
  /** In the order they apply, as one step; empty where nothing changed. */
  readonly operations: readonly SimpleOperation[];
  readonly done: readonly SewnReport[];
  readonly refused: readonly { readonly object: string; readonly name: string; readonly why: string }[];
}

/**
 * Sews objects anew from their specs. Each keeps its place in the order, its thread, and where it begins and ends as far as its shape allows; the ways
 * to its neighbours follow.
 */
export function sewSpecs(design: Design, edits: readonly SpecEdit[]): SewnSpecs {
  const operations: SimpleOperation[] = [];
  const done: SewnReport[] = [];
  const refused: { object: string; name: string; why: string }[] = [];
  for (const edit of edits) {
    const name = nameOf(design, edit.object);
    const result = edit.spec === null ? reset(design, edit.object) : sew(design, edit.object, edit.spec, edit);
    if (!result.ok) refused.push({ object: edit.object, name, why: result.error });
    else {
      operations.push(result.value.operation);
      done.push({ object: edit.object, name, ...result.value.report });
    }
  }
  return { operations, done, refused };
}

function nameOf({ plan }: Design, id: string): string {
  return plan.objects[id]?.name ?? objectsOf(plan).objects.find((o) => o.id === id)?.name ?? id;
}

type Made = Result<{ operation: SimpleOperation; report: Pick<SewnReport, 'before' | 'after' | 'notes'> }, string>;

function reset({ plan }: Design, id: ObjectId): Made {
  const object = plan.objects[id];
  if (object === undefined) return fail(`there is no object ${id}`);
  if (object.own === null) return fail(`${object.name} has its own stitches already`);
  const report = { before: countStitches(plan.source, object.sewn), after: countStitches(plan.source, object.own), notes: [] };
  return succeed({ operation: { id: 'reset-object', object: id, was: printOf(plan, id) }, report });
}

function sew(design: Design, id: ObjectId, asked: ObjectSpec, { shape: given, ends }: Pick<SpecEdit, 'shape' | 'ends'>): Made {
  const { plan } = design;
  const object = plan.objects[id];
  if (object === undefined) {
    const part = objectsOf(plan).objects.find((o) => o.id === id);
    return fail(part === undefined ? `there is no object ${id}` : `${part.name} is no cover; change the object that it belongs to`);
  }
  const known = readObjectSpec(design, id);
  // What is given a shape need not be told from its stitches.
  if (!known.ok && given === undefined) return known;
  const { sewn } = object;
  const shape = given === undefined ? readObjectShape(design, id) : succeed(given);
  if (!shape.ok) return shape;
  const spec = sewn.made === null ? withoutStaying(asked, staying(design, id)) : asked;
  const rows = sewObject(shape.value, spec, ends?.from ?? sewn.start, ends?.to ?? exitOf(plan.source, sewn));
  if (!rows.ok) return rows;
  const { start, parts, notes } = rows.value;
  const layers = staying(design, id).length;
  const operation: SimpleOperation = {
    ...{ id: 'set-spec', object: id, was: printOf(plan, id), spec, shape: shape.value, start: [start.x, start.y] },
    rows: packRows(rows.value.rows),
    parts: parts.map((part) => ({ ...part })),
  };
  return succeed({
    operation,
    report: {
      before: countStitches(plan.source, sewn),
      after: rows.value.rows.command.filter((command) => command === STITCH).length,
      notes: [
        ...notes,
        ...(layers > 0 ? [`${layers} layer${layers === 1 ? '' : 's'} of its underlay sewn before other objects stay`] : []),
        ...(sewn.edited > 0 ? [`${sewn.edited} stitch${sewn.edited === 1 ? '' : 'es'} changed by hand or by repairs gave way`] : []),
      ],
    },
  });
}

/** How an object is sewn: as it was made, or as recognized. Refused for what has no spec. */
export function readObjectSpec(design: Design, id: ObjectId): Result<ObjectSpec, string> {
  const { object, program } = readable(design, id);
  return specOf(program, object);
}

export function readObjectShape(design: Design, id: ObjectId): Result<ObjectShape, string> {
  const { object, program } = readable(design, id);
  return shapeOf(program, object);
}

/** An object with its rows counted in the program that it is read in: the file while it is sewn as that had it, else the present one. */
function readable(design: Design, id: ObjectId): { object: StitchObject; program: Program } {
  const { plan } = design;
  const { sewn } = plan.objects[id]!;
  const { rows } = sewn;
  if (sewn.made === null && isSourceRows(rows)) return { object: inSource(sewn), program: plan.source };
  const { first } = placeOf(plan, id);
  return { object: objectsOf(plan).objects.find((o) => o.id === id && o.last >= first)!, program: design.program };
}

/** What an object was found to be, with its rows counted in the file; remembered, so that its spec is read once. */
const inSource = remember(({ reading, rows }: Sewn) => countedFrom(reading, isSourceRows(rows) ? -rows.first : 0));

/** The layers of an object's underlay that are sewn before other objects, and so stay where they are. */
function staying(design: Design, id: ObjectId): string[] {
  const { sewn } = design.plan.objects[id]!;
  const known = readObjectSpec(design, id);
  if (sewn.made !== null || !known.ok) return [];
  const { object, program } = readable(design, id);
  const first = object.first - sewn.reading.first;
  const layers = layersUnder(program, object);
  return known.value.underlay.filter((_, k) => layers[k] !== undefined && layers[k].last < first - 1).map((layer) => JSON.stringify(layer));
}

function withoutStaying(spec: ObjectSpec, staying: readonly string[]): ObjectSpec {
  const left = [...staying];
  const underlay = spec.underlay.filter((layer) => {
    const at = left.indexOf(JSON.stringify(layer));
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
  return underlay.length === spec.underlay.length ? spec : { ...spec, underlay };
}

function countStitches(source: Program, { rows }: Sewn): number {
  const { program, first, end } = readRows(source, rows);
  let count = 0;
  for (let i = first; i < end; i++) if (program.command[i] === STITCH) count++;
  return count;
}
