import type { Design } from '../../model/design.ts';
import type { ObjectShape, ObjectSpec } from '../../model/objectSpec.ts';
import { type Block, type ObjectId, orderOf, readRows } from '../../model/plan.ts';
import { STITCH } from '../../model/program.ts';
import { fail, type Result } from '../../model/result.ts';
import { sewSpecs, readObjectShape, readObjectSpec } from '../sewSpecs.ts';
import { printOrder } from '../operations/printOf.ts';
import { Drawing, type Drawn, type NewId, threadOf } from './drawing.ts';
import { middleOfRows } from './place.ts';

/** No design is made smaller or larger than by this at once: its details would be gone, or another drawing be better. */
const [LEAST_SCALE, MOST_SCALE] = [0.2, 5];

/** Makes objects, or the whole design, larger or smaller about their middle, spacings kept: they are sewn anew on their scaled shapes. */
export function scale(design: Design, factor: number, newId: NewId, objects: readonly ObjectId[] = []): Result<Drawn, string> {
  if (!(factor >= LEAST_SCALE && factor <= MOST_SCALE))
    return fail(`a scale of ${factor} makes no sense: it goes from ${LEAST_SCALE} to ${MOST_SCALE}`);
  const ids = objects.length === 0 ? orderOf(design.plan) : orderOf(design.plan).filter((id) => objects.includes(id));
  const [cx, cy] = middleOfRows(design, ids);
  const at = (points: readonly number[]): number[] =>
    points.map((v, k) => (k % 2 === 0 ? cx : cy) + factor * (v - (k % 2 === 0 ? cx : cy)));
  const drawing = new Drawing(design, newId);
  const traced: string[] = [];
  /** Lines, ways and remains of underlay that are shorter than a stitch by then. */
  const tooSmall: ObjectId[] = [];
  const thin: string[] = [];
  for (const id of ids) {
    const [spec, shape] = [readObjectSpec(drawing.design, id), readObjectShape(drawing.design, id)];
    const isKnown = spec.ok && shape.ok;
    if (!isKnown) traced.push(design.plan.objects[id]!.name);
    const own = isKnown ? { spec: scaledSpec(spec.value, factor, at), shape: scaledShape(shape.value, at) } : trace(drawing.design, id, at);
    if (own === undefined) return fail(`${design.plan.objects[id]!.name} cannot be told from its stitches, and not be scaled`);
    const sewn = sewSpecs(drawing.design, [{ object: id, ...own, ends: endsOf(drawing.design, id, at) }]);
    const [refused] = sewn.refused;
    const { role, kind } = design.plan.objects[id]!.sewn.reading;
    if (refused !== undefined && role === 'cover' && kind !== 'run') return fail(`${refused.name}: ${refused.why}`);
    if (refused !== undefined) tooSmall.push(id);
    for (const operation of sewn.operations) {
      const next = drawing.perform(operation);
      if (!next.ok) return next;
    }
    if (factor < 1 && isThin(drawing.design, id, factor)) thin.push(design.plan.objects[id]!.name);
  }
  if (tooSmall.length > 0) {
    const removed = drawing.remove(tooSmall);
    if (!removed.ok) return removed;
    drawing.notes.push(`left out as too small to sew: ${tooSmall.map((id) => design.plan.objects[id]!.name).join(', ')}`);
  }
  if (thin.length > 0) drawing.notes.push(`columns under ${SEWS_THIN} mm sew thin now: ${thin.join(', ')}`);
  if (traced.length > 0) drawing.notes.push(`only followed along its stitches: ${traced.join(', ')}`);
  return drawing.finish();
}

/** Columns under this (mm) sew thin. From memory. */
const SEWS_THIN = 1;

/** Whether a column was wide enough before it was scaled by a factor, and is not now. */
function isThin({ plan }: Design, id: ObjectId, factor: number): boolean {
  const { kind, width } = plan.objects[id]!.sewn.reading;
  return kind === 'satin' && width !== undefined && width.mean < SEWS_THIN && width.mean / factor >= SEWS_THIN;
}

function scaledShape(shape: ObjectShape, at: (points: readonly number[]) => number[]): ObjectShape {
  const nodes = shape.nodes === undefined ? {} : { nodes: shape.nodes.map(at) };
  switch (shape.kind) {
    case 'area':
      return { kind: 'area', rings: shape.rings.map(at), ...nodes };
    case 'column':
      return { kind: 'column', left: at(shape.left), right: at(shape.right), ...nodes };
    case 'line':
      return { kind: 'line', path: at(shape.path), ...nodes };
  }
}

function scaledSpec(spec: ObjectSpec, factor: number, at: (points: readonly number[]) => number[]): ObjectSpec {
  const width = Math.min(30, Math.max(0.3, spec.width * factor));
  const { origin: _, ...rest } = spec;
  return { ...rest, width, angleLines: spec.angleLines.map((line) => at(line) as [number, number, number, number]) };
}

/** What cannot be told is sewn as a run through its own penetrations. */
function trace(
  design: Design,
  id: ObjectId,
  at: (points: readonly number[]) => number[],
): { spec: ObjectSpec; shape: ObjectShape } | undefined {
  const { sewn } = design.plan.objects[id]!;
  const { program, first, end } = readRows(design.plan.source, sewn.rows);
  const path: number[] = [sewn.start.x, sewn.start.y];
  for (let i = first; i < end; i++) if (program.command[i] === STITCH) path.push(program.x[i]!, program.y[i]!);
  if (path.length < 4) return undefined;
  const known = readObjectSpec(design, id);
  const spec: ObjectSpec = { ...(known.ok ? known.value : TRACED), kind: 'run', passes: 1, underlay: [] };
  return { spec, shape: { kind: 'line', path: at(path) } };
}

const TRACED: ObjectSpec = {
  ...{ kind: 'run', spacing: 0.4, stitchLength: 2.5, angle: 0, angleLines: [], offset: 0, rowEnds: 'slanted', passes: 1, pull: 0 },
  ...{ width: 2, splitLength: 7, underlay: [], tie: 'to-and-fro' },
};

function endsOf(design: Design, id: ObjectId, at: (points: readonly number[]) => number[]) {
  const { sewn } = design.plan.objects[id]!;
  const { program, first, end } = readRows(design.plan.source, sewn.rows);
  const last = end > first ? [program.x[end - 1]!, program.y[end - 1]!] : [sewn.start.x, sewn.start.y];
  const [fromX, fromY] = at([sewn.start.x, sewn.start.y]);
  const [toX, toY] = at(last);
  return { from: { x: fromX!, y: fromY! }, to: { x: toX!, y: toY! } };
}

/** Takes objects out, with their underlay. */
export function removeShapes(design: Design, objects: readonly ObjectId[], newId: NewId): Result<Drawn, string> {
  const strange = objects.find((id) => design.plan.objects[id] === undefined);
  if (strange !== undefined) return fail(`there is no object ${strange}`);
  const drawing = new Drawing(design, newId);
  const removed = drawing.remove(objects);
  return removed.ok ? drawing.finish() : removed;
}

/** Sews a block (counted from 1) with another thread; `keep`: it is not to be merged with another of that thread. */
export function recolor(design: Design, number: number, color: string, keep: boolean, newId: NewId): Result<Drawn, string> {
  const { plan } = design;
  const block = plan.blocks[number - 1];
  if (block === undefined) return fail(`there is no block ${number}; there are ${plan.blocks.length}`);
  const changed: Block = { ...block, thread: threadOf(design, color), ...(keep ? { keep: true as const } : {}) };
  const blocks = plan.blocks.with(number - 1, changed).map(({ objects, thread, ...rest }) => ({
    ...rest,
    objects: [...objects],
    thread: thread === null ? null : { color: thread.color, name: thread.name },
  }));
  const drawing = new Drawing(design, newId);
  const done = drawing.perform({ id: 'set-order', was: printOrder(plan), blocks });
  return done.ok ? drawing.finish() : done;
}
