import { growRings } from '../../geometry/region.ts';
import { boxOfRing, containsPoint, orientRings } from '../../geometry/ring.ts';
import { bandsOf, usualUnderlay } from '../../materials/specBands.ts';
import type { Design } from '../../model/design.ts';
import type { SpecKind } from '../../model/kinds.ts';
import { type ObjectShape, type ObjectSpec, USUAL_SPEC } from '../../model/objectSpec.ts';
import { packRows } from '../../model/packedRows.ts';
import { exitOf, type ObjectId, orderOf } from '../../model/plan.ts';
import type { ProgramThread } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { Point, StitchObject } from '../../model/stitchObject.ts';
import type { Target } from '../../model/target.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { ringsOfShape } from '../../plan/ringsOfShape.ts';
import { sewObject } from '../../plan/sewObject.ts';
import type { DRAWN_ROLES } from '../operations/addObject.ts';
import { printOf } from '../operations/printOf.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { readObjectShape, readObjectSpec, sewSpecs } from '../sewSpecs.ts';

/** What drawing came to: operations that apply one after another, the objects they make, and what had to be said, in words. */
export interface Drawn {
  readonly operations: readonly SimpleOperation[];
  readonly design: Design;
  readonly made: readonly ObjectId[];
  readonly notes: readonly string[];
}

/** Something that is to be drawn. */
export interface NewObject {
  readonly name: string;
  readonly role?: (typeof DRAWN_ROLES)[number];
  readonly thread: ProgramThread;
  /** What it is sewn before; null: it is sewn last. */
  readonly before: ObjectId | null;
  readonly isApart?: true;
  /** An object whose block it is sewn last in. */
  readonly beside?: ObjectId | undefined;
  readonly spec: ObjectSpec;
  readonly shape: ObjectShape;
}

/** Makes ids that no design has: given, so that the same drawing can be made twice. */
export type NewId = () => string;

/** A design that shapes are drawn on, one after another; each sees what was drawn before it. */
export class Drawing {
  design: Design;
  readonly operations: SimpleOperation[] = [];
  readonly made: ObjectId[] = [];
  readonly notes: string[] = [];
  private readonly newId: NewId;

  constructor(design: Design, newId: NewId) {
    this.design = design;
    this.newId = newId;
  }

  /** Draws an object; refused where it cannot be sewn. */
  add({ name, role = 'cover', thread, before, isApart, beside, spec, shape }: NewObject): Result<ObjectId, string> {
    const { plan } = this.design;
    const order = orderOf(plan);
    const at = before === null ? order.length : order.indexOf(before);
    const last = order[at - 1];
    const from = last === undefined ? middleOf(shape) : exitOf(plan.source, plan.objects[last]!.sewn);
    const to = before === null ? from : plan.objects[before]!.sewn.start;
    const sewn = sewObject(shape, spec, onto(shape, from), onto(shape, to));
    if (!sewn.ok) return fail(`${name}: ${sewn.error}`);
    const object = this.newId();
    const { start, parts, rows, notes } = sewn.value;
    this.notes.push(...notes.map((note) => `${name}: ${note}`));
    const into = beside === undefined ? undefined : plan.blocks.find((block) => block.objects.includes(beside))!.id;
    const done = this.perform({
      ...{ id: 'add-object', object, name, role, thread: { color: thread.color, name: thread.name }, before },
      ...{
        block: this.newId(),
        rest: this.newId(),
        ...(isApart === undefined ? {} : { isApart }),
        ...(into === undefined ? {} : { into }),
      },
      ...{ spec, shape, start: [start.x, start.y], rows: packRows(rows), parts: parts.map((part) => ({ ...part })) },
    });
    if (!done.ok) return done;
    this.made.push(object);
    return succeed(object);
  }

  /** Sews an object anew from a shape or a spec of another kind; what is left out stays. */
  change(
    object: ObjectId,
    change: { readonly shape?: ObjectShape; readonly spec?: (spec: ObjectSpec) => ObjectSpec },
  ): Result<ObjectId, string> {
    const known = readObjectSpec(this.design, object);
    if (!known.ok) return known;
    const spec = change.spec?.(known.value) ?? known.value;
    const { operations, done, refused } = sewSpecs(this.design, [
      { object, spec, ...(change.shape === undefined ? {} : { shape: change.shape }) },
    ]);
    if (refused.length > 0) return fail(`${refused[0]!.name}: ${refused[0]!.why}`);
    this.notes.push(...done.flatMap(({ name, notes }) => notes.map((note) => `${name}: ${note}`)));
    for (const operation of operations) {
      const next = this.perform(operation);
      if (!next.ok) return next;
    }
    return succeed(object);
  }

  /** Goes on from what was drawn on the same design. */
  take({ operations, design, made, notes }: Drawn): void {
    this.design = design;
    this.operations.push(...operations);
    this.made.push(...made);
    this.notes.push(...notes);
  }

  remove(objects: readonly ObjectId[]): Result<unknown, string> {
    const { plan } = this.design;
    return this.perform({ id: 'remove-objects', objects: objects.map((object) => ({ object, was: printOf(plan, object) })) });
  }

  stop(object: ObjectId, note: string): Result<unknown, string> {
    return this.perform({ id: 'set-stop', object, note });
  }

  perform(operation: SimpleOperation): Result<unknown, string> {
    const next = applyOperation(this.design, operation);
    if (!next.ok) return next;
    this.design = next.value;
    this.operations.push(operation);
    return next;
  }

  finish(): Result<Drawn, string> {
    if (this.operations.length === 0) return fail('nothing would change');
    const { operations, design, made, notes } = this;
    return succeed({ operations, design, made, notes: [...new Set(notes)] });
  }
}

/** Where an area begins or ends that is to do so at a place: there where it lies on it, else where the area is nearest to it. */
function onto(shape: ObjectShape, place: Point): Point {
  if (shape.kind !== 'area') return place;
  const rings = ringsOfShape(shape);
  if (containsPoint(rings, place.x, place.y)) return place;
  let [best, nearest] = [place, Infinity];
  for (const ring of rings)
    for (let k = 0; k < ring.length; k += 2) {
      const [x0, y0] = [ring[k]!, ring[k + 1]!];
      const [dx, dy] = [ring[(k + 2) % ring.length]! - x0, ring[(k + 3) % ring.length]! - y0];
      const t = Math.min(1, Math.max(0, ((place.x - x0) * dx + (place.y - y0) * dy) / (dx * dx + dy * dy || 1)));
      const at = { x: x0 + t * dx, y: y0 + t * dy };
      const away = Math.hypot(at.x - place.x, at.y - place.y);
      if (away < nearest) [best, nearest] = [at, away];
    }
  return best;
}

function middleOf(shape: ObjectShape): Point {
  const points = shape.kind === 'line' ? shape.path : shape.kind === 'column' ? shape.left : (shape.rings[0] ?? []);
  return { x: points[0] ?? 0, y: points[1] ?? 0 };
}

/** A spec of a kind as a cloth wants it, its underlay too. Lengths in mm. */
export function specFor(target: Target, kind: SpecKind, more: Partial<ObjectSpec> = {}): ObjectSpec {
  const asked: ObjectSpec = { ...USUAL_SPEC, kind, ...more };
  const bands = bandsOf(asked, target, 0);
  const fitted = {
    ...asked,
    ...Object.fromEntries(Object.entries(bands).map(([value, band]) => [value, Math.round(band.best * 100) / 100])),
    ...more,
  };
  const underlay = more.underlay ?? usualUnderlay(fitted, target, { width: fitted.width }).layers;
  return { ...fitted, underlay };
}

/** What an object covers (outline first, then holes, mm); nothing of a line. */
export function ringsOf(design: Design, id: ObjectId): Float64Array[] {
  const shape = design.plan.objects[id] === undefined ? undefined : readObjectShape(design, id);
  if (shape?.ok === true) {
    const rings = ringsOfShape(shape.value);
    if (rings.length > 0) return rings;
  }
  const object = objectsOf(design.plan).objects.find((one) => one.id === id);
  return object === undefined || object.outline.length < 6 ? [] : [object.outline, ...object.holes];
}

/** A recognized edge shows the turns of rows: bumps up to so deep (mm) are none of its shape. */
const BUMP = 0.4;

/** The same to go along: as it was drawn, or as recognized without the bumps that rows make. Rings of lines and slivers are none. */
export function edgesOf(design: Design, id: ObjectId): Float64Array[] {
  const rings = ringsOf(design, id);
  if (rings.length === 0 || design.plan.objects[id]?.sewn.made != null) return orientRings(rings);
  const even = growRings(growRings(growRings(rings, BUMP), -2 * BUMP), BUMP);
  return even.length === 0 ? orientRings(rings) : even;
}

/** The line that an object is sewn along, where it is one. */
export function lineOf(design: Design, id: ObjectId): Float64Array | undefined {
  const object = objectsOf(design.plan).objects.find((one) => one.id === id);
  return object?.kind === 'run' ? object.path : undefined;
}

/** Objects that are meant to be seen, in sewing order, among those that are named; all where none is. */
export function coversAmong(design: Design, ids: readonly ObjectId[]): StitchObject[] {
  const wanted = new Set(ids);
  return objectsOf(design.plan).objects.filter(
    ({ id, role }) => design.plan.objects[id] !== undefined && role === 'cover' && (wanted.size === 0 || wanted.has(id)),
  );
}

/** The thread of a color that a design has, or one without a name. */
export function threadOf({ plan }: Design, color: string): ProgramThread {
  return plan.blocks.find((block) => block.thread?.color === color)?.thread ?? { color, name: '' };
}

/** What is sewn right after some objects; null: nothing. */
export function nextAfter({ plan }: Design, ids: readonly ObjectId[]): ObjectId | null {
  const order = orderOf(plan);
  const last = Math.max(...ids.map((id) => order.indexOf(id)));
  return order[last + 1] ?? null;
}

export const asArea = (rings: readonly Float64Array[]): ObjectShape => ({ kind: 'area', rings: rings.map((ring) => [...ring]) });

/** A ring as a line that ends where it begins. */
export const asClosedLine = (ring: Float64Array): ObjectShape => ({ kind: 'line', path: [...ring, ring[0]!, ring[1]!] });

/** The smaller of a ring's width and height, mm. */
export function acrossOf(ring: Float64Array): number {
  const [minX, minY, maxX, maxY] = boxOfRing(ring);
  return Math.min(maxX - minX, maxY - minY);
}
