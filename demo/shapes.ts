import { flattenPath, lengthOfPath, resamplePath } from '@isola/core';

/** The rings of SVG path data with y up, in mm; each closed subpath a ring (xyxy, its first point not repeated). */
export function area(data: string): Float64Array[] {
  return lines(data).map((ring) =>
    ring[0] === ring[ring.length - 2] && ring[1] === ring[ring.length - 1] ? ring.subarray(0, ring.length - 2) : ring,
  );
}

/** The first line of SVG path data with y up, in mm (xyxy). */
export function line(data: string): Float64Array {
  return lines(data)[0]!;
}

function lines(data: string): Float64Array[] {
  const flat = flattenPath(data, 'scale(1 -1)', 1, 0.5);
  if (!flat.ok) throw new Error(`${data}: ${flat.error.found}`);
  return flat.value.map((run) => Float64Array.from(run));
}

/** A ring of an ellipse, turned by `turn` degrees. */
export function ellipse(cx: number, cy: number, rx: number, ry: number, turn = 0): Float64Array {
  return arc(cx, cy, rx, ry, 0, 360, turn).subarray(2);
}

/** An open arc from `start` to `end` degrees (counter-clockwise from +x when start < end) of an ellipse turned by `turn` degrees. */
export function arc(cx: number, cy: number, rx: number, ry: number, start: number, end: number, turn = 0): Float64Array {
  const steps = Math.max(12, Math.ceil((Math.abs(end - start) / 360) * 2 * Math.PI * Math.max(rx, ry) * 2));
  const c = Math.cos((turn * Math.PI) / 180);
  const s = Math.sin((turn * Math.PI) / 180);
  const out = new Float64Array(2 * (steps + 1));
  for (let k = 0; k <= steps; k++) {
    const a = ((start + ((end - start) * k) / steps) * Math.PI) / 180;
    const x = rx * Math.cos(a);
    const y = ry * Math.sin(a);
    out[k * 2] = cx + x * c - y * s;
    out[k * 2 + 1] = cy + x * s + y * c;
  }
  return out;
}

/** Two edges of a column, running the same way (xyxy). */
export interface Rails {
  readonly left: Float64Array;
  readonly right: Float64Array;
}

/** Rails on either side of a center line; `width` gives the whole width (mm) at a share 0…1 of the way. */
export function column(center: Float64Array, width: number | ((t: number) => number)): Rails {
  const count = Math.max(24, Math.ceil(lengthOfPath(center) * 2));
  const path = resamplePath(center, count);
  const left = new Float64Array(count * 2);
  const right = new Float64Array(count * 2);
  for (let k = 0; k < count; k++) {
    const before = Math.max(0, k - 1) * 2;
    const after = Math.min(count - 1, k + 1) * 2;
    const dx = path[after]! - path[before]!;
    const dy = path[after + 1]! - path[before + 1]!;
    const length = Math.hypot(dx, dy) || 1;
    const half = (typeof width === 'number' ? width : width(k / (count - 1))) / 2;
    left[k * 2] = path[k * 2]! - (dy / length) * half;
    left[k * 2 + 1] = path[k * 2 + 1]! + (dx / length) * half;
    right[k * 2] = path[k * 2]! + (dy / length) * half;
    right[k * 2 + 1] = path[k * 2 + 1]! - (dx / length) * half;
  }
  return { left, right };
}

/** A pointed leaf between two points: `width` at its broadest, bent sideways by `bend` mm. */
export function leaf(x0: number, y0: number, x1: number, y1: number, width: number, bend = 0): Rails {
  const dx = x1 - x0;
  const dy = y1 - y0;
  const length = Math.hypot(dx, dy);
  const mx = (x0 + x1) / 2 - (dy / length) * bend;
  const my = (y0 + y1) / 2 + (dx / length) * bend;
  return column(line(`M${x0} ${y0}Q${mx} ${my} ${x1} ${y1}`), (t) => 0.3 + (width - 0.3) * Math.sin(Math.PI * t ** 0.8) ** 0.9);
}

/** A round spot as a column: from its left to its right, or as `turn` says. */
export function dot(cx: number, cy: number, radius: number, turn = 0): Rails {
  return { left: arc(cx, cy, radius, radius, 172, 8, turn), right: arc(cx, cy, radius, radius, 188, 352, turn) };
}

/** The ring around a column whose edges were moved apart by `pull` mm on either side. */
export function widen({ left, right }: Rails, pull: number): Float64Array {
  const count = 200;
  const a = resamplePath(left, count);
  const b = resamplePath(right, count);
  const ring = new Float64Array(count * 4);
  for (let k = 0; k < count; k++) {
    const [dx, dy] = [b[k * 2]! - a[k * 2]!, b[k * 2 + 1]! - a[k * 2 + 1]!];
    const share = pull / Math.max(0.05, Math.hypot(dx, dy));
    ring[k * 2] = a[k * 2]! - share * dx;
    ring[k * 2 + 1] = a[k * 2 + 1]! - share * dy;
    ring[(2 * count - 1 - k) * 2] = b[k * 2]! + share * dx;
    ring[(2 * count - 1 - k) * 2 + 1] = b[k * 2 + 1]! + share * dy;
  }
  return ring;
}
