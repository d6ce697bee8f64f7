import { axisDifference, meanAxis } from '../../geometry/axis.ts';
import type { Program } from '../../model/program.ts';
import type { StrokeEvidence } from '../cut/evidence.ts';
import type { Segment } from '../cut/segment.ts';
import { type RowSpan } from '../../model/stitchObject.ts';
import type { Strokes } from '../../model/strokes.ts';

/** Rows to and fro, the turns between them left out. Row r goes from penetration `first[r]` to penetration `last[r]`. */
export interface RowSet {
  readonly count: number;
  readonly first: Int32Array;
  readonly last: Int32Array;
  readonly length: Float64Array;
  /** 1 where a stitch of its own leads from the row before to this one. */
  readonly hasTurn: Uint8Array;
  /** Mean axis, degrees in [0, 180). */
  readonly angle: number;
  /** 0 to 1: how much the rows run along that axis, and not all ways; leaning to and fro by what they advance counts for nothing. */
  readonly evenness: number;
}

/** The rows of a segment that was taken for rows. */
export function collectRows(strokes: Strokes, { isTurn }: StrokeEvidence, segment: Segment): RowSet {
  const picked: number[] = [];
  for (let k = segment.first; k <= segment.last; k++) if (!isTurn[k]) picked.push(k);
  return joinRowSets([
    {
      count: picked.length,
      first: Int32Array.from(picked, (k) => strokes.first[k]!),
      last: Int32Array.from(picked, (k) => strokes.last[k]!),
      length: Float64Array.from(picked, (k) => strokes.length[k]!),
      hasTurn: Uint8Array.from(picked, (k) => (k > segment.first && isTurn[k - 1] ? 1 : 0)),
      ...axisOfRows(
        picked.map((k) => strokes.dx[k]! * strokes.length[k]!),
        picked.map((k) => strokes.dy[k]! * strokes.length[k]!),
      ),
    },
  ]);
}

/** Several sets as one, in order. */
export function joinRowSets(sets: readonly RowSet[]): RowSet {
  if (sets.length === 1) return sets[0]!;
  const count = sets.reduce((sum, s) => sum + s.count, 0);
  const joined = {
    count,
    first: new Int32Array(count),
    last: new Int32Array(count),
    length: new Float64Array(count),
    hasTurn: new Uint8Array(count),
  };
  let at = 0;
  const wx: number[] = [];
  const wy: number[] = [];
  for (const set of sets) {
    joined.first.set(set.first, at);
    joined.last.set(set.last, at);
    joined.length.set(set.length, at);
    joined.hasTurn.set(set.hasTurn, at);
    at += set.count;
    const weight = set.length.reduce((sum, l) => sum + l, 0);
    wx.push(weight * Math.cos((set.angle * Math.PI) / 180));
    wy.push(weight * Math.sin((set.angle * Math.PI) / 180));
  }
  return { ...joined, ...meanAxis(wx, wy) };
}

/** A set of one row, from one penetration to another. */
export function oneRow({ x, y }: Program, first: number, last: number): RowSet {
  const [dx, dy] = [x[last]! - x[first]!, y[last]! - y[first]!];
  return {
    ...{ count: 1, first: Int32Array.of(first), last: Int32Array.of(last), length: Float64Array.of(Math.hypot(dx, dy)) },
    ...{ hasTurn: Uint8Array.of(0), ...meanAxis([dx], [dy]) },
  };
}

/** The lengths of the stitches that end at rows of spans, mm. */
export function stitchLengths({ x, y }: Program, spans: readonly RowSpan[]): number[] {
  const lengths: number[] = [];
  for (const { first, last } of spans)
    for (let i = Math.max(1, first); i <= last; i++) lengths.push(Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!));
  return lengths;
}

/** The rows `from` ≤ r < `to` of a set. */
export function sliceRows({ x, y }: Program, rows: RowSet, from: number, to: number): RowSet {
  const part = Array.from({ length: to - from }, (_, k) => from + k);
  return {
    count: to - from,
    first: rows.first.slice(from, to),
    last: rows.last.slice(from, to),
    length: rows.length.slice(from, to),
    hasTurn: rows.hasTurn.slice(from, to),
    ...axisOfRows(
      part.map((r) => x[rows.last[r]!]! - x[rows.first[r]!]!),
      part.map((r) => y[rows.last[r]!]! - y[rows.first[r]!]!),
    ),
  };
}

/** The mean axis of rows in order, and how even it is when each is taken with the next, so that their leaning to and fro goes out of it. */
function axisOfRows(dx: readonly number[], dy: readonly number[]): { angle: number; evenness: number } {
  const whole = meanAxis(dx, dy);
  if (dx.length < 2) return whole;
  const pairs = pairRows(dx, dy);
  return { angle: whole.angle, evenness: meanAxis(pairs.dx, pairs.dy).evenness };
}

/** Each row and the next one as one vector, whichever way they run. */
export function pairRows(dx: readonly number[], dy: readonly number[]): { readonly dx: number[]; readonly dy: number[] } {
  const sign = (r: number): number => (dx[r]! * dx[r + 1]! + dy[r]! * dy[r + 1]! < 0 ? -1 : 1);
  return {
    dx: dx.slice(1).map((v, r) => dx[r]! + sign(r) * v),
    dy: dy.slice(1).map((v, r) => dy[r]! + sign(r) * v),
  };
}

/**
 * How much the stitches of a row lean by themselves, against how much the rows do: 1 where each row is one throw from edge to edge, split or
 * not, 0 where rows run side by side and only their first stitches lead from one to the next; none where all rows have one stitch.
 */
export function leanOfStitches({ x, y }: Program, rows: RowSet): number | undefined {
  let whole = 0;
  let inner = 0;
  for (let r = 1; r + 1 < rows.count; r++) {
    const [a, b] = [rows.first[r]!, rows.last[r]!];
    const [from, to] = innerOf(rows, r);
    if (b - a < 2) continue;
    // The axis here: the rows before and after, which run the other way.
    const ax = x[rows.first[r - 1]!]! - x[rows.last[r - 1]!]! + x[rows.first[r + 1]!]! - x[rows.last[r + 1]!]!;
    const ay = y[rows.first[r - 1]!]! - y[rows.last[r - 1]!]! + y[rows.first[r + 1]!]! - y[rows.last[r + 1]!]!;
    const axis = Math.hypot(ax, ay);
    if (axis === 0) continue;
    const sign = r % 2 === 0 ? 1 : -1;
    const share = Math.hypot(x[to]! - x[from]!, y[to]! - y[from]!) / Math.max(1e-6, rows.length[r]!);
    whole += (sign * share * (ax * (y[b]! - y[a]!) - ay * (x[b]! - x[a]!))) / axis;
    // Neighbours' own inner lean, so that an axis bent by their first stitches does not count.
    inner += sign * innerLean(x, y, rows, r);
  }
  return whole === 0 ? undefined : inner / whole;
}

/** How far a row departs over its stitches but the first from those of its neighbours, mm. */
function innerLean(x: Float64Array, y: Float64Array, rows: RowSet, r: number): number {
  let ax = 0;
  let ay = 0;
  for (const n of [r - 1, r + 1]) {
    const [from, to] = innerOf(rows, n);
    ax += x[from]! - x[to]!;
    ay += y[from]! - y[to]!;
  }
  const axis = Math.hypot(ax, ay);
  const [from, to] = innerOf(rows, r);
  return axis === 0 ? 0 : (ax * (y[to]! - y[from]!) - ay * (x[to]! - x[from]!)) / axis;
}

/** The part of a row that neither comes from the row before nor leads to the next one, as far as the row has so many stitches. */
function innerOf({ first, last }: RowSet, r: number): [from: number, to: number] {
  const [a, b] = [first[r]!, last[r]!];
  return b - a > 2 ? [a + 1, b - 1] : b - a > 1 ? [a + 1, b] : [a, b];
}

/** Whether two axes are one, but for what rounding and short rows do to them. */
export function isSameAxis(a: number, b: number, tolerance: number): boolean {
  return axisDifference(a, b) <= tolerance;
}
