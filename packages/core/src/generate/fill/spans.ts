import type { RowLines } from './rowLines.ts';

/**
 * Where row lines lie inside a shape. Span i lies on line `row[i]` from `a[i]` to `b[i]`; spans stand line by line, those of line k being
 * `start[k]` ≤ i < `start[k + 1]`, each line's from low to high u.
 */
export interface Spans {
  readonly lines: RowLines;
  readonly count: number;
  readonly row: Int32Array;
  readonly a: Float64Array;
  readonly b: Float64Array;
  readonly start: Int32Array;
  /** The spans of the next line and of the line before that lie beside each. */
  readonly up: readonly (readonly number[])[];
  readonly down: readonly (readonly number[])[];
}

/** Spans shorter than this (mm) are left out: no stitch fits. */
const LEAST_SPAN = 0.2;
/** Spans beside each other share this much at least, mm. */
const LEAST_SHARED = 0.02;

/** Cuts row lines with a sound shape's rings. O(edges × lines that each meets + spans). */
export function cutSpans(rings: readonly Float64Array[], lines: RowLines): Spans {
  const crossings = crossLines(rings, lines);
  const row: number[] = [];
  const a: number[] = [];
  const b: number[] = [];
  const start = new Int32Array(lines.count + 1);
  for (let k = 0; k < lines.count; k++) {
    start[k] = row.length;
    const us = crossings[k]?.sort((p, q) => p - q) ?? [];
    for (let i = 0; i + 1 < us.length; i += 2) {
      if (us[i + 1]! - us[i]! <= LEAST_SPAN) continue;
      row.push(k);
      a.push(us[i]!);
      b.push(us[i + 1]!);
    }
  }
  start[lines.count] = row.length;
  const up: number[][] = row.map(() => []);
  const down: number[][] = row.map(() => []);
  for (let k = 0; k + 1 < lines.count; k++) {
    for (let i = start[k]!, j = start[k + 1]!; i < start[k + 1]! && j < start[k + 2]!;) {
      if (Math.min(b[i]!, b[j]!) - Math.max(a[i]!, a[j]!) > LEAST_SHARED) {
        up[i]!.push(j);
        down[j]!.push(i);
      }
      if (b[i]! < b[j]!) i++;
      else j++;
    }
  }
  return { lines, count: row.length, row: Int32Array.from(row), a: Float64Array.from(a), b: Float64Array.from(b), start, up, down };
}

/** For each line the places where it crosses the rings, unsorted. */
function crossLines(rings: readonly Float64Array[], { count, x, y, dx, dy }: RowLines): (number[] | undefined)[] {
  const found: (number[] | undefined)[] = new Array<number[] | undefined>(count);
  if (count === 0) return found;
  const add = (k: number, u: number): void => void (found[k] ??= []).push(u);
  let isParallel = true;
  for (let k = 1; k < count; k++) if (Math.abs(dx[k]! - dx[0]!) + Math.abs(dy[k]! - dy[0]!) > 1e-12) isParallel = false;
  const step = count > 1 ? (y[1]! - y[0]!) * dx[0]! - (x[1]! - x[0]!) * dy[0]! : 1;
  for (const ring of rings) {
    const n = ring.length / 2;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      const [px, py, qx, qy] = [ring[j * 2]!, ring[j * 2 + 1]!, ring[i * 2]!, ring[i * 2 + 1]!];
      let from = 0;
      let to = count - 1;
      if (isParallel) {
        const p = ((py - y[0]!) * dx[0]! - (px - x[0]!) * dy[0]!) / step;
        const q = ((qy - y[0]!) * dx[0]! - (qx - x[0]!) * dy[0]!) / step;
        from = Math.max(0, Math.floor(Math.min(p, q)));
        to = Math.min(count - 1, Math.ceil(Math.max(p, q)));
      }
      for (let k = from; k <= to; k++) {
        const p = (py - y[k]!) * dx[k]! - (px - x[k]!) * dy[k]!;
        const q = (qy - y[k]!) * dx[k]! - (qx - x[k]!) * dy[k]!;
        // An edge's end belongs to the edge above the line only, so that a corner on a line counts once.
        if (p > 0 === q > 0) continue;
        const t = p / (p - q);
        const [cx, cy] = [px + t * (qx - px), py + t * (qy - py)];
        add(k, (cx - x[k]!) * dx[k]! + (cy - y[k]!) * dy[k]!);
      }
    }
  }
  return found;
}

/** u of the point of a span's line that is nearest to a place; it may lie beyond the span. */
export function alongLine({ lines, row }: Spans, span: number, x: number, y: number): number {
  const k = row[span]!;
  return (x - lines.x[k]!) * lines.dx[k]! + (y - lines.y[k]!) * lines.dy[k]!;
}

/** The span nearest to a place, and how far it is, mm. Looks at the lines around the place first, at all where these are far. */
export function nearestSpan(spans: Spans, x: number, y: number): { readonly span: number; readonly distance: number } {
  const { lines, start } = spans;
  const last = lines.count - 1;
  if (last > 2) {
    const across = (k: number): number => (y - lines.y[k]!) * lines.dx[k]! - (x - lines.x[k]!) * lines.dy[k]!;
    const step = (across(0) - across(last)) / last;
    const k = Math.round(across(0) / step);
    const isParallel = lines.dx[0] === lines.dx[last] && lines.dy[0] === lines.dy[last];
    if (isParallel && k >= 0 && k <= last) {
      const near = nearestOf(spans, start[Math.max(0, k - 2)]!, start[Math.min(last, k + 2) + 1]!, x, y);
      // Lines farther off than those cannot have a nearer span.
      if (near.distance <= 2 * Math.abs(step)) return near;
    }
  }
  return nearestOf(spans, 0, spans.count, x, y);
}

function nearestOf(spans: Spans, from: number, to: number, x: number, y: number): { span: number; distance: number } {
  const { lines, row, a, b } = spans;
  let span = -1;
  let distance = Infinity;
  for (let i = from; i < to; i++) {
    const u = Math.max(a[i]!, Math.min(b[i]!, alongLine(spans, i, x, y)));
    const k = row[i]!;
    const d = Math.hypot(lines.x[k]! + u * lines.dx[k]! - x, lines.y[k]! + u * lines.dy[k]! - y);
    if (d < distance) [span, distance] = [i, d];
  }
  return { span, distance };
}

/** Spans that follow one another from line to line without a branch: what can be sewn to and fro in one go. */
export interface Section {
  /** Indices of spans, line by line. */
  readonly spans: readonly number[];
}

/** Sections of a shape, each span in one, and for each span the section it is in. */
export function findSections(spans: Spans): { readonly sections: Section[]; readonly sectionOf: Int32Array } {
  const sectionOf = new Int32Array(spans.count).fill(-1);
  const sections: Section[] = [];
  for (let i = 0; i < spans.count; i++) {
    if (sectionOf[i]! >= 0) continue;
    const chain = [i];
    sectionOf[i] = sections.length;
    for (let at = i; ;) {
      const next = spans.up[at]!.length === 1 ? spans.up[at]![0]! : -1;
      if (next < 0 || spans.down[next]!.length !== 1) break;
      chain.push(next);
      sectionOf[next] = sections.length;
      at = next;
    }
    sections.push({ spans: chain });
  }
  return { sections, sectionOf };
}

/** Which part of the shape each span lies in: spans that hang together from line to line lie in one. */
export function findParts({ count, up, down }: Spans): Int32Array {
  const part = new Int32Array(count).fill(-1);
  let parts = 0;
  for (let i = 0; i < count; i++) {
    if (part[i]! >= 0) continue;
    const open = [i];
    part[i] = parts;
    for (let at = open.pop(); at !== undefined; at = open.pop())
      for (const next of [...up[at]!, ...down[at]!])
        if (part[next]! < 0) {
          part[next] = parts;
          open.push(next);
        }
    parts++;
  }
  return part;
}
