import { growLines, growRings, uniteAreas } from '../../geometry/region.ts';
import { containsPoint, orientRings, signedArea } from '../../geometry/ring.ts';
import { offsetRings } from '../../geometry/offset.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectSpec } from '../../model/objectSpec.ts';
import { type ObjectId, orderOf } from '../../model/plan.ts';
import { fail, type Result } from '../../model/result.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import { readObjectSpec } from '../sewSpecs.ts';
import {
  asArea,
  asClosedLine,
  coversAmong,
  Drawing,
  edgesOf,
  type Drawn,
  lineOf,
  type NewId,
  nextAfter,
  ringsOf,
  specFor,
  threadOf,
} from './drawing.ts';

export const OUTLINES = ['satin', 'run', 'triple', 'edge'] as const;
export const OUTLINE_PLACES = ['center', 'inside', 'outside'] as const;
export const OVERLAPS = ['whole', 'merged', 'trimmed'] as const;

export interface OutlineAsk {
  readonly objects: readonly ObjectId[];
  readonly as: (typeof OUTLINES)[number];
  /** Of a satin or an edge stitch, mm. */
  readonly width: number;
  readonly place: (typeof OUTLINE_PLACES)[number];
  /** From the edge, mm: inward where it lies inside, else outward. */
  readonly offset: number;
  /** Where outlines overlap: each whole, one around all, or what a later object hides left out. */
  readonly overlap: (typeof OVERLAPS)[number];
  /** None: the color of each object. */
  readonly color?: string | undefined;
}

/** Outlines objects, on top of what is outlined; a satin on the edge of a fill takes the edge run out from beneath it. */
export function outline(design: Design, ask: OutlineAsk, newId: NewId): Result<Drawn, string> {
  const covers = coversAmong(design, ask.objects).filter(({ id }) => ringsOf(design, id).length > 0);
  if (covers.length === 0) return fail('only areas and columns have an edge to outline');
  const drawing = new Drawing(design, newId);
  const before = nextAfter(
    design,
    covers.map(({ id }) => id),
  );
  const spec = outlineSpec(design, ask);
  const groups = ask.overlap === 'merged' ? [covers] : covers.map((cover) => [cover]);
  for (const group of groups) {
    const rings = uniteAreas(group.flatMap(({ id }) => edgesOf(design, id)));
    const lines = moved(rings, distanceOf(ask)).flatMap((ring) =>
      ask.overlap === 'trimmed' ? shown(ring, hiding(design, group[0]!)) : [asClosedLine(ring)],
    );
    const name = group.length === 1 ? group[0]!.name : 'the design';
    if (lines.length === 0) drawing.notes.push(`${name} gets none: its shape is too narrow for that distance, or hidden`);
    for (const shape of lines) {
      const thread = threadOf(design, ask.color ?? group[0]!.color);
      const added = drawing.add({ name: `Outline of ${name}`.slice(0, 200), thread, before, spec, shape });
      if (!added.ok) return added;
    }
  }
  if (drawing.made.length === 0) return fail(drawing.notes.join('; '));
  if (ask.as === 'satin' && ask.place !== 'outside') dropEdgeRuns(drawing, covers);
  return drawing.finish();
}

function outlineSpec({ target }: Design, { as, width }: OutlineAsk): ObjectSpec {
  if (as === 'satin') return { ...specFor(target, 'satin', { width }), pull: 0 };
  if (as === 'edge') return specFor(target, 'edge-stitch', { width });
  return specFor(target, 'run', { passes: as === 'triple' ? 3 : 1 });
}

/** How far the line of an outline lies outside of the edge, mm. */
function distanceOf({ as, width, place, offset }: OutlineAsk): number {
  const half = as === 'satin' ? width / 2 : 0;
  if (place === 'inside') return -(half + offset);
  return place === 'outside' ? half + offset : offset;
}

const moved = (rings: readonly Float64Array[], distance: number): Float64Array[] =>
  distance === 0 ? [...rings] : offsetRings(rings, distance).filter((ring) => Math.abs(signedArea(ring)) > LEAST_AREA);

/** Rings smaller than this (mm²) are no shapes to go around. */
const LEAST_AREA = 0.3;

/** What is sewn later over an object, as areas. */
function hiding(design: Design, { id }: StitchObject): Float64Array[][] {
  const order = orderOf(design.plan);
  return coversAmong(design, [])
    .filter((other) => order.indexOf(other.id) > order.indexOf(id) && other.kind !== 'run')
    .map((other) => ringsOf(design, other.id))
    .filter((rings) => rings.length > 0);
}

/** Edges are looked at every so often, mm. */
const STEP = 0.1;
/** What is seen of an edge for less than this (mm) is left out. */
const LEAST_SEEN = 0.8;

/** The stretches of a ring that no area hides, as lines; the whole ring where none does. */
function shown(ring: Float64Array, areas: readonly Float64Array[][]): ReturnType<typeof asClosedLine>[] {
  const points = dense(ring);
  const isSeen = points.map(([x, y]) => !areas.some((rings) => containsPoint(rings, x, y)));
  if (isSeen.every(Boolean)) return [asClosedLine(ring)];
  const first = isSeen.indexOf(false);
  const out: number[][] = [];
  let run: number[] = [];
  for (let k = 1; k <= points.length; k++) {
    const at = (first + k) % points.length;
    if (isSeen[at]) run.push(...points[at]!);
    else {
      if (run.length / 2 > LEAST_SEEN / STEP) out.push(run);
      run = [];
    }
  }
  return out.map((path) => ({ kind: 'line', path }));
}

function dense(ring: Float64Array): [number, number][] {
  const out: [number, number][] = [];
  for (let k = 0; k < ring.length; k += 2) {
    const [x0, y0] = [ring[k]!, ring[k + 1]!];
    const [x1, y1] = [ring[(k + 2) % ring.length]!, ring[(k + 3) % ring.length]!];
    const parts = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / STEP));
    for (let p = 0; p < parts; p++) out.push([x0 + ((x1 - x0) * p) / parts, y0 + ((y1 - y0) * p) / parts]);
  }
  return out;
}

/** Under an outline on its edge a fill needs no edge run: tatami alone. Common practice. */
function dropEdgeRuns(drawing: Drawing, covers: readonly StitchObject[]): void {
  for (const { id, name, kind } of covers) {
    const spec = readObjectSpec(drawing.design, id);
    if (kind !== 'fill' || !spec.ok || !spec.value.underlay.some((layer) => layer.kind === 'edge-run')) continue;
    const changed = drawing.change(id, { spec: (s) => ({ ...s, underlay: s.underlay.filter((layer) => layer.kind !== 'edge-run') }) });
    drawing.notes.push(
      changed.ok ? `${name}: its edge run was taken out, since the outline covers its edge` : `its edge run stays: ${changed.error}`,
    );
  }
}

/** What some objects cover together, lines as thin as thread among them. */
export function groundOf(design: Design, objects: readonly ObjectId[]): Float64Array[] {
  const covers = coversAmong(design, objects);
  const areas = covers.flatMap(({ id }) => orientRings(ringsOf(design, id)));
  const lines = covers.flatMap(({ id }) => (ringsOf(design, id).length > 0 ? [] : (lineOf(design, id) ?? [])));
  return uniteAreas([...areas, ...(lines.length === 0 ? [] : growLines(lines, THREAD))]);
}

/** Half of what a line covers, mm. */
const THREAD = 0.2;

/** Outlines without their holes. */
const filledIn = (rings: readonly Float64Array[]): Float64Array[] => rings.filter((ring) => signedArea(ring) > 0);

export interface BorderAsk {
  readonly objects: readonly ObjectId[];
  readonly distance: number;
  readonly width: number;
  readonly color?: string | undefined;
}

/** A satin border around objects at a distance, sewn last, as a patch has. */
export function border(design: Design, { objects, distance, width, color }: BorderAsk, newId: NewId): Result<Drawn, string> {
  const ground = groundOf(design, objects);
  if (ground.length === 0) return fail('there is nothing that a border could go around');
  const drawing = new Drawing(design, newId);
  const last = coversAmong(design, []).at(-1)!;
  const rings = filledIn(growRings(filledIn(ground), distance + width / 2));
  for (const [k, ring] of rings.entries()) {
    const added = drawing.add({
      name: rings.length === 1 ? 'Border' : `Border ${k + 1}`,
      thread: threadOf(design, color ?? last.color),
      before: null,
      spec: { ...specFor(design.target, 'satin', { width }), pull: 0 },
      shape: asClosedLine(ring),
    });
    if (!added.ok) return added;
  }
  return drawing.finish();
}

export interface BackingAsk {
  readonly objects: readonly ObjectId[];
  readonly margin: number;
  readonly holes: 'sew' | 'keep';
  readonly color?: string | undefined;
}

/** A closed fill beneath objects, sewn first, a margin wider than they are. */
export function backing(design: Design, { objects, margin, holes, color }: BackingAsk, newId: NewId): Result<Drawn, string> {
  return beneath(design, objects, margin, holes === 'keep', newId, {
    name: 'Backing',
    color: color ?? design.target.clothColor,
    spec: specFor(design.target, 'fill'),
  });
}

/** Open rows hold the pile down at this pitch, mm. Common practice: open fills run at 1 to 2 mm. */
const NAP_PITCH = 1.6;

/** An open layer in the cloth's color that holds its pile, sewn first, a margin wider than the design; what the design leaves open stays open. */
export function nap(
  design: Design,
  { objects, margin, color }: { readonly objects: readonly ObjectId[]; readonly margin: number; readonly color?: string | undefined },
  newId: NewId,
): Result<Drawn, string> {
  const spec = { ...specFor(design.target, 'fill', { spacing: NAP_PITCH, isOpen: true, underlay: [], angle: 45 }), pull: 0 };
  const drawn = beneath(design, objects, margin, true, newId, { name: 'Nap layer', color: color ?? design.target.clothColor, spec });
  const { fabric, rules } = design.target;
  if (!drawn.ok || fabric.topping === '' || rules?.schools.topping === 'without') return drawn;
  const drawing = new Drawing(drawn.value.design, newId);
  const next = nextAfter(drawing.design, drawn.value.made);
  if (next === null) return drawn;
  const stopped = drawing.stop(next, `Lay the ${fabric.topping} topping`);
  if (!stopped.ok) return stopped;
  return {
    ...drawn,
    value: {
      ...drawn.value,
      operations: [...drawn.value.operations, ...drawing.operations],
      design: drawing.design,
      notes: [...drawn.value.notes, `the machine stops after it for the ${fabric.topping} topping`],
    },
  };
}

function beneath(
  design: Design,
  objects: readonly ObjectId[],
  margin: number,
  hasHoles: boolean,
  newId: NewId,
  { name, color, spec }: { readonly name: string; readonly color: string; readonly spec: ObjectSpec },
): Result<Drawn, string> {
  const ground = groundOf(design, objects);
  if (ground.length === 0) return fail('there is nothing that it could lie beneath');
  const region = growRings(hasHoles ? ground : filledIn(ground), margin);
  const drawing = new Drawing(design, newId);
  const outlines = filledIn(hasHoles ? region : filledIn(region));
  const first = orderOf(design.plan)[0] ?? null;
  for (const [k, ring] of outlines.entries()) {
    const inside = hasHoles ? region.filter((hole) => signedArea(hole) < 0 && containsPoint([ring], hole[0]!, hole[1]!)) : [];
    const added = drawing.add({
      ...{ name: outlines.length === 1 ? name : `${name} ${k + 1}`, thread: threadOf(design, color), before: first, spec },
      shape: asArea([ring, ...inside]),
    });
    if (!added.ok) return added;
  }
  return drawing.finish();
}
