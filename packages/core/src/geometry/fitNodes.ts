import { NODE, type Nodes } from './nodes.ts';

/** How far a fitted line may leave the points that it was fitted to, mm. */
export const FIT_TOLERANCE = 0.1;

/** The line is looked at every so many tolerances: between two looks it cannot swing out and back. */
const LOOK = 4;
/** Directions are taken over so many looks on each side of a point. */
const REACH = 2;
/** A turn above this (as a cosine) is a corner: the line need not go through it smoothly. */
const CORNER = Math.cos((40 * Math.PI) / 180);
/** How often a fit is bettered by looking for the nearest place on the curve again, before it is given up. */
const ROUNDS = 5;
/** A fit that misses by more than this many tolerances is not bettered at all. */
const HOPELESS = 6;

/**
 * The nodes of a line of cubic curves that leaves the given points (xyxy) by no more than `tolerance` mm, few of them: from each node the curve goes
 * as far as one cubic can follow (P. J. Schneider, An algorithm for automatically fitting digitized curves, in Graphics Gems, 1990, for the single
 * fit), which gives the least count as long as what one cubic can follow it can follow in part. Corners are nodes; elsewhere the line is smooth. Fewer
 * than two points give a node each. O(n log n).
 */
export function fitNodes(points: Float64Array, isClosed: boolean, tolerance = FIT_TOLERANCE): Nodes {
  const line = look(points, isClosed, tolerance * LOOK);
  const n = line.length / 2;
  if (n < 2) return [...line, ...line, ...line];
  const corners = findCorners(line, isClosed);
  const first = isClosed ? Math.max(0, corners.indexOf(1)) : 0;
  const turned = isClosed ? rotate(line, first) : line;
  const isCorner = isClosed ? rotateFlags(corners, first) : corners;
  const fit = new Fit(turned, isCorner, isClosed, tolerance);
  return fit.nodes();
}

/** The points with others between them, so that none are farther apart than `step`; of a closed line the first is said again at the end. */
function look(points: Float64Array, isClosed: boolean, step: number): Float64Array {
  const out: number[] = [];
  const n = points.length / 2;
  for (let k = 0; k < n; k++) {
    const [x, y] = [points[k * 2]!, points[k * 2 + 1]!];
    if (out.length > 0 && x === out.at(-2) && y === out.at(-1)) continue;
    if (out.length > 0) between(out, x, y, step);
    out.push(x, y);
  }
  if (isClosed && out.length >= 4) {
    const [x, y] = [out[0]!, out[1]!];
    if (x !== out.at(-2) || y !== out.at(-1)) {
      between(out, x, y, step);
      out.push(x, y);
    }
  }
  return Float64Array.from(out);
}

function between(out: number[], x: number, y: number, step: number): void {
  const [fromX, fromY] = [out.at(-2)!, out.at(-1)!];
  const parts = Math.ceil(Math.hypot(x - fromX, y - fromY) / step);
  for (let p = 1; p < parts; p++) out.push(fromX + ((x - fromX) * p) / parts, fromY + ((y - fromY) * p) / parts);
}

/** 1 at the corners of a line (the last point of a closed one is its first again). */
function findCorners(line: Float64Array, isClosed: boolean): Uint8Array {
  const n = line.length / 2;
  const turn = new Float64Array(n).fill(1);
  const at = (k: number): number => (isClosed ? (((k % (n - 1)) + (n - 1)) % (n - 1)) * 2 : Math.min(n - 1, Math.max(0, k)) * 2);
  for (let k = isClosed ? 0 : 1; k < n - 1; k++) {
    const [p, a, b] = [at(k), at(k - REACH), at(k + REACH)];
    const [ax, ay, bx, by] = [line[p]! - line[a]!, line[p + 1]! - line[a + 1]!, line[b]! - line[p]!, line[b + 1]! - line[p + 1]!];
    const lengths = Math.hypot(ax, ay) * Math.hypot(bx, by);
    turn[k] = lengths > 0 ? (ax * bx + ay * by) / lengths : -1;
  }
  const out = new Uint8Array(n);
  for (let k = isClosed ? 0 : 1; k < n - 1; k++) {
    if (turn[k]! > CORNER) continue;
    let isSharpest = true;
    for (let d = 1; d <= REACH; d++) isSharpest &&= turn[at(k - d) / 2]! >= turn[k]! && turn[at(k + d) / 2]! > turn[k]!;
    if (isSharpest) out[k] = 1;
  }
  if (isClosed) out[n - 1] = out[0]!;
  return out;
}

/** A closed line (its first point said again at its end) that begins at another of its points. */
function rotate(line: Float64Array, first: number): Float64Array {
  if (first === 0) return line;
  const body = line.subarray(0, line.length - 2);
  return Float64Array.from([...body.subarray(first * 2), ...body.subarray(0, first * 2), line[first * 2]!, line[first * 2 + 1]!]);
}

function rotateFlags(flags: Uint8Array, first: number): Uint8Array {
  const body = flags.subarray(0, flags.length - 1);
  return Uint8Array.from([...body.subarray(first), ...body.subarray(0, first), flags[first]!]);
}

type Direction = readonly [x: number, y: number];

class Fit {
  private readonly line: Float64Array;
  private readonly isCorner: Uint8Array;
  private readonly isClosed: boolean;
  private readonly tolerance: number;
  private readonly n: number;
  /** The share of the curve at each of the points being fitted. */
  private readonly share: Float64Array;
  /** The curve that was fitted last. */
  private curve: [number, number, number, number] = [0, 0, 0, 0];

  constructor(line: Float64Array, isCorner: Uint8Array, isClosed: boolean, tolerance: number) {
    this.line = line;
    this.isCorner = isCorner;
    this.isClosed = isClosed;
    this.tolerance = tolerance;
    this.n = line.length / 2;
    this.share = new Float64Array(this.n);
  }

  nodes(): number[] {
    const out: number[] = [];
    const place = (k: number): [number, number] => [this.line[k * 2]!, this.line[k * 2 + 1]!];
    out.push(...place(0), ...place(0), ...place(0));
    for (let from = 0; from < this.n - 1;) {
      const { to, pulls } = this.longest(from);
      [out[out.length - 2], out[out.length - 1]] = [pulls[0], pulls[1]];
      out.push(...place(to), pulls[2], pulls[3], ...place(to));
      from = to;
    }
    if (!this.isClosed) return out;
    // The last node is the first again: its curve comes in there.
    const last = out.length - NODE;
    [out[2], out[3]] = [out[last + 2]!, out[last + 3]!];
    return out.slice(0, -NODE);
  }

  /** The farthest point that one curve from `from` can reach, by doubling and halving, and where it is pulled to. */
  private longest(from: number): { to: number; pulls: [number, number, number, number] } {
    let most = from + 1;
    while (most < this.n - 1 && this.isCorner[most] === 0) most++;
    let good = from + 1;
    let pulls = this.straight(from, good);
    let bad = most + 1;
    for (let step = 2; from + step <= most; step *= 2) {
      if (!this.fits(from, from + step)) {
        bad = from + step;
        break;
      }
      good = from + step;
      pulls = this.pulls(from, good);
    }
    if (bad > most && good < most && this.fits(from, most)) {
      good = most;
      pulls = this.pulls(from, most);
    }
    while (bad - good > 1) {
      const middle = (good + bad) >> 1;
      if (this.fits(from, middle)) {
        good = middle;
        pulls = this.pulls(from, middle);
      } else bad = middle;
    }
    return { to: good, pulls };
  }

  private straight(from: number, to: number): [number, number, number, number] {
    return [this.line[from * 2]!, this.line[from * 2 + 1]!, this.line[to * 2]!, this.line[to * 2 + 1]!];
  }

  private pulls(from: number, to: number): [number, number, number, number] {
    return this.isOnStraight(from, to) ? this.straight(from, to) : this.curve;
  }

  /** Whether a straight is as near as a curve need be; then nothing is pulled. */
  private isOnStraight(from: number, to: number): boolean {
    const { line } = this;
    const [x0, y0] = [line[from * 2]!, line[from * 2 + 1]!];
    const [dx, dy] = [line[to * 2]! - x0, line[to * 2 + 1]! - y0];
    const length = Math.hypot(dx, dy);
    for (let k = from + 1; k < to; k++) {
      const [px, py] = [line[k * 2]! - x0, line[k * 2 + 1]! - y0];
      const along = length > 0 ? Math.min(length, Math.max(0, (px * dx + py * dy) / length)) : 0;
      if (Math.hypot(px - (along * dx) / (length || 1), py - (along * dy) / (length || 1)) > STRAIGHT * this.tolerance) return false;
    }
    return true;
  }

  /** Whether one cubic follows the points `from` to `to`; `curve` holds its pulls then. */
  private fits(from: number, to: number): boolean {
    if (to - from === 1) return true;
    if (this.isOnStraight(from, to)) return true;
    const { line, share } = this;
    const [a, b] = [this.direction(from, true), this.direction(to, false)];
    let length = 0;
    share[from] = 0;
    for (let k = from + 1; k <= to; k++) {
      length += Math.hypot(line[k * 2]! - line[k * 2 - 2]!, line[k * 2 + 1]! - line[k * 2 - 1]!);
      share[k] = length;
    }
    for (let k = from + 1; k <= to; k++) share[k]! /= length;
    for (let round = 0; round < ROUNDS; round++) {
      this.solve(from, to, a, b, length);
      const miss = this.better(from, to);
      if (miss <= this.tolerance * MARGIN) return true;
      if (miss > HOPELESS * this.tolerance) return false;
    }
    return false;
  }

  /** The direction of the line at a point: through it, or (at a corner or an end) away from it or toward it. */
  private direction(k: number, isOut: boolean): Direction {
    const { line, n } = this;
    const isEnd = this.isCorner[k] === 1 || (!this.isClosed && (k === 0 || k === n - 1));
    const at = (i: number): number => (this.isClosed ? ((i % (n - 1)) + (n - 1)) % (n - 1) : Math.min(n - 1, Math.max(0, i))) * 2;
    const away = (i: number): Direction => [line[at(i)]! - line[k * 2]!, line[at(i) + 1]! - line[k * 2 + 1]!];
    if (!isEnd) {
      const [ax, ay] = away(k - REACH);
      const [bx, by] = away(k + REACH);
      return isOut ? unit(bx - ax, by - ay) : unit(ax - bx, ay - by);
    }
    // A parabola through the point and two more on its side.
    const side = isOut ? 1 : -1;
    const [nx, ny] = away(k + side);
    const [fx, fy] = away(k + 2 * side);
    return Math.hypot(fx, fy) < Math.hypot(nx, ny) ? unit(nx, ny) : unit(4 * nx - fx, 4 * ny - fy);
  }

  /** Least squares for how far both pulls reach along the directions of the ends. */
  private solve(from: number, to: number, a: Direction, b: Direction, length: number): void {
    const { line, share } = this;
    const [x0, y0, x3, y3] = [line[from * 2]!, line[from * 2 + 1]!, line[to * 2]!, line[to * 2 + 1]!];
    let [c00, c01, c11, v0, v1] = [0, 0, 0, 0, 0];
    for (let k = from + 1; k < to; k++) {
      const t = share[k]!;
      const s = 1 - t;
      const [b0, b1, b2, b3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
      const [dx, dy] = [line[k * 2]! - (x0 * (b0 + b1) + x3 * (b2 + b3)), line[k * 2 + 1]! - (y0 * (b0 + b1) + y3 * (b2 + b3))];
      c00 += b1 * b1;
      c01 += b1 * b2 * (a[0] * b[0] + a[1] * b[1]);
      c11 += b2 * b2;
      v0 += b1 * (a[0] * dx + a[1] * dy);
      v1 += b2 * (b[0] * dx + b[1] * dy);
    }
    const det = c00 * c11 - c01 * c01;
    let [p, q] = det > 1e-12 ? [(v0 * c11 - v1 * c01) / det, (c00 * v1 - c01 * v0) / det] : [length / 3, length / 3];
    // A pull backward, or one longer than the line, would loop.
    if (!(p > 1e-3 * length && p < length)) p = length / 3;
    if (!(q > 1e-3 * length && q < length)) q = length / 3;
    this.curve = [x0 + a[0] * p, y0 + a[1] * p, x3 + b[0] * q, y3 + b[1] * q];
  }

  /** The farthest that a point lies from the curve, mm; each point's share is moved toward its nearest place on it (Newton). */
  private better(from: number, to: number): number {
    const { line, share } = this;
    const [x1, y1, x2, y2] = this.curve;
    const [x0, y0, x3, y3] = [line[from * 2]!, line[from * 2 + 1]!, line[to * 2]!, line[to * 2 + 1]!];
    let worst = 0;
    for (let k = from + 1; k < to; k++) {
      const t = share[k]!;
      const s = 1 - t;
      const [px, py] = [line[k * 2]!, line[k * 2 + 1]!];
      const ex = s * s * s * x0 + 3 * s * s * t * x1 + 3 * s * t * t * x2 + t * t * t * x3 - px;
      const ey = s * s * s * y0 + 3 * s * s * t * y1 + 3 * s * t * t * y2 + t * t * t * y3 - py;
      worst = Math.max(worst, ex * ex + ey * ey);
      const dx = 3 * (s * s * (x1 - x0) + 2 * s * t * (x2 - x1) + t * t * (x3 - x2));
      const dy = 3 * (s * s * (y1 - y0) + 2 * s * t * (y2 - y1) + t * t * (y3 - y2));
      const ddx = 6 * (s * (x2 - 2 * x1 + x0) + t * (x3 - 2 * x2 + x1));
      const ddy = 6 * (s * (y2 - 2 * y1 + y0) + t * (y3 - 2 * y2 + y1));
      const slope = dx * dx + dy * dy + ex * ddx + ey * ddy;
      if (slope > 0) share[k] = Math.min(1, Math.max(0, t - (ex * dx + ey * dy) / slope));
    }
    return Math.sqrt(worst);
  }
}

/** A straight is taken where the points leave it by less than this share of the tolerance. */
const STRAIGHT = 0.5;
/** What a curve may do between two looks is left room for. */
const MARGIN = 0.95;

function unit(x: number, y: number): Direction {
  const length = Math.hypot(x, y);
  return length > 0 ? [x / length, y / length] : [0, 0];
}
