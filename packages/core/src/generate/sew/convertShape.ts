import { lengthOfPath, resamplePath } from '../../geometry/path.ts';
import { signedArea } from '../../geometry/ring.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { Column } from '../column/columns.ts';
import { middleOf, turned } from '../column/columns.ts';
import { repairShape } from './repairShape.ts';
import { parallelLines } from '../fill/rowLines.ts';
import { cutSpans, findSections } from '../fill/spans.ts';

/** Directions in which an area is looked at for a column, in degrees apart. */
const TURN = 7.5;
/** A column's edges are sampled so finely, mm. */
const STEP = 0.4;
/** So much of an area lies in one stack of rows where it is a column. */
const ONE_STACK = 0.97;
/** A column wider than this (mm) in the mean is not offered. */
const WIDEST = 12;
/** A column that is not longer than this share of its width is a spot. */
const SQUAT = 0.8;

/** The ring around a column. */
export function ringOfColumn({ left, right }: Column): Float64Array {
  const back = turned(right);
  const ring = new Float64Array(left.length + back.length);
  ring.set(left);
  ring.set(back, left.length);
  return ring;
}

/** The line down the middle of a column. */
export function lineOfColumn({ left, right }: Column): Float64Array {
  return middleOf(left, right);
}

/** Edges whose lengths differ by no more than this share are as long as each other. */
const AS_LONG = 0.02;

/** The longer edge of a column, the outer one of a closed or bent one, on the way on which the column lies to its left; and the other one. */
export function edgeOfColumn(column: Column): readonly [edge: Float64Array, other: Float64Array] {
  const { left, right } = column;
  // The ring goes out along what is called the left edge: clockwise where that has the column on its right.
  const isLeft = signedArea(ringOfColumn(column)) < 0;
  const [own, other] = isLeft ? [right, left] : [left, right];
  return lengthOfPath(other) > (1 + AS_LONG) * lengthOfPath(own) ? [turned(other), own] : [own, other];
}

/** A column of an even width along a line (xyxy). */
export function columnAlongLine(path: Float64Array, width: number): Column {
  const count = Math.max(4, Math.ceil(lengthOfPath(path) / STEP));
  const line = resamplePath(path, count);
  const left = new Float64Array(count * 2);
  const right = new Float64Array(count * 2);
  const isClosed = Math.hypot(line[0]! - line[count * 2 - 2]!, line[1]! - line[count * 2 - 1]!) < 0.05;
  for (let k = 0; k < count; k++) {
    const before = (k > 0 ? k - 1 : isClosed ? count - 2 : 0) * 2;
    const after = (k < count - 1 ? k + 1 : isClosed ? 1 : k) * 2;
    const [dx, dy] = [line[after]! - line[before]!, line[after + 1]! - line[before + 1]!];
    const half = width / 2 / (Math.hypot(dx, dy) || 1);
    left.set([line[k * 2]! - dy * half, line[k * 2 + 1]! + dx * half], k * 2);
    right.set([line[k * 2]! + dy * half, line[k * 2 + 1]! - dx * half], k * 2);
  }
  return { left, right };
}

/**
 * An area as one column: its edges are the ends of rows laid across it in the direction in which they are shortest. Refused with the reason where
 * the area branches, has a hole, or is too broad for a satin.
 */
export function columnOfArea(rings: readonly Float64Array[]): Result<Column, string> {
  const shape = repairShape(rings);
  if (!shape.ok) return shape;
  if (shape.value.rings.length > 1) return fail('the shape has holes or parts; a satin needs one column');
  const area = Math.abs(signedArea(shape.value.rings[0]!));
  let best: { column: Column; width: number; length: number } | undefined;
  for (let angle = 0; angle < 180; angle += TURN) {
    const lines = parallelLines(shape.value.rings, angle, STEP);
    const spans = cutSpans(shape.value.rings, lines);
    const { sections } = findSections(spans);
    const longest = sections.reduce((a, b) => (b.spans.length > a.spans.length ? b : a), sections[0] ?? { spans: [] });
    const covered = longest.spans.reduce((sum, i) => sum + (spans.b[i]! - spans.a[i]!) * STEP, 0);
    if (longest.spans.length < 3 || covered < ONE_STACK * area) continue;
    const width = covered / (longest.spans.length * STEP);
    if (best !== undefined && width >= best.width) continue;
    const edge = (us: Float64Array): Float64Array =>
      Float64Array.from(
        longest.spans.flatMap((i) => {
          const k = spans.row[i]!;
          return [lines.x[k]! + us[i]! * lines.dx[k]!, lines.y[k]! + us[i]! * lines.dy[k]!];
        }),
      );
    best = { column: { left: edge(spans.a), right: edge(spans.b) }, width, length: longest.spans.length * STEP };
  }
  if (best === undefined) return fail('the shape branches or bends back; a satin needs one column without a branch');
  if (best.width > WIDEST) return fail(`the shape is ${best.width.toFixed(1)} mm wide; a satin reaches ${WIDEST} mm at most`);
  if (best.length < SQUAT * best.width) return fail('the shape is as wide as it is long; a satin needs a column');
  return succeed(best.column);
}
