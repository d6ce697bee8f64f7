/**
 * The straight lines that the rows of a fill lie on, in their order across it. A point on line k at `u` mm is (x + u·dx, y + u·dy); dx, dy is a
 * unit vector, and u grows the same way on neighbouring lines.
 */
export interface RowLines {
  readonly count: number;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly dx: Float64Array;
  readonly dy: Float64Array;
}

/** A straight that says which way rows run where it lies: from (x0, y0) to (x1, y1), mm. */
export type AngleLine = readonly [x0: number, y0: number, x1: number, y1: number];

/**
 * Parallel lines at `angle` degrees, `step` mm apart, wherever they may meet the rings. They lie on a grid through `origin`, or on one that all shapes share,
 * half a step from the middle of the cloth, so that rows seldom run exactly along an edge.
 */
export function parallelLines(
  rings: readonly Float64Array[],
  angle: number,
  step: number,
  origin?: readonly [x: number, y: number],
): RowLines {
  const turn = (angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const at = origin === undefined ? step / 2 : origin[1] * c - origin[0] * s;
  let low = Infinity;
  let high = -Infinity;
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += 2) {
      const v = ring[i + 1]! * c - ring[i]! * s;
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
  }
  const first = Math.ceil((low - at) / step);
  const count = Number.isFinite(low) ? Math.max(0, Math.ceil((high - at) / step) - first) : 0;
  const lines = emptyLines(count);
  for (let k = 0; k < count; k++) {
    const v = (first + k) * step + at;
    lines.x[k] = -v * s;
    lines.y[k] = v * c;
    lines.dx[k] = c;
    lines.dy[k] = s;
  }
  return lines;
}

/**
 * Lines that turn from each angle line to the next, and go on parallel beyond the first and the last. Where they fan out they are `step` mm
 * apart at the far side of the shape, and closer at the near one. Fewer than two angle lines have no turn: give their angle to
 * {@link parallelLines}.
 *
 * @throws when there are fewer than two angle lines.
 */
export function turningLines(rings: readonly Float64Array[], angleLines: readonly AngleLine[], step: number): RowLines {
  if (angleLines.length < 2) throw new RangeError(`turningLines needs two angle lines, got ${angleLines.length}`);
  const guides = alignGuides(angleLines);
  const reach = reachOf(rings, guides);
  const frames: Guide[] = [];
  const first = guides[0]!;
  for (let n = Math.ceil(reach / step); n >= 1; n--) frames.push(moved(first, sideOf(first, guides[1]!) * -n * step));
  for (let g = 0; g + 1 < guides.length; g++) {
    const [a, b] = [guides[g]!, guides[g + 1]!];
    // The greater of the ways between the ends of both lines is parted into steps.
    const parts = Math.max(1, Math.ceil(farthestApart(a, b, rings) / step));
    for (let n = 0; n < parts; n++) frames.push(mixGuides(a, b, n / parts));
  }
  const last = guides[guides.length - 1]!;
  for (let n = 0; n <= Math.ceil(reach / step); n++) frames.push(moved(last, sideOf(guides[guides.length - 2]!, last) * n * step));
  const lines = emptyLines(frames.length);
  frames.forEach(({ x, y, angle }, k) => {
    lines.x[k] = x;
    lines.y[k] = y;
    lines.dx[k] = Math.cos(angle);
    lines.dy[k] = Math.sin(angle);
  });
  return lines;
}

/** A line by a point in its middle and its direction in radians, which does not jump from one guide to the next. */
interface Guide {
  readonly x: number;
  readonly y: number;
  readonly angle: number;
}

function alignGuides(angleLines: readonly AngleLine[]): Guide[] {
  let before: number | undefined;
  return angleLines.map(([x0, y0, x1, y1]) => {
    let angle = Math.atan2(y1 - y0, x1 - x0);
    // A direction and its opposite are one; the nearer to the guide before is taken.
    if (before !== undefined) angle += Math.round((before - angle) / Math.PI) * Math.PI;
    before = angle;
    return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, angle };
  });
}

function reachOf(rings: readonly Float64Array[], guides: readonly Guide[]): number {
  let reach = 0;
  for (const { x, y } of guides)
    for (const ring of rings) for (let k = 0; k < ring.length; k += 2) reach = Math.max(reach, Math.hypot(ring[k]! - x, ring[k + 1]! - y));
  return reach;
}

/** 1 where `b` lies to the left of `a`, −1 to the right. */
function sideOf(a: Guide, b: Guide): 1 | -1 {
  return Math.cos(a.angle) * (b.y - a.y) - Math.sin(a.angle) * (b.x - a.x) >= 0 ? 1 : -1;
}

function moved({ x, y, angle }: Guide, by: number): Guide {
  return { x: x - Math.sin(angle) * by, y: y + Math.cos(angle) * by, angle };
}

function mixGuides(a: Guide, b: Guide, t: number): Guide {
  return { x: a.x + t * (b.x - a.x), y: a.y + t * (b.y - a.y), angle: a.angle + t * (b.angle - a.angle) };
}

/** How far apart two guides are where the shape reaches farthest along them, mm. */
function farthestApart(a: Guide, b: Guide, rings: readonly Float64Array[]): number {
  let low = 0;
  let high = 0;
  for (const guide of [a, b]) {
    const [c, s] = [Math.cos(guide.angle), Math.sin(guide.angle)];
    for (const ring of rings) {
      for (let k = 0; k < ring.length; k += 2) {
        const u = (ring[k]! - guide.x) * c + (ring[k + 1]! - guide.y) * s;
        const v = Math.abs((ring[k + 1]! - guide.y) * c - (ring[k]! - guide.x) * s);
        // Only what lies about this guide says how far rows reach along it.
        if (v > Math.hypot(b.x - a.x, b.y - a.y)) continue;
        low = Math.min(low, u);
        high = Math.max(high, u);
      }
    }
  }
  const at = (guide: Guide, u: number): [number, number] => [guide.x + u * Math.cos(guide.angle), guide.y + u * Math.sin(guide.angle)];
  const apart = (u: number): number => {
    const [p, q] = [at(a, u), at(b, u)];
    return Math.hypot(p[0] - q[0], p[1] - q[1]);
  };
  return Math.max(apart(low), apart(0), apart(high));
}

function emptyLines(count: number): { -readonly [K in keyof RowLines]: RowLines[K] } {
  return { count, x: new Float64Array(count), y: new Float64Array(count), dx: new Float64Array(count), dy: new Float64Array(count) };
}
