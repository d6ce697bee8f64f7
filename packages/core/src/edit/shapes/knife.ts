import { findCrossing } from '../../geometry/findCrossing.ts';
import { intersectRings, subtractRings } from '../../geometry/region.ts';
import { containsPoint, orientRings, signedArea } from '../../geometry/ring.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectShape } from '../../model/objectSpec.ts';
import type { ObjectId } from '../../model/plan.ts';
import { fail, type Result } from '../../model/result.ts';
import { ringsOfShape } from '../../plan/ringsOfShape.ts';
import { readObjectShape, readObjectSpec } from '../sewSpecs.ts';
import { asArea, Drawing, type Drawn, edgesOf, type NewId, nextAfter } from './drawing.ts';

/** A cut reaches so far beyond its drawn ends, mm: a knife that stops inside goes on straight. */
const BEYOND = 2000;
/** A piece of less than this (mm², or mm of a line) is no piece. */
const LEAST_PIECE = 0.5;

/** Cuts an object in two along a drawn line (xyxy), straight on beyond its ends; what lies to the right of it becomes an object of its own. */
export function knife(design: Design, id: ObjectId, along: readonly number[], newId: NewId): Result<Drawn, string> {
  const { name } = design.plan.objects[id]!;
  if (along.length < 4 || Math.hypot(along.at(-2)! - along[0]!, along.at(-1)! - along[1]!) < LEAST_PIECE)
    return fail('a cut takes a line from one side to the other');
  const shape = readObjectShape(design, id);
  if (!shape.ok) return fail(`${name}: ${shape.error}`);
  const pieces = meetsShape(along, shape.value) ? piecesOf(design, id, shape.value, leftOf(along)) : undefined;
  if (pieces === undefined) return fail(`the cut misses ${name}: draw it across`);
  return part(design, id, pieces, newId);
}

/** Whether a drawn line crosses a shape's edge or path, or begins inside. */
function meetsShape(along: readonly number[], shape: ObjectShape): boolean {
  const line = Float64Array.from(along);
  const rings = ringsOfShape(shape);
  if (shape.kind === 'line') return findCrossing(line, Float64Array.from(shape.path), true) !== undefined;
  return containsPoint(rings, line[0]!, line[1]!) || rings.some((ring) => findCrossing(line, closed(ring), true) !== undefined);
}

const closed = (ring: Float64Array): Float64Array => Float64Array.from([...ring, ring[0]!, ring[1]!]);

/** Gives an object the first of some pieces; each of the others becomes an object of its own, sewn right after it. */
export function part(design: Design, id: ObjectId, pieces: readonly ObjectShape[], newId: NewId): Result<Drawn, string> {
  const { name } = design.plan.objects[id]!;
  const spec = readObjectSpec(design, id);
  if (!spec.ok) return fail(`${name}: ${spec.error}`);
  const thread = design.plan.blocks.find((block) => block.objects.includes(id))?.thread;
  if (thread == null) return fail(`${name} has no thread`);
  const drawing = new Drawing(design, newId);
  const changed = drawing.change(id, { shape: pieces[0]! });
  if (!changed.ok) return changed;
  let last = id;
  const taken = new Set(Object.values(design.plan.objects).map((object) => object.name));
  for (const shape of pieces.slice(1)) {
    const added = drawing.add({
      name: partName(name, taken),
      thread,
      before: nextAfter(drawing.design, [last]),
      spec: spec.value,
      shape,
    });
    if (!added.ok) return added;
    last = added.value;
  }
  return drawing.finish();
}

/** “Wing, part 2”: a name that no object has. */
function partName(name: string, taken: Set<string>): string {
  const stem = name.replace(/, part \d+$/, '').slice(0, 180);
  for (let k = 2; ; k++) {
    const own = `${stem}, part ${k}`;
    if (taken.has(own)) continue;
    taken.add(own);
    return own;
  }
}

/** All that lies to the left of a line, as an area. */
function leftOf(along: readonly number[]): Float64Array {
  const n = along.length;
  const [x0, y0, x1, y1] = [along[0]!, along[1]!, along[2]!, along[3]!];
  const [x2, y2, x3, y3] = [along[n - 4]!, along[n - 3]!, along[n - 2]!, along[n - 1]!];
  const before = away(x0 - x1, y0 - y1);
  const after = away(x3 - x2, y3 - y2);
  const from = [x0 + before[0] * BEYOND, y0 + before[1] * BEYOND] as const;
  const to = [x3 + after[0] * BEYOND, y3 + after[1] * BEYOND] as const;
  // Round the left of the line from its end to its beginning, far outside of any hoop.
  const start = Math.atan2(to[1], to[0]);
  let turn = Math.atan2(from[1], from[0]) - start;
  while (turn <= 0) turn += 2 * Math.PI;
  const round: number[] = [];
  for (let k = 1; k < ROUND; k++) {
    const angle = start + (turn * k) / ROUND;
    round.push(2 * BEYOND * Math.cos(angle), 2 * BEYOND * Math.sin(angle));
  }
  return Float64Array.from([...from, ...along, ...to, ...round]);
}

const ROUND = 16;

function away(dx: number, dy: number): readonly [number, number] {
  const length = Math.hypot(dx, dy) || 1;
  return [dx / length, dy / length];
}

/** An object's shape on either side; nothing where one side has no piece. */
function piecesOf(design: Design, id: ObjectId, shape: ObjectShape, side: Float64Array): ObjectShape[] | undefined {
  switch (shape.kind) {
    case 'area': {
      const own = design.plan.objects[id]!.sewn.made === null ? edgesOf(design, id) : shape.rings.map((ring) => Float64Array.from(ring));
      const rings = orientRings(own);
      const half = orientRings([side]);
      const pieces = [intersectRings(rings, half), subtractRings(rings, half)].map(worthwhile);
      return pieces.every((piece) => piece.length > 0) ? pieces.map(asArea) : undefined;
    }
    case 'line': {
      const pieces = outsideOf(shape.path, (x, y) => containsPoint([side], x, y));
      const others = outsideOf(shape.path, (x, y) => !containsPoint([side], x, y));
      return pieces.length > 0 && others.length > 0 ? [...others, ...pieces].map((path) => ({ kind: 'line', path })) : undefined;
    }
    case 'column': {
      const [left, right] = [shape.left, shape.right].map((rail) => crossingOf(rail, side));
      if (left === undefined || right === undefined) return undefined;
      return [
        { kind: 'column', left: left.before, right: right.before },
        { kind: 'column', left: left.after, right: right.after },
      ];
    }
  }
}

const worthwhile = (rings: readonly Float64Array[]): Float64Array[] =>
  rings.some((ring) => signedArea(ring) > LEAST_PIECE) ? rings.filter((ring) => Math.abs(signedArea(ring)) > LEAST_PIECE) : [];

/** Where an edge goes from one side of the cut to the other, for the first time; and what lies before and after. */
function crossingOf(rail: readonly number[], side: Float64Array): { before: number[]; after: number[] } | undefined {
  const dense = finely(rail);
  const first = containsPoint([side], dense[0]!, dense[1]!);
  for (let k = 2; k < dense.length; k += 2)
    if (containsPoint([side], dense[k]!, dense[k + 1]!) !== first) {
      const [before, after] = [dense.slice(0, k), dense.slice(k - 2)];
      return before.length >= 4 && after.length >= 4 ? { before, after } : undefined;
    }
  return undefined;
}

/** Lines are looked at every so often, mm. */
const LOOK = 0.1;

/** The points of a line (xyxy) with others between them. */
function finely(path: readonly number[]): number[] {
  const out: number[] = [path[0]!, path[1]!];
  for (let k = 2; k + 1 < path.length; k += 2) {
    const [fromX, fromY] = [path[k - 2]!, path[k - 1]!];
    const parts = Math.max(1, Math.ceil(Math.hypot(path[k]! - fromX, path[k + 1]! - fromY) / LOOK));
    for (let p = 1; p <= parts; p++) out.push(fromX + ((path[k]! - fromX) * p) / parts, fromY + ((path[k + 1]! - fromY) * p) / parts);
  }
  return out;
}

/** The stretches of a line that do not lie inside; a closed line that is cut becomes open ones. */
export function outsideOf(path: readonly number[], isInside: (x: number, y: number) => boolean): number[][] {
  const dense = finely(path);
  const stretches: number[][] = [];
  let own: number[] | undefined;
  for (let k = 0; k < dense.length; k += 2) {
    if (isInside(dense[k]!, dense[k + 1]!)) own = undefined;
    else if (own === undefined) stretches.push((own = [dense[k]!, dense[k + 1]!]));
    else own.push(dense[k]!, dense[k + 1]!);
  }
  const isClosed = Math.hypot(path[0]! - path.at(-2)!, path[1]! - path.at(-1)!) < LOOK;
  const [first, last] = [stretches[0], stretches.at(-1)];
  // What a closed line begins and ends with is one stretch.
  if (isClosed && first !== undefined && last !== undefined && first !== last && meets(first, path, 0) && meets(last, path, -2)) {
    stretches[0] = [...last, ...first.slice(2)];
    stretches.pop();
  }
  return stretches.filter((line) => lengthOf(line) > LEAST_PIECE).map(straightened);
}

function meets(line: readonly number[], path: readonly number[], at: 0 | -2): boolean {
  return line.at(at) === path.at(at) && line.at(at + 1) === path.at(at + 1);
}

function lengthOf(line: readonly number[]): number {
  let sum = 0;
  for (let k = 2; k < line.length; k += 2) sum += Math.hypot(line[k]! - line[k - 2]!, line[k + 1]! - line[k - 1]!);
  return sum;
}

/** A line without the points that lie on the straight between their neighbours. */
function straightened(line: readonly number[]): number[] {
  const out = [line[0]!, line[1]!];
  for (let k = 2; k < line.length; k += 2) {
    const [bx, by] = [line[k]! - out.at(-2)!, line[k + 1]! - out.at(-1)!];
    const [ax, ay] = k + 2 < line.length ? [line[k + 2]! - line[k]!, line[k + 3]! - line[k + 1]!] : [0, 0];
    if (k + 2 >= line.length || Math.abs(ax * by - ay * bx) > 1e-9 * Math.hypot(ax, ay) * Math.hypot(bx, by))
      out.push(line[k]!, line[k + 1]!);
  }
  return out;
}

/** What is left of a line or column where it runs over an area: as lines, each an object of its own. */
export function cutLine(design: Design, id: ObjectId, area: readonly Float64Array[], newId: NewId): Result<Drawn, string> {
  const { name } = design.plan.objects[id]!;
  const shape = readObjectShape(design, id);
  if (!shape.ok) return fail(`${name}: ${shape.error}`);
  if (shape.value.kind !== 'line') return fail(`${name} is a ${shape.value.kind}, not a line`);
  const { path } = shape.value;
  const pieces = outsideOf(path, (x, y) => containsPoint(area, x, y));
  if (pieces.length === 0) return fail(`nothing worth sewing would be left of ${name}`);
  if (pieces.length === 1 && Math.abs(lengthOf(pieces[0]!) - lengthOf(path)) < LOOK)
    return fail(`${name} stays as it is: they do not lie on each other`);
  return part(
    design,
    id,
    pieces.map((piece) => ({ kind: 'line', path: piece })),
    newId,
  );
}
