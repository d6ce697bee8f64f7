import { generateObject } from '../generate/sew/generateObject.ts';
import type { Design } from '../model/design.ts';
import { COLOR, type Program, STITCH, STOP } from '../model/program.ts';
import type { RebuiltObject } from '../model/rebuilt.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import type { PatchRow } from '../model/rowValue.ts';
import type { ObjectShape, ObjectSpec } from '../model/objectSpec.ts';
import type { Recognition } from '../recognize/recognizeProgram.ts';
import { shapeOf, specOf } from '../recognize/read/specOf.ts';
import { layersUnder } from '../recognize/read/readUnderlay.ts';
import type { StitchObject, UnderlayLayer } from '../model/stitchObject.ts';
import type { SimpleOperation } from './operation.ts';
import { type Patch, replaceRows } from '../model/patch.ts';
import { findContext, RebuiltRows } from './rebuildRows.ts';

/** One object and what it is to be sewn like; null gives it its own stitches back. */
export interface SpecEdit {
  /** An id of the recognition. */
  readonly object: string;
  readonly spec: ObjectSpec | null;
  /** Another shape than it has. */
  readonly shape?: ObjectShape;
}

export interface RebuildReport {
  readonly object: string;
  /** Of what is known of it from now on. */
  readonly key: string;
  readonly name: string;
  /** Stitches in its place before and after. */
  readonly before: number;
  readonly after: number;
  /** What had to be put right or could not be as asked, in words. */
  readonly notes: readonly string[];
}

export interface Rebuild {
  /** In the order they apply, as one step; empty where nothing changed. */
  readonly operations: readonly SimpleOperation[];
  readonly done: readonly RebuildReport[];
  readonly refused: readonly { readonly object: string; readonly name: string; readonly why: string }[];
}

/**
 * Sews objects anew from their specs. A rebuilt object keeps its place in the order, its thread, its way in and its way out; its underlay and ties
 * go with it; nothing else in the program changes, but for the way to its neighbours where it now ends elsewhere.
 */
export function rebuildObjects(design: Design, recognition: Recognition, edits: readonly SpecEdit[]): Rebuild {
  const done: RebuildReport[] = [];
  const refused: { object: string; name: string; why: string }[] = [];
  const made: { patch: Patch; key: string; object: RebuiltObject | null }[] = [];
  for (const edit of edits) {
    const object = recognition.objects.find((o) => o.id === edit.object);
    if (object === undefined) {
      refused.push({ object: edit.object, name: edit.object, why: `there is no object ${edit.object}` });
      continue;
    }
    const result = edit.spec === null ? resetObject(design, object) : rebuildObject(design, recognition, object, edit.spec, edit.shape);
    if (!result.ok) {
      refused.push({ object: object.id, name: object.name, why: result.error });
      continue;
    }
    const overlapping = made.find(({ patch }) => isOverlapping(patch, result.value.patch));
    if (overlapping !== undefined) {
      refused.push({ object: object.id, name: object.name, why: 'it lies in the rows of an object that is rebuilt with it' });
      continue;
    }
    made.push(result.value);
    const count = (rows: readonly PatchRow[]): number => rows.filter((r) => r.command === 'stitch').length;
    const { patch, key, notes } = result.value;
    done.push({ object: object.id, key, name: object.name, before: count(patch.removed), after: count(patch.inserted), notes });
  }
  if (made.length === 0) return { operations: [], done, refused };
  made.sort((a, b) => a.patch.at - b.patch.at);
  let shift = 0;
  const records = made.map(({ patch, key, object }): SimpleOperation => {
    const moved = object === null ? null : shifted(object, shift);
    shift += patch.inserted.length - patch.removed.length;
    return { id: 'set-rebuilt', key, object: moved };
  });
  return { operations: [{ id: 'replace-rows', patches: made.map((m) => m.patch) }, ...records], done, refused };
}

function isOverlapping(a: Patch, b: Patch): boolean {
  return a.at < b.at + b.removed.length && b.at < a.at + a.removed.length;
}

function shifted(object: RebuiltObject, by: number): RebuiltObject {
  const move = <T extends { first: number; last: number }>(rows: T): T => ({ ...rows, first: rows.first + by, last: rows.last + by });
  return { ...move(object), parts: object.parts.map(move) };
}

type Made = Result<{ patch: Patch; key: string; object: RebuiltObject | null; notes: readonly string[] }, string>;

function resetObject({ program }: Design, object: StitchObject): Made {
  const { rebuilt } = object;
  if (rebuilt === undefined) return fail(`${object.name} has its own stitches already`);
  const patch = replaceRows(program, rebuilt.first, rebuilt.last - rebuilt.first + 1, rebuilt.own);
  return succeed({ patch, key: rebuilt.key, object: null, notes: [] });
}

function rebuildObject({ program }: Design, recognition: Recognition, object: StitchObject, asked: ObjectSpec, given?: ObjectShape): Made {
  const known = specOf(program, object);
  if (!known.ok) return known;
  const shape = given === undefined ? shapeOf(program, object) : succeed(given);
  if (!shape.ok) return shape;
  const place = findPlace(program, recognition, object);
  if (!place.ok) return place;
  const { first, last } = place.value;
  const context = findContext(program, first, last);
  const spec = object.rebuilt === undefined ? withoutStaying(asked, known.value, layersUnder(program, object), first) : asked;
  const generated = generateObject(shape.value, spec, { from: context.entry, to: context.exit });
  if (!generated.ok) return generated;
  const rows = new RebuiltRows(context, spec);
  for (const part of generated.value.parts) rows.add(part);
  rows.finish(shape.value);
  // A jump to where the object used to begin gives way to one to where it begins.
  const patch = replaceRows(program, context.from, last - context.from + 1, rows.rows);
  const key = object.rebuilt?.key ?? `rows-${first}-${last}-${program.rowCount}`;
  const own = object.rebuilt === undefined ? patch.removed : object.rebuilt.own;
  const parts = rows.parts.map((p) => ({ ...p, first: p.first + context.from, last: p.last + context.from }));
  const record = { key, first: context.from, last: context.from + rows.rows.length - 1, spec, shape: shape.value, parts, own };
  return succeed({ patch, key, object: record, notes: [...generated.value.notes, ...place.value.notes, ...rows.notes] });
}

/** A spec without the layers of underlay that stay where they are, as they are: those sewn before row `first`, where the object's own rows begin. */
function withoutStaying(spec: ObjectSpec, known: ObjectSpec, layers: readonly UnderlayLayer[], first: number): ObjectSpec {
  const staying = known.underlay.filter((_, k) => layers[k] !== undefined && layers[k].last < first).map((layer) => JSON.stringify(layer));
  const underlay = spec.underlay.filter((layer) => {
    const at = staying.indexOf(JSON.stringify(layer));
    if (at >= 0) staying.splice(at, 1);
    return at < 0;
  });
  return underlay.length === spec.underlay.length ? spec : { ...spec, underlay };
}

/** The rows that an object holds: its cover, and the underlay, travel and ties around it that no other object's rows part from it. */
function findPlace(
  program: Program,
  { objects, ownerOfRow }: Recognition,
  cover: StitchObject,
): Result<{ first: number; last: number; notes: string[] }, string> {
  if (cover.rebuilt !== undefined) return succeed({ first: cover.rebuilt.first, last: cover.rebuilt.last, notes: [] });
  const isOwn = (row: number): boolean => {
    const owner = ownerOfRow[row]!;
    const object = owner < 0 ? undefined : objects[owner];
    return (
      object === undefined || object === cover || object.parent === cover.id || (object.role === 'tie' && object.thread === cover.thread)
    );
  };
  for (let i = cover.first; i <= cover.last; i++)
    if (program.command[i] === STITCH && !isOwn(i)) return fail(`other objects are sewn between the parts of ${cover.name}; part it first`);
  const isHeld = (row: number): boolean => program.command[row] === STITCH && ownerOfRow[row]! >= 0 && isOwn(row);
  const members = objects.filter((o) => o.parent === cover.id);
  const low = Math.min(cover.first, ...members.map((o) => o.first));
  let first = cover.first;
  // Over jumps and trims only where more of its own follows beyond them.
  for (let i = cover.first - 1; i >= low; i--) {
    if (program.command[i] === STITCH && !isOwn(i)) break;
    if (program.command[i] === COLOR || program.command[i] === STOP) break;
    if (isHeld(i)) first = i;
  }
  let last = cover.last;
  while (last + 1 < program.rowCount && isTie(objects, ownerOfRow, last + 1, cover)) last++;
  while (first > 0 && isTie(objects, ownerOfRow, first - 1, cover)) first--;
  // The first penetration of a stretch lays no thread and belongs to what is sewn from it.
  if (first > 0 && program.command[first - 1] === STITCH && (first < 2 || program.command[first - 2] !== STITCH)) first--;
  const left = members.filter((o) => o.last < first && o.role === 'underlay').length;
  return succeed({
    first,
    last,
    notes: left > 0 ? [`${left} layer${left === 1 ? '' : 's'} of its underlay sewn before other objects stay`] : [],
  });
}

function isTie(objects: readonly StitchObject[], ownerOfRow: Int32Array, row: number, cover: StitchObject): boolean {
  const object = objects[ownerOfRow[row] ?? -1];
  return object?.role === 'tie' && object.thread === cover.thread;
}
