import type { Program } from '../../model/program.ts';
import { type RowSet } from '../rows/rows.ts';
import { axisAngle, axisDifference, meanAxis } from '../../geometry/axis.ts';
import { median } from '../../geometry/statistics.ts';

export interface SatinGeometry {
  readonly angle: number;
  readonly spacing: number;
  readonly width: { readonly mean: number; readonly min: number; readonly max: number };
  readonly stitchLength: number;
  readonly rails: { readonly left: Float64Array; readonly right: Float64Array };
  readonly outline: Float64Array;
}

/** A pitch is measured over twice so many penetrations of one edge, so that rounding to 0.1 mm hardly moves it, but over no longer a way, mm. */
const HALF_SPAN = 3;
const HALF_WAY = 1.5;
/** A penetration that lies farther inside its edge than this share of the width was drawn in where the edge is crowded. */
const DRAWN_IN = 0.12;

/** The edges of a column of throws, what it is wide, and its pitch along the outer edge. O(rows). */
export function measureSatin({ x, y }: Program, rows: RowSet): SatinGeometry {
  const left: number[] = [];
  const right: number[] = [];
  // Of each penetration of an edge the first row that has it; and each row as a vector from left to right.
  const [leftRows, rightRows]: [number[], number[]] = [[], []];
  const across = new Float64Array(rows.count * 2);
  for (let r = 0; r < rows.count; r++) {
    const [a, b] = [rows.first[r]!, rows.last[r]!];
    // Each end goes to the edge that it is nearer to: after an odd throw the edges would otherwise change sides.
    const isLeftFirst =
      r === 0 ||
      distanceToLast(left, x[a]!, y[a]!) + distanceToLast(right, x[b]!, y[b]!) <=
        distanceToLast(right, x[a]!, y[a]!) + distanceToLast(left, x[b]!, y[b]!);
    const [l, n] = isLeftFirst ? [a, b] : [b, a];
    if (append(left, x[l]!, y[l]!)) leftRows.push(r);
    if (append(right, x[n]!, y[n]!)) rightRows.push(r);
    across.set([x[n]! - x[l]!, y[n]! - y[l]!], r * 2);
  }
  const spacing = outerPitch(pitchesOf(left, leftRows, across), pitchesOf(right, rightRows, across));
  const steps: number[] = [];
  for (let r = 0; r < rows.count; r++)
    for (let i = rows.first[r]! + 1; i <= rows.last[r]!; i++) steps.push(Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!));
  const edges = { left: straighten(left, right), right: straighten(right, left) };
  let sum = 0;
  let min = Infinity;
  let max = 0;
  for (const l of rows.length) {
    sum += l;
    min = Math.min(min, l);
    max = Math.max(max, l);
  }
  const outline = new Float64Array(edges.left.length + edges.right.length);
  outline.set(edges.left);
  for (let k = 0; k < edges.right.length; k += 2) {
    outline[edges.left.length + k] = edges.right[edges.right.length - 2 - k]!;
    outline[edges.left.length + k + 1] = edges.right[edges.right.length - 1 - k]!;
  }
  return {
    angle: squareAngle(rows, across, edges) ?? rows.angle,
    spacing,
    width: { mean: sum / rows.count, min, max },
    stitchLength: median(steps),
    rails: edges,
    outline,
  };
}

/** Throws as even as this run one way; those of every second one within so many degrees of square to the edges are square to them. */
const EVEN = 0.985;
const SQUARE = 2;
const LEAST_APART = 2;

/**
 * The angle of a straight column of which every second throw is square to its edges and the others lead on: that of the square ones, degrees. None
 * where throws lean to both sides alike.
 */
function squareAngle({ count, evenness }: RowSet, across: Float64Array, { left, right }: SatinGeometry['rails']): number | undefined {
  if (count < LEAST_STRAIGHT || evenness < EVEN || left.length < 4 || right.length < 4) return undefined;
  const way = [left, right].map((rail) => [rail[rail.length - 2]! - rail[0]!, rail[rail.length - 1]! - rail[1]!] as const);
  const normal = axisAngle(-(way[0]![1] + way[1]![1]), way[0]![0] + way[1]![0]);
  const [even, odd] = [0, 1].map((parity) => {
    const own = Array.from({ length: (count - parity + 1) >> 1 }, (_, k) => 2 * k + parity);
    return meanAxis(
      own.map((r) => across[r * 2]!),
      own.map((r) => across[r * 2 + 1]!),
    ).angle;
  });
  const square = axisDifference(even!, normal) < axisDifference(odd!, normal) ? even! : odd!;
  return axisDifference(square, normal) < SQUARE && axisDifference(even!, odd!) > LEAST_APART ? square : undefined;
}

/** Fewer throws tell no such thing. */
const LEAST_STRAIGHT = 8;

/** Whether a place was put to an edge: one that is there already is not. */
function append(edge: number[], px: number, py: number): boolean {
  if (edge.length > 0 && distanceToLast(edge, px, py) < 1e-9) return false;
  edge.push(px, py);
  return true;
}

function distanceToLast(edge: readonly number[], px: number, py: number): number {
  return edge.length === 0 ? 0 : Math.hypot(edge[edge.length - 2]! - px, edge[edge.length - 1]! - py);
}

/** The usual pitch along the edge that is the outer one at each place, mm: a column that bends to and fro changes sides. */
function outerPitch(left: readonly number[], right: readonly number[]): number {
  const count = Math.max(left.length, right.length);
  const at = (edge: readonly number[], n: number): number => edge[Math.floor(((n + 0.5) * edge.length) / count)] ?? 0;
  return count === 0 ? 0 : median(Array.from({ length: count }, (_, n) => Math.max(at(left, n), at(right, n))));
}

/**
 * Distances of successive penetrations along an edge, mm, each square to the mean thread between them, over several: throws that lean against their edge
 * lie closer than their penetrations along it. `rowOf` is the first row that has a penetration, `across` each row as a vector.
 */
function pitchesOf(edge: readonly number[], rowOf: readonly number[], across: Float64Array): number[] {
  const points = edge.length / 2;
  if (points < 2) return [];
  // How far each step goes square to the throws at it, signed, so that what rounding does to one it undoes at the next.
  const walked = new Float64Array(points);
  const steps: number[] = [];
  for (let k = 1; k < points; k++) {
    const [ex, ey] = [edge[k * 2]! - edge[k * 2 - 2]!, edge[k * 2 + 1]! - edge[k * 2 - 1]!];
    let [tx, ty] = [0, 0];
    for (let r = rowOf[k - 1]! + (k > 1 ? 1 : 0); r <= rowOf[k]!; r++) {
      tx += across[r * 2]!;
      ty += across[r * 2 + 1]!;
    }
    const thread = Math.hypot(tx, ty);
    walked[k] = walked[k - 1]! + (thread > 1e-9 ? (ex * ty - ey * tx) / thread : Math.hypot(ex, ey));
    steps.push(Math.hypot(ex, ey));
  }
  const wanted = 2 * Math.max(1, Math.min(HALF_SPAN, Math.round(HALF_WAY / Math.max(0.05, median(steps)))));
  const span = Math.min(wanted, points - 1);
  return Array.from({ length: points - span }, (_, k) => Math.abs(walked[k + span]! - walked[k]!) / span);
}

/** The edge without the penetrations that were drawn in from it. */
function straighten(edge: readonly number[], other: readonly number[]): Float64Array {
  const out: number[] = [];
  const points = edge.length / 2;
  for (let k = 0; k < points; k++) {
    const [px, py] = [edge[k * 2]!, edge[k * 2 + 1]!];
    if (k > 0 && k + 1 < points) {
      const across = Math.min(other.length / 2 - 1, Math.round((k * (other.length / 2 - 1)) / (points - 1))) * 2;
      const [wx, wy] = [other[across]! - px, other[across + 1]! - py];
      const width = Math.hypot(wx, wy);
      const [mx, my] = [(edge[k * 2 - 2]! + edge[k * 2 + 2]!) / 2, (edge[k * 2 - 1]! + edge[k * 2 + 3]!) / 2];
      if (width > 0 && ((px - mx) * wx + (py - my) * wy) / width > DRAWN_IN * width) continue;
    }
    out.push(px, py);
  }
  return Float64Array.from(out);
}
