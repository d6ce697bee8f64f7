import { fitNodes } from '../../geometry/fitNodes.ts';
import { flattenNodes, type Nodes } from '../../geometry/nodes.ts';
import { findCrossing } from '../../geometry/findCrossing.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectShape } from '../../model/objectSpec.ts';
import type { ObjectId } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { readObjectShape } from '../sewSpecs.ts';
import { Drawing, type Drawn, edgesOf, type NewId } from './drawing.ts';

/** The lines of a shape by their nodes: rings (outline first), both edges of a column, or a path. */
export interface ShapeNodes {
  readonly kind: ObjectShape['kind'];
  readonly lines: readonly Nodes[];
  /** Whether each of them ends where it begins. */
  readonly isClosed: boolean;
}

/** Ends of a path nearer than this (mm) are one. */
const MEETING = 0.05;

/** The nodes of an object: those that it was drawn by, else few that its edges are fitted with (docs/shapes.md). */
export function nodesOf(design: Design, id: ObjectId): Result<ShapeNodes, string> {
  const object = design.plan.objects[id];
  if (object === undefined) return fail(`there is no object ${id}`);
  const read = readObjectShape(design, id);
  if (!read.ok) return fail(`${object.name}: ${read.error}`);
  const shape = read.value;
  const isClosed = shape.kind === 'area' || (shape.kind === 'line' && isRing(shape.path));
  if (shape.nodes !== undefined) return succeed({ kind: shape.kind, lines: shape.nodes, isClosed });
  return succeed({ kind: shape.kind, lines: linesOf(design, id, shape).map((line) => fitNodes(line, isClosed)), isClosed });
}

function linesOf(design: Design, id: ObjectId, shape: ObjectShape): Float64Array[] {
  switch (shape.kind) {
    case 'area': {
      const rings = shape.line === undefined && design.plan.objects[id]!.sewn.made === null ? edgesOf(design, id) : [];
      return rings.length > 0 ? rings : shape.rings.map((ring) => Float64Array.from(ring));
    }
    case 'column':
      return [shape.left, shape.right].map((rail) => Float64Array.from(rail));
    case 'line':
      return [Float64Array.from(isRing(shape.path) ? shape.path.slice(0, -2) : shape.path)];
  }
}

const isRing = (path: readonly number[]): boolean =>
  path.length >= 8 && Math.hypot(path[0]! - path.at(-2)!, path[1]! - path.at(-1)!) < MEETING;

// Adding 0 makes −0 a plain 0.
const thousandths = (points: Iterable<number>): number[] => Array.from(points, (v) => Math.round(v * 1000) / 1000 + 0);

/** The shape that nodes draw; refused in words where they draw none. */
export function shapeOfNodes({ kind, lines, isClosed }: ShapeNodes): Result<ObjectShape, string> {
  const nodes = lines.map(thousandths);
  const drawn = nodes.map((line) => thousandths(flattenNodes(line, isClosed)));
  const beyond = drawn.flat().find((v) => !Number.isFinite(v) || Math.abs(v) > FARTHEST);
  if (beyond !== undefined) return fail(`a node lies ${Math.abs(beyond).toFixed(0)} mm from the middle, farther than any hoop reaches`);
  switch (kind) {
    case 'area':
      if (drawn.length === 0 || drawn.some((ring) => ring.length < 6)) return fail('an area takes three nodes or more');
      return succeed({ kind, rings: drawn, nodes });
    case 'column': {
      const [left, right] = drawn;
      if (left === undefined || right === undefined || left.length < 4 || right.length < 4)
        return fail('a column takes two nodes or more on each side');
      const crossing = findCrossing(Float64Array.from(left), Float64Array.from(right));
      if (crossing !== undefined)
        return fail(`its sides cross at (${crossing.map((v) => v.toFixed(1)).join(', ')}): part them there, or cut the column in two`);
      return succeed({ kind, left, right, nodes });
    }
    case 'line': {
      const [path] = drawn;
      if (path === undefined || path.length < 4) return fail('a line takes two nodes or more');
      return succeed({ kind, path: isClosed ? [...path, path[0]!, path[1]!] : path, nodes });
    }
  }
}

/** The farthest that a machine's field reaches, mm. */
const FARTHEST = 1000;

/** Sews an object on the shape that its nodes draw now. */
export function reshape(design: Design, id: ObjectId, lines: readonly Nodes[], newId: NewId): Result<Drawn, string> {
  const known = nodesOf(design, id);
  if (!known.ok) return known;
  const { name } = design.plan.objects[id]!;
  if (known.value.kind !== 'area' && known.value.lines.length !== lines.length)
    return fail(`${name}: it has ${known.value.lines.length} lines, not ${lines.length}`);
  const shape = shapeOfNodes({ ...known.value, lines });
  if (!shape.ok) return fail(`${name}: ${shape.error}`);
  const drawing = new Drawing(design, newId);
  const changed = drawing.change(id, { shape: shape.value });
  return changed.ok ? drawing.finish() : changed;
}
