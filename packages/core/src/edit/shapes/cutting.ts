import { growRings, intersectRings, subtractRings, uniteAreas } from '../../geometry/region.ts';
import { orientRings, signedArea } from '../../geometry/ring.ts';
import type { Design } from '../../model/design.ts';
import { type ObjectId, orderOf } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { readObjectShape } from '../sewSpecs.ts';
import { cutLine } from './knife.ts';
import { acrossOf, asArea, coversAmong, Drawing, type Drawn, type NewId, ringsOf } from './drawing.ts';

/** What is left of an area smaller than this (mm²) is no shape to sew. */
const LEAST_LEFT = 1;

/** A fill by its area: what can be cut, grown and joined. */
function areaOf(design: Design, id: ObjectId): Result<{ name: string; rings: Float64Array[] }, string> {
  const object = design.plan.objects[id];
  if (object === undefined) return fail(`there is no object ${id}`);
  const shape = readObjectShape(design, id);
  if (!shape.ok) return fail(`${object.name}: ${shape.error}`);
  if (shape.value.kind !== 'area')
    return fail(`${object.name} is a ${shape.value.kind}, not an area: only areas are cut, joined and grown`);
  return succeed({ name: object.name, rings: ringsOf(design, id) });
}

/** Fills holes of objects that are narrower than `under` mm: what is sewn over them covers. */
export function fillHoles(design: Design, objects: readonly ObjectId[], under: number, newId: NewId): Result<Drawn, string> {
  const drawing = new Drawing(design, newId);
  for (const { id } of coversAmong(design, objects)) {
    const filled = sewThrough(drawing.design, id, (hole) => acrossOf(hole) < under, newId);
    if (filled.ok) drawing.take(filled.value);
  }
  return drawing.operations.length === 0 ? fail(`no object has a hole under ${under} mm across`) : drawing.finish();
}

/** Fills those of an object's holes that are wanted. */
export function sewThrough(design: Design, id: ObjectId, isWanted: (hole: Float64Array) => boolean, newId: NewId): Result<Drawn, string> {
  const area = areaOf(design, id);
  if (!area.ok) return area;
  const [outline, ...holes] = area.value.rings;
  const left = holes.filter((hole) => !isWanted(hole));
  if (left.length === holes.length) return fail(`${area.value.name} has no such hole`);
  const drawing = new Drawing(design, newId);
  const changed = drawing.change(id, { shape: asArea([outline!, ...left]) });
  if (!changed.ok) return changed;
  drawing.notes.push(`${area.value.name}: ${count(holes.length - left.length, 'hole')} filled`);
  return drawing.finish();
}

/** Takes out of an object what another covers, but for `keep` mm under that one's edge. */
export function carve(design: Design, object: ObjectId, by: ObjectId, keep: number, newId: NewId): Result<Drawn, string> {
  const area = areaOf(design, object);
  if (!area.ok) return area;
  const over = growRings(ringsOf(design, by), -keep);
  if (over.length === 0) return fail(`${nameOf(design, by)} is too narrow to leave ${keep} mm under its edge`);
  return leave(design, object, area.value, subtractRings(orientRings(area.value.rings), over), newId);
}

/** Cuts away from objects what lies behind another, and so far around it. */
export function cutAway(design: Design, objects: readonly ObjectId[], by: ObjectId, gap: number, newId: NewId): Result<Drawn, string> {
  const room = growRings(ringsOf(design, by), gap);
  if (room.length === 0) return fail(`${nameOf(design, by)} has no area`);
  let current = design;
  const parts: Drawn[] = [];
  for (const object of objects) {
    const line = readObjectShape(current, object);
    const area = areaOf(current, object);
    // An outline is cut open where it runs over something else.
    const isLine = line.ok && line.value.kind === 'line';
    if (!area.ok && !isLine) return area;
    const cut =
      isLine || !area.ok
        ? cutLine(current, object, room, newId)
        : leave(current, object, area.value, subtractRings(orientRings(area.value.rings), room), newId);
    if (!cut.ok) return cut;
    current = cut.value.design;
    parts.push(cut.value);
  }
  return succeed({
    operations: parts.flatMap((part) => part.operations),
    design: current,
    made: parts.flatMap((part) => part.made),
    notes: parts.flatMap((part) => part.notes),
  });
}

/** Lets an object reach `by` mm further under another, there only. */
export function reach(design: Design, object: ObjectId, under: ObjectId, by: number, newId: NewId): Result<Drawn, string> {
  const area = areaOf(design, object);
  if (!area.ok) return area;
  // A sliver of cloth between the two is gone over as well.
  const grown = intersectRings(growRings(area.value.rings, by), growRings(ringsOf(design, under), SLIVER));
  const whole = uniteAreas([...orientRings(area.value.rings), ...grown]);
  const [before, after] = [area.value.rings, whole].map(sizeOf);
  if (after! - before! < LEAST_GROWN) return fail(`${area.value.name} does not meet ${nameOf(design, under)}, or lies under it already`);
  return leave(design, object, area.value, whole, newId);
}

/** Edges that lie no farther apart than this (mm) are meant to meet. */
const SLIVER = 0.16;
/** Growing by less than this (mm²) is not growing. */
const LEAST_GROWN = 0.05;
/** Pieces are joined across a seam up to twice this wide, mm. */
const SEAM = 0.3;

/** Joins areas of one thread that touch, or lie no more than `across` mm apart, into the first of them. */
export function joinAreas(design: Design, objects: readonly ObjectId[], newId: NewId, across = 2 * SEAM): Result<Drawn, string> {
  const order = orderOf(design.plan);
  const ids = [...new Set(objects)].sort((a, b) => order.indexOf(a) - order.indexOf(b));
  if (ids.length < 2) return fail('joining takes two objects or more');
  const all: Float64Array[] = [];
  for (const id of ids) {
    const area = areaOf(design, id);
    if (!area.ok) return area;
    all.push(...orientRings(area.value.rings));
  }
  const colors = new Set(coversAmong(design, ids).map(({ color }) => color));
  if (colors.size > 1) return fail('they are sewn with different threads');
  const joined = growRings(growRings(uniteAreas(all), across / 2), -across / 2);
  if (joined.filter((ring) => signedArea(ring) > 0).length > 1) return fail(`they do not touch: more than ${across} mm lies between them`);
  const drawing = new Drawing(design, newId);
  const changed = drawing.change(ids[0]!, { shape: asArea(joined) });
  if (!changed.ok) return changed;
  const removed = drawing.remove(ids.slice(1));
  return removed.ok ? drawing.finish() : removed;
}

/** Gives an object what is left of its area: as one shape, or as one object a piece. */
function leave(
  design: Design,
  object: ObjectId,
  { name, rings }: { readonly name: string; readonly rings: readonly Float64Array[] },
  left: readonly Float64Array[],
  newId: NewId,
): Result<Drawn, string> {
  const outlines = left.filter((ring) => signedArea(ring) > LEAST_LEFT);
  if (outlines.length === 0) return fail(`nothing worth sewing would be left of ${name}`);
  if (Math.abs(sizeOf(rings) - sizeOf(left)) < LEAST_GROWN) return fail(`${name} stays as it is: they do not lie on each other`);
  const drawing = new Drawing(design, newId);
  const holes = left.filter((ring) => signedArea(ring) < -LEAST_HOLE);
  const changed = drawing.change(object, { shape: asArea([...outlines, ...holes]) });
  if (!changed.ok) return changed;
  if (outlines.length > 1) drawing.notes.push(`${name} comes to ${outlines.length} pieces`);
  return drawing.finish();
}

/** A hole smaller than this (mm²) closes under thread. */
const LEAST_HOLE = 0.2;

const sizeOf = (rings: readonly Float64Array[]): number => orientRings(rings).reduce((sum, ring) => sum + signedArea(ring), 0);
const nameOf = ({ plan }: Design, id: ObjectId): string => plan.objects[id]?.name ?? id;
const count = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;
