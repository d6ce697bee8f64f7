/** A place that was pointed at, mm, and what it was drawn to, in words; none where it lies free. */
export interface Snapped {
  readonly x: number;
  readonly y: number;
  readonly to?: string;
}

export interface SnapTargets {
  /** Places that draw a point to them: ends of objects, the first node. */
  readonly places: readonly { readonly x: number; readonly y: number; readonly says: string }[];
  /** Edges and paths (xyxy). */
  readonly lines: readonly Float64Array[];
  /** The node before: from there the line takes to whole steps of angle. */
  readonly from?: { readonly x: number; readonly y: number } | undefined;
}

/** A line takes to every so many degrees, where it is off by no more than the second. */
const STEP = 15;
const OFF = 2.5;

/** A place drawn to an end, an edge or an angle that lies within `reach` mm; ends before edges, and these before angles. In whole thousandths. */
export function snap(x: number, y: number, { places, lines, from }: SnapTargets, reach: number): Snapped {
  let best: Snapped | undefined;
  let least = reach;
  for (const place of places) {
    const away = Math.hypot(place.x - x, place.y - y);
    if (away <= least) [best, least] = [{ x: place.x, y: place.y, to: place.says }, away];
  }
  if (best !== undefined) return thousandths(best);
  for (const line of lines)
    for (let k = 0; k + 3 < line.length; k += 2) {
      const [x0, y0] = [line[k]!, line[k + 1]!];
      const [dx, dy] = [line[k + 2]! - x0, line[k + 3]! - y0];
      const t = Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy || 1)));
      const away = Math.hypot(x0 + t * dx - x, y0 + t * dy - y);
      if (away <= least) [best, least] = [{ x: x0 + t * dx, y: y0 + t * dy, to: 'an edge' }, away];
    }
  return thousandths(best ?? alongAngle(x, y, from));
}

function alongAngle(x: number, y: number, from: SnapTargets['from']): Snapped {
  if (from === undefined) return { x, y };
  const [dx, dy] = [x - from.x, y - from.y];
  const degrees = (Math.atan2(dy, dx) * 180) / Math.PI;
  const whole = Math.round(degrees / STEP) * STEP;
  if (Math.abs(degrees - whole) > OFF) return { x, y };
  const turn = (whole * Math.PI) / 180;
  const along = dx * Math.cos(turn) + dy * Math.sin(turn);
  return { x: from.x + along * Math.cos(turn), y: from.y + along * Math.sin(turn), to: `${((whole % 180) + 180) % 180}°` };
}

function thousandths({ x, y, ...more }: Snapped): Snapped {
  return { x: Math.round(x * 1000) / 1000, y: Math.round(y * 1000) / 1000, ...more };
}
