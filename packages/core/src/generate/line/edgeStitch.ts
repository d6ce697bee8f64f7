import type { OwnProngs } from '../../model/objectSpec.ts';
import type { ProngRoom } from './prongRoom.ts';

export interface EdgeStitchSpec {
  /** Distance from prong to prong along the edge, mm. */
  readonly spacing: number;
  /** How far prongs reach from the edge, mm; to the left of the line's way when positive. */
  readonly prong: number;
  /** How far each may reach where it stands, mm; as far as asked everywhere where it is left out. */
  readonly room?: ProngRoom;
}

/** A corner turns by more than this, degrees. */
const CORNER = 30;
/** A prong in a corner keeps this share of the way to where the prongs of both sides would meet. */
const CORNER_SHARE = 0.85;
/** Prongs are not shortened below this share of their length. */
const LEAST_PRONG = 0.35;
/** Where there is less room than this (mm) no prong is sewn: a needle strikes thread that it has just laid. Common practice. */
const LEAST_ROOM = 0.36;

/**
 * Penetrations (xyxy) of an edge (blanket) stitch along a line: on along the edge, out square to it, back through the same hole. Sides between
 * corners are parted evenly; each corner has one prong on its bisector, and prongs beside an inner corner are shortened toward it, so that none
 * crosses another. A closed line ends where it began. Where there is hardly room for a prong there is none.
 *
 * @throws when the spacing is not positive, the prong is none, or the line has fewer than two points.
 */
export function generateEdgeStitch(line: Float64Array, spec: EdgeStitchSpec): Float64Array {
  if (!(spec.spacing >= 0.5)) throw new RangeError(`an edge stitch needs a spacing of 0.5 mm or more, got ${spec.spacing}`);
  if (!(Math.abs(spec.prong) >= 0.3)) throw new RangeError(`an edge stitch needs prongs of 0.3 mm or more, got ${spec.prong}`);
  const sides = cutAtCorners(line);
  if (sides.length === 0) throw new RangeError('an edge stitch needs a line of two points or more');
  const isClosed = Math.hypot(line[0]! - line[line.length - 2]!, line[1]! - line[line.length - 1]!) < 0.05;
  const out: number[] = [];
  const sew = (x: number, y: number, px: number, py: number): void => {
    const length = Math.hypot(px, py);
    const room = spec.room?.(x, y, px, py) ?? Infinity;
    if (room < LEAST_ROOM) out.push(x, y);
    else pushProng(out, x, y, px * Math.min(1, room / length), py * Math.min(1, room / length));
  };
  sides.forEach((side, n) => {
    const before = n > 0 ? sides[n - 1] : isClosed ? sides[sides.length - 1] : undefined;
    const after = n + 1 < sides.length ? sides[n + 1] : isClosed ? sides[0] : undefined;
    const parts = Math.max(1, Math.round(side.length / spec.spacing));
    for (let k = 0; k < parts; k++) {
      const along = (side.length * k) / parts;
      const { x, y, dx, dy } = pointOn(side, along);
      if (k === 0) {
        sew(x, y, ...cornerProng(before, side, spec.prong));
        continue;
      }
      const reach = spec.prong > 0 ? 1 : -1;
      const length = Math.min(
        Math.abs(spec.prong),
        roomBeside(turnBetween(before, side) * reach, along, Math.abs(spec.prong)),
        roomBeside(turnBetween(side, after) * reach, side.length - along, Math.abs(spec.prong)),
      );
      sew(x, y, -dy * reach * length, dx * reach * length);
    }
  });
  const last = sides[sides.length - 1]!;
  const end = pointOn(last, last.length);
  if (isClosed) out.push(end.x, end.y);
  else sew(end.x, end.y, -end.dy * spec.prong, end.dx * spec.prong);
  return Float64Array.from(out);
}

/** A prong shorter than this share of what was asked is one that a corner leaves no more room. */
const WHOLE_PRONG = 0.95;

/**
 * Penetrations (xyxy) of an edge stitch on the feet that it was found to stand on, its prongs lying as they lay and reaching as far as is asked now;
 * those that a corner keeps short grow no longer.
 */
export function sewOwnProngs({ feet, width }: OwnProngs, prong: number): Float64Array {
  const out: number[] = [];
  for (const [x, y, px, py] of feet) {
    const length = Math.hypot(px, py);
    const scale = length >= WHOLE_PRONG * width ? prong / width : Math.min(1, prong / length);
    if (length > 0) pushProng(out, x, y, px * scale, py * scale);
    else out.push(x, y);
  }
  return Float64Array.from(out);
}

/** Part of the line without a corner, with the length walked up to each point. */
interface Side {
  readonly points: readonly number[];
  readonly walked: readonly number[];
  readonly length: number;
}

function cutAtCorners(line: Float64Array): Side[] {
  const points: number[] = [];
  for (let k = 0; k < line.length; k += 2)
    if (k === 0 || Math.hypot(line[k]! - points[points.length - 2]!, line[k + 1]! - points[points.length - 1]!) > 1e-6)
      points.push(line[k]!, line[k + 1]!);
  const sides: Side[] = [];
  let start = 0;
  for (let k = 2; k < points.length; k += 2) {
    const isEnd = k === points.length - 2;
    if (!isEnd && Math.abs(turnAt(points, k)) < CORNER) continue;
    sides.push(makeSide(points.slice(start, k + 2)));
    start = k;
  }
  return sides;
}

function makeSide(points: readonly number[]): Side {
  const walked = [0];
  for (let k = 2; k < points.length; k += 2)
    walked.push(walked[walked.length - 1]! + Math.hypot(points[k]! - points[k - 2]!, points[k + 1]! - points[k - 1]!));
  return { points, walked, length: walked[walked.length - 1]! };
}

/** By how many degrees a line turns at a point, positive to the left. */
function turnAt(points: readonly number[], k: number): number {
  const [ax, ay] = [points[k]! - points[k - 2]!, points[k + 1]! - points[k - 1]!];
  const [bx, by] = [points[k + 2]! - points[k]!, points[k + 3]! - points[k + 1]!];
  return (Math.atan2(ax * by - ay * bx, ax * bx + ay * by) * 180) / Math.PI;
}

function turnBetween(before: Side | undefined, after: Side | undefined): number {
  if (before === undefined || after === undefined) return 0;
  const a = pointOn(before, before.length);
  const b = pointOn(after, 0);
  return (Math.atan2(a.dx * b.dy - a.dy * b.dx, a.dx * b.dx + a.dy * b.dy) * 180) / Math.PI;
}

/** The longest that a prong may be so near to a corner that turns to its side: it stops before the corner's bisector. */
function roomBeside(turn: number, along: number, prong: number): number {
  if (turn < CORNER) return prong;
  const half = ((180 - turn) / 2) * (Math.PI / 180);
  return Math.max(LEAST_PRONG * prong, CORNER_SHARE * along * Math.tan(half));
}

/** The prong where two sides meet: on the bisector, and as long as to reach the line that the other prongs' ends make. */
function cornerProng(before: Side | undefined, side: Side, prong: number): [number, number] {
  const b = pointOn(side, 0);
  if (before === undefined) return [-b.dy * prong, b.dx * prong];
  const a = pointOn(before, before.length);
  const [nx, ny] = [-(a.dy + b.dy), a.dx + b.dx];
  const length = Math.hypot(nx, ny);
  if (length < 1e-6) return [a.dx * Math.abs(prong), a.dy * Math.abs(prong)];
  // 1 / cos of half the turn, held so that a sharp corner's prong does not run far out.
  const reach = Math.min(1.5, 2 / length);
  return [(nx / length) * prong * reach, (ny / length) * prong * reach];
}

function pointOn({ points, walked }: Side, along: number): { x: number; y: number; dx: number; dy: number } {
  let k = 1;
  while (k < walked.length - 1 && walked[k]! < along) k++;
  const [ax, ay, bx, by] = [points[k * 2 - 2]!, points[k * 2 - 1]!, points[k * 2]!, points[k * 2 + 1]!];
  const length = walked[k]! - walked[k - 1]!;
  const t = length > 0 ? (along - walked[k - 1]!) / length : 0;
  return { x: ax + t * (bx - ax), y: ay + t * (by - ay), dx: (bx - ax) / length, dy: (by - ay) / length };
}

function pushProng(out: number[], x: number, y: number, px: number, py: number): void {
  out.push(x, y, x + px, y + py, x, y);
}
