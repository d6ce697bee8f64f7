import { columnFor } from '../../generate/sew/sewSatin.ts';
import { resamplePath } from '../../geometry/path.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectShape } from '../../model/objectSpec.ts';
import { exitOf, type ObjectId, readRows } from '../../model/plan.ts';
import type { Point } from '../../model/stitchObject.ts';
import { turnRows } from '../../plan/turnRows.ts';
import { readObjectShape, readObjectSpec, type SpecEdit } from '../sewSpecs.ts';
import { printOf } from '../operations/printOf.ts';
import type { SimpleOperation } from '../operations/registry.ts';

/** A way to begin and end an object: as it does, its own stitches turned, or sewn anew from its spec. */
export interface EndsChoice {
  readonly from: Point;
  readonly to: Point;
  readonly how: 'as-is' | 'turned' | 'sewn';
  /** What turns its own stitches. */
  readonly turn?: SimpleOperation;
  /** What sews it anew. */
  readonly edit?: SpecEdit;
}

/** A closed line is begun at so many of its places, an area at so many of its edge. */
const PLACES = 8;
/** Ends nearer than this (mm) are one place. */
const CLOSED = 0.3;

/**
 * The ways in which an object can begin and end. Its own stitches are turned where they are sewn in one go; where its spec and shape are known it can
 * be sewn anew: a column from either end, one that closes from anywhere, a fill from any place of its edge to any other.
 */
export function endsOf(design: Design, id: ObjectId, maySew: boolean): EndsChoice[] {
  const { plan } = design;
  const { sewn } = plan.objects[id]!;
  const [start, exit] = [sewn.start, exitOf(plan.source, sewn)];
  const out: EndsChoice[] = [{ from: start, to: exit, how: 'as-is' }];
  out.push(...turns(design, id));
  if (!maySew) return out;
  const [spec, shape] = [readObjectSpec(design, id), readObjectShape(design, id)];
  if (!spec.ok || !shape.ok) return out;
  const isLine = spec.value.kind === 'run' || spec.value.kind === 'edge-stitch';
  if (isLine) return out;
  const edit = { object: id, spec: spec.value };
  if (spec.value.kind === 'satin') {
    const column = columnFor(shape.value, spec.value);
    if (!column.ok) return out;
    const { left, right } = column.value;
    if (isClosed(left) && isClosed(right)) {
      for (const share of Array.from({ length: PLACES }, (_, k) => k / PLACES)) {
        const at = pointsAt(left, right, share);
        out.push({ from: at, to: at, how: 'sewn', edit: { ...edit, shape: begunAt(left, right, share), ends: { from: at, to: at } } });
      }
      return out;
    }
    const ends = [pointsAt(left, right, 0), pointsAt(left, right, 1)];
    for (const from of ends) for (const to of ends) out.push({ from, to, how: 'sewn', edit: { ...edit, ends: { from, to } } });
    return out;
  }
  const [ring] = sewn.reading.outline.length >= 6 ? [sewn.reading.outline] : [];
  if (ring === undefined) return out;
  const edge = resamplePath(Float64Array.from([...ring, ring[0]!, ring[1]!]), PLACES + 1);
  const places = Array.from({ length: PLACES }, (_, k): Point => ({ x: edge[2 * k]!, y: edge[2 * k + 1]! }));
  for (const from of [start, ...places])
    for (const to of [exit, ...places])
      if (from !== start || to !== exit) out.push({ from, to, how: 'sewn', edit: { ...edit, ends: { from, to } } });
  return out;
}

function turns({ plan }: Design, id: ObjectId): EndsChoice[] {
  const { sewn } = plan.objects[id]!;
  const { program, first, end } = readRows(plan.source, sewn.rows);
  const count = end - first;
  const exit = exitOf(plan.source, sewn);
  const isRing = Math.hypot(exit.x - sewn.start.x, exit.y - sewn.start.y) <= CLOSED;
  const was = printOf(plan, id);
  const turn = (from: number, isReversed: boolean): SimpleOperation => ({ id: 'turn-object', object: id, was, from, isReversed });
  if (!turnRows(plan, sewn, count, true).ok) return [];
  if (!isRing) return [{ from: exit, to: sewn.start, how: 'turned', turn: turn(count, true) }];
  const step = Math.max(1, Math.floor(count / PLACES));
  const out: EndsChoice[] = [];
  for (let k = step; k < count; k += step) {
    const at = { x: program.x[first + k - 1]!, y: program.y[first + k - 1]! };
    out.push({ from: at, to: at, how: 'turned', turn: turn(k, false) });
  }
  return out;
}

function isClosed(rail: Float64Array): boolean {
  return rail.length > 6 && Math.hypot(rail[0]! - rail[rail.length - 2]!, rail[1]! - rail[rail.length - 1]!) < CLOSED;
}

/** The middle between both edges at a share of the way along a column. */
function pointsAt(left: Float64Array, right: Float64Array, share: number): Point {
  const [a, b] = [resamplePath(left, FINE + 1), resamplePath(right, FINE + 1)];
  const k = Math.round(share * FINE) * 2;
  return { x: (a[k]! + b[k]!) / 2, y: (a[k + 1]! + b[k + 1]!) / 2 };
}

const FINE = 160;

/** A closed column that begins at another place. */
function begunAt(left: Float64Array, right: Float64Array, share: number): ObjectShape {
  const rotate = (rail: Float64Array): number[] => {
    const fine = resamplePath(rail, FINE + 1);
    const at = Math.round(share * FINE) * 2;
    return [...fine.subarray(at, fine.length - 2), ...fine.subarray(0, at + 2)].map((v) => Math.round(v * 1000) / 1000);
  };
  return { kind: 'column', left: rotate(left), right: rotate(right) };
}
