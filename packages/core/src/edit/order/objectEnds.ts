import { resamplePath } from '../../geometry/path.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectShape } from '../../model/objectSpec.ts';
import { exitOf, type ObjectId, readRows } from '../../model/plan.ts';
import type { Point } from '../../model/stitchObject.ts';
import { turnRows } from '../../plan/turnRows.ts';
import { readObjectSpec, type SpecEdit } from '../sewSpecs.ts';
import { printOf } from '../operations/printOf.ts';
import type { SimpleOperation } from '../operations/registry.ts';

/** A way to begin and end an object: as it does, its own stitches turned, or sewn anew from its spec. */
export interface EndsChoice {
  readonly from: Point;
  readonly to: Point;
  readonly how: 'as-is' | 'turned' | 'sewn';
  /** What turns its own stitches. */
  readonly turn?: SimpleOperation;
  /** Gives what sews it anew. */
  readonly edit?: () => SpecEdit | undefined;
}

/** An object that is sewn anew for its ends counts as if it took so many seconds more: half a trim. */
export const SEWN_ANEW = 4;

/** A closed line is begun at so many of its places, an area at so many of its edge. */
const PLACES = 8;
/** Ends nearer than this (mm) are one place. */
const CLOSED = 0.3;

/**
 * The ways in which an object can begin and end. Its own stitches are turned where they are sewn in one go; where its spec and shape are known it can
 * be sewn anew: a column from either end, one that closes from anywhere, a fill from any of some `places` of its edge to any other.
 */
export function endsOf(design: Design, id: ObjectId, maySew: boolean, places?: readonly Point[]): EndsChoice[] {
  const { plan } = design;
  const { sewn } = plan.objects[id]!;
  const [start, exit] = [sewn.start, exitOf(plan.source, sewn)];
  const out: EndsChoice[] = [{ from: start, to: exit, how: 'as-is' }];
  out.push(...turns(design, id));
  if (!maySew) return out;
  const { reading, made } = sewn;
  const kind = made?.spec.kind ?? (reading.pattern === undefined ? reading.kind : undefined);
  if (kind === 'satin' && reading.rails !== undefined) {
    const { left, right } = reading.rails;
    if (isClosed(left) && isClosed(right)) {
      for (let k = 0; k < PLACES; k++) {
        const at = pointsAt(left, right, k / PLACES);
        out.push({ from: at, to: at, how: 'sewn', edit: () => editOf(design, id, at, at, begunAt(left, right, k / PLACES)) });
      }
      return out;
    }
    const ends = [pointsAt(left, right, 0), pointsAt(left, right, 1)];
    for (const from of ends) for (const to of ends) out.push({ from, to, how: 'sewn', edit: () => editOf(design, id, from, to) });
    return out;
  }
  const ring = reading.outline;
  if (kind !== 'fill' || ring.length < 6) return out;
  const on = places ?? placesOn(ring);
  for (const from of [start, ...on])
    for (const to of [exit, ...on])
      if (from !== start || to !== exit) out.push({ from, to, how: 'sewn', edit: () => editOf(design, id, from, to) });
  return out;
}

function placesOn(ring: Float64Array): Point[] {
  const edge = resamplePath(Float64Array.from([...ring, ring[0]!, ring[1]!]), PLACES + 1);
  return Array.from({ length: PLACES }, (_, k): Point => ({ x: edge[2 * k]!, y: edge[2 * k + 1]! }));
}

/** What sews an object anew with its own spec from one place to another; nothing where its spec cannot be read. Reading it takes a while. */
function editOf(design: Design, id: ObjectId, from: Point, to: Point, shape?: ObjectShape): SpecEdit | undefined {
  const spec = readObjectSpec(design, id);
  return spec.ok ? { object: id, spec: spec.value, ends: { from, to }, ...(shape === undefined ? {} : { shape }) } : undefined;
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
