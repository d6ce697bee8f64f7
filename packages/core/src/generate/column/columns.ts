import { lengthOfPath, resamplePath } from '../../geometry/path.ts';
import { generateRun } from '../line/run.ts';
import { generateSatin, type SatinSpec } from './satin.ts';

/** A satin stroke by its edges (xyxy), both running from its start to its end. */
export interface Column {
  readonly left: Float64Array;
  readonly right: Float64Array;
}

/** What a path of strokes is made of, in sewing order: hidden runs down strokes that are still to be sewn, and the strokes. */
export interface ColumnPart {
  readonly role: 'underlay' | 'cover';
  /** The stroke, counted from 0. */
  readonly column: number;
  /** xyxy, its first point being where the part before ended. */
  readonly path: Float64Array;
}

/** Ends of strokes that lie within this (mm), or this share of their widths, of each other meet. */
const MEETING = 0.8;
const MEETING_SHARE = 0.8;
const RUN_STITCH = 2.5;

/**
 * Strokes that meet at their ends sewn as one path without a cut: out along each stroke on a run that it will cover, and back on its satin
 * (a depth-first walk over the strokes as edges of a graph). Begins and ends at the first stroke's start. One path for each group of strokes that
 * hang together.
 */
export function generateColumns(columns: readonly Column[], spec: SatinSpec): ColumnPart[][] {
  const ends = columns.flatMap((column, k) => [endOf(column, k, false), endOf(column, k, true)]);
  const nodeOf = joinEnds(ends);
  const isSewn = new Uint8Array(columns.length);
  const paths: ColumnPart[][] = [];
  for (let k = 0; k < columns.length; k++) {
    if (isSewn[k]) continue;
    const parts: ColumnPart[] = [];
    let at: readonly [number, number] = [ends[k * 2]!.x, ends[k * 2]!.y];
    const reached = new Set<number>();
    const add = (role: ColumnPart['role'], column: number, points: Float64Array): void => {
      parts.push({ role, column, path: Float64Array.from([...at, ...points]) });
      at = [points[points.length - 2]!, points[points.length - 1]!];
    };
    const visit = (node: number): void => {
      reached.add(node);
      for (;;) {
        const e = ends.findIndex((end, i) => nodeOf[i] === node && !isSewn[end.column]);
        if (e < 0) return;
        const { column, isEnd } = ends[e]!;
        isSewn[column] = 1;
        const { left, right } = isEnd ? reversed(columns[column]!) : columns[column]!;
        add('underlay', column, generateRun(middleOf(left, right), { stitchLength: RUN_STITCH }));
        const far = nodeOf[e ^ 1]!;
        if (!reached.has(far)) visit(far);
        const back = reversed({ left, right });
        add('cover', column, generateSatin(back.left, back.right, spec));
      }
    };
    visit(nodeOf[k * 2]!);
    paths.push(parts);
  }
  return paths;
}

interface ColumnEnd {
  readonly column: number;
  readonly isEnd: boolean;
  readonly x: number;
  readonly y: number;
  readonly width: number;
}

function endOf({ left, right }: Column, column: number, isEnd: boolean): ColumnEnd {
  const [l, r] = isEnd ? [left.length - 2, right.length - 2] : [0, 0];
  return {
    column,
    isEnd,
    x: (left[l]! + right[r]!) / 2,
    y: (left[l + 1]! + right[r + 1]!) / 2,
    width: Math.hypot(left[l]! - right[r]!, left[l + 1]! - right[r + 1]!),
  };
}

/** For each end the number of the place where it meets others. */
function joinEnds(ends: readonly ColumnEnd[]): number[] {
  const nodeOf = ends.map((_, k) => k);
  ends.forEach((end, k) => {
    for (let n = 0; n < k; n++) {
      const other = ends[n]!;
      const reach = Math.max(MEETING, MEETING_SHARE * Math.max(end.width, other.width));
      if (nodeOf[n] === nodeOf[k] || Math.hypot(end.x - other.x, end.y - other.y) > reach) continue;
      const [from, to] = [nodeOf[k]!, nodeOf[n]!];
      for (let m = 0; m <= k; m++) if (nodeOf[m] === from) nodeOf[m] = to;
    }
  });
  return nodeOf;
}

function reversed({ left, right }: Column): Column {
  return { left: turned(right), right: turned(left) };
}

/** A path from its other end. */
export function turned(path: Float64Array): Float64Array {
  const out = new Float64Array(path.length);
  for (let k = 0; k < path.length; k += 2) {
    out[k] = path[path.length - 2 - k]!;
    out[k + 1] = path[path.length - 1 - k]!;
  }
  return out;
}

/** The line between two edges at a share of the way from left to right. */
export function middleOf(left: Float64Array, right: Float64Array, share = 0.5): Float64Array {
  const count = Math.max(8, Math.min(4000, Math.ceil(Math.max(lengthOfPath(left), lengthOfPath(right)) / 0.4)));
  const a = resamplePath(left, count);
  const b = resamplePath(right, count);
  return a.map((v, k) => v + share * (b[k]! - v));
}
