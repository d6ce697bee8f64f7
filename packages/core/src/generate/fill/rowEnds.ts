import type { Spans } from './spans.ts';

/** Where lines fan in to less than this share of their distance, every second row stops short. */
const CROWDED = 0.5;

/** Where rows end with compensation: beyond the outline by `pull`, but never over the middle of what lies between two spans of a line. */
export function widenSpans({ count, row, a, b }: Spans, pull: number): [Float64Array, Float64Array] {
  const low = new Float64Array(count);
  const high = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const before = i > 0 && row[i - 1] === row[i] ? (b[i - 1]! + a[i]!) / 2 : -Infinity;
    const after = i + 1 < count && row[i + 1] === row[i] ? (b[i]! + a[i + 1]!) / 2 : Infinity;
    // What is drawn in by more than half of it is left as a stitch in its middle.
    const most = Math.max(pull, -0.4 * (b[i]! - a[i]!));
    low[i] = Math.max(before, a[i]! - most);
    high[i] = Math.min(after, b[i]! + most);
  }
  return [low, high];
}

/** Draws in every second row at an end where lines fan in, so that thread does not heap up there. Changes the spans. */
export function shortenCrowded({ lines, start, a, b, up, down }: Spans, step: number): void {
  const apart = (k: number, n: number, u: number): number =>
    Math.hypot(
      lines.x[k]! - lines.x[n]! + u * (lines.dx[k]! - lines.dx[n]!),
      lines.y[k]! - lines.y[n]! + u * (lines.dy[k]! - lines.dy[n]!),
    );
  for (let k = 1; k + 1 < lines.count; k += 2) {
    for (let i = start[k]!; i < start[k + 1]!; i++) {
      if (up[i]!.length !== 1 || down[i]!.length !== 1) continue;
      const isCrowded = (u: number): boolean => apart(k - 1, k, u) < CROWDED * step && apart(k, k + 1, u) < CROWDED * step;
      const [low, high] = [a[i]!, b[i]!];
      const middle = (low + high) / 2;
      for (let u = low; u < middle && isCrowded(u); u += 0.25) a[i] = u;
      for (let u = high; u > middle && isCrowded(u); u -= 0.25) b[i] = u;
    }
  }
}
