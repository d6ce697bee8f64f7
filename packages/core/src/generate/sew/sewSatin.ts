import { lengthOfPath, resamplePath } from '../../geometry/path.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { type ObjectShape, type ObjectSpec, SHORTEST } from '../../model/objectSpec.ts';
import type { UnderlayKind } from '../../model/kinds.ts';
import { Collector, type GeneratedObject } from './collector.ts';
import { type Column, turned } from '../column/columns.ts';
import { columnAlongLine, columnOfArea, ringOfColumn } from './convertShape.ts';
import type { FillEnds } from '../fill/fillSpec.ts';
import { rungsOf } from '../column/leanLines.ts';
import { generateSatin } from '../column/satin.ts';
import {
  generateColumnEdgeRun,
  generateOneWayRun,
  generateTatamiUnderlay,
  generateZigzag,
  INSET,
  TATAMI_SPACING,
  ZIGZAG_SPACING,
} from '../underlay.ts';
import { createWalk } from '../fill/walker.ts';

/** The column that a shape is sewn as by a satin's spec, or why it is none. */
export function columnFor(shape: ObjectShape, spec: ObjectSpec): Result<Column, string> {
  switch (shape.kind) {
    case 'column':
      return soundColumn(columnOf(shape));
    case 'line':
      return soundColumn(columnAlongLine(Float64Array.from(shape.path), spec.width));
    case 'area':
      return columnOfArea(shape.rings.map((ring) => Float64Array.from(ring)));
  }
}

/** Edges that run the same way. Refused where they are no lines. */
function soundColumn({ left, right }: Column): Result<Column, string> {
  for (const rail of [left, right]) {
    if (rail.length < 4) return fail('an edge of the column has no length');
    if (!rail.every((v) => Number.isFinite(v) && Math.abs(v) <= 1000))
      return fail('a corner of the column is not a number, or beyond any hoop');
  }
  if (Math.max(lengthOfPath(left), lengthOfPath(right)) < SHORTEST) return fail('the column has no length');
  const isTurned = apartAlong(left, turned(right)) < TURNED * apartAlong(left, right);
  return succeed({ left, right: isTurned ? turned(right) : right });
}

/** How far apart two edges are in the mean, mm, by places at the same share of each. */
function apartAlong(left: Float64Array, right: Float64Array): number {
  const [a, b] = [resamplePath(left, PLACES), resamplePath(right, PLACES)];
  let sum = 0;
  for (let k = 0; k < a.length; k += 2) sum += Math.hypot(a[k]! - b[k]!, a[k + 1]! - b[k + 1]!);
  return sum / PLACES;
}

const PLACES = 25;
/** Edges that lie nearer together by so much when one is turned run against each other; those of a column that curls in on itself may by less. */
const TURNED = 0.6;

/**
 * A column is sewn from one of its ends to the other. Each layer of underlay leaves the needle at the same end or the other one; where that is the
 * wrong one for the satin to end at the way out, a run goes back down the middle first.
 */
export function sewSatin(column: Column, spec: ObjectSpec, { from, to }: FillEnds): Result<GeneratedObject, string> {
  const notes: string[] = [];
  const out = new Collector(spec.shortest);
  const ring = ringOfColumn(column);
  const walk = createWalk([ring]);
  const [start, wanted] = chooseEnds(column, spec, from, to);
  let at = start;
  if (from !== undefined && distanceToEnd(column, at, from) < MEETS + widthAt(column, at))
    out.add('travel', Float64Array.of(from.x, from.y), walk);
  const facing = (): Column => (at === 0 ? column : { left: turned(column.right), right: turned(column.left) });
  const step = (path: Float64Array, layer: UnderlayKind, turnsBack: boolean): void => {
    out.add('underlay', path, walk, layer);
    if (!turnsBack) at = at === 0 ? 1 : 0;
  };
  for (const { kind, spacing, inset, stitchLength } of spec.underlay) {
    const { left, right } = facing();
    if (kind === 'center-run') step(generateOneWayRun(left, right, stitchLength), kind, false);
    else if (kind === 'edge-run') step(generateColumnEdgeRun(left, right, inset ?? INSET, stitchLength), kind, true);
    else if (kind === 'zigzag') step(generateZigzag(left, right, spacing ?? ZIGZAG_SPACING, inset, spec.splitLength), kind, false);
    else
      for (const path of generateTatamiUnderlay([ring], spec.angle, spacing ?? TATAMI_SPACING, inset ?? INSET, undefined, stitchLength))
        out.add('underlay', path, walk, kind);
  }
  if (wanted !== undefined && at === wanted) {
    const { left, right } = facing();
    out.add(
      spec.underlay.length > 0 ? 'travel' : 'underlay',
      generateOneWayRun(left, right),
      walk,
      spec.underlay.length > 0 ? undefined : 'center-run',
    );
    at = at === 0 ? 1 : 0;
    if (spec.underlay.length === 0) notes.push('a center run leads to the far end, so that the satin ends at its way out');
  }
  const { left, right } = facing();
  const { rungs, leftOut } = rungsOf({ left, right }, spec.angleLines);
  if (leftOut > 0)
    notes.push(`${leftOut === 1 ? 'an angle line is' : `${leftOut} angle lines are`} left out: throws cannot cross one another`);
  out.add('cover', generateSatin(left, right, { spacing: spec.spacing, pull: spec.pull, splitLength: spec.splitLength, rungs }), walk);
  return succeed({ parts: out.parts, notes });
}

/**
 * The ends, by number (0 where the rails start), that a column is sewn from and to: those nearest to the ways in and out, and where both lie near
 * one end, or the column comes back to itself, rather those for which no run has to go back down the middle.
 */
function chooseEnds(
  column: Column,
  spec: ObjectSpec,
  from: Place | undefined,
  to: Place | undefined,
): [start: 0 | 1, wanted: 0 | 1 | undefined] {
  const turns = spec.underlay.filter(({ kind }) => kind === 'center-run' || kind === 'zigzag').length % 2;
  const off = (end: 0 | 1, place: Place | undefined): number => (place === undefined ? 0 : distanceToEnd(column, end, place));
  let best: [0 | 1, 0 | 1] = [0, 1];
  let least = Infinity;
  for (const start of [0, 1] as const) {
    for (const end of [0, 1] as const) {
      const goesBack = to !== undefined && (start + turns + 1) % 2 !== end;
      const cost = off(start, from) + off(end, to) + (goesBack ? BACK_OF_WIDTH * widthAt(column, end) : 0);
      if (cost < least) [least, best] = [cost, [start, end]];
    }
  }
  return [best[0], to === undefined ? undefined : best[1]];
}

interface Place {
  readonly x: number;
  readonly y: number;
}

/** A run back down the middle is worth as much as so many widths of the column between its ends and the ways in and out. */
const BACK_OF_WIDTH = 0.5;

/** A way in this near to a column's end (mm) is where the needle starts. */
const MEETS = 2;

function distanceToEnd({ left, right }: Column, end: 0 | 1, { x, y }: Place): number {
  const [l, r] = end === 0 ? [0, 0] : [left.length - 2, right.length - 2];
  return Math.hypot((left[l]! + right[r]!) / 2 - x, (left[l + 1]! + right[r + 1]!) / 2 - y);
}

function widthAt({ left, right }: Column, end: 0 | 1): number {
  const [l, r] = end === 0 ? [0, 0] : [left.length - 2, right.length - 2];
  return Math.hypot(left[l]! - right[r]!, left[l + 1]! - right[r + 1]!);
}

export function columnOf({ left, right }: Extract<ObjectShape, { kind: 'column' }>): Column {
  return { left: Float64Array.from(left), right: Float64Array.from(right) };
}
