import Flatbush from 'flatbush';
import { closeRing } from '../underlay.ts';

/** How far a prong (px, py, mm) that stands at a place may reach, mm; infinite where nothing is in its way. */
export type ProngRoom = (x: number, y: number, px: number, py: number) => number;

/** Prongs of edges that face each other share what lies between them. */
const HALF = 0.5;
/** What a prong meets nearer than this (mm) is the edge that it stands on. */
const OWN_EDGE = 0.1;

/** The room of prongs inside an area: half of the way to the edge across from them. O(log corners) each, once for O(corners log corners). */
export function roomInside(rings: readonly Float64Array[]): ProngRoom {
  const edges = indexEdges(rings.map(closeRing));
  return (x, y, px, py) => {
    const length = Math.hypot(px, py);
    // The way across is looked at as far as half of it may be a whole prong.
    const [qx, qy] = [px / HALF, py / HALF];
    let room = Infinity;
    for (const [ax, ay, bx, by] of edges.near(Math.min(x, x + qx), Math.min(y, y + qy), Math.max(x, x + qx), Math.max(y, y + qy))) {
      const [dx, dy] = [bx - ax, by - ay];
      const across = qx * dy - qy * dx;
      if (across === 0) continue;
      const t = ((ax - x) * dy - (ay - y) * dx) / across;
      const u = ((ax - x) * qy - (ay - y) * qx) / across;
      if (t >= 0 && t <= 1 && u >= 0 && u <= 1 && (t * length) / HALF > OWN_EDGE) room = Math.min(room, t * length);
    }
    return room;
  };
}

/** The room of prongs on one edge of a column: no farther than the nearest place of the other one (xyxy). O(log corners) each. */
export function roomToward(other: Float64Array): ProngRoom {
  const edges = indexEdges([other]);
  return (x, y, px, py) => {
    const reach = Math.hypot(px, py);
    let room = Infinity;
    for (const [ax, ay, bx, by] of edges.near(x - reach, y - reach, x + reach, y + reach)) {
      const [dx, dy] = [bx - ax, by - ay];
      const square = dx * dx + dy * dy;
      const t = square > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / square)) : 0;
      room = Math.min(room, Math.hypot(ax + t * dx - x, ay + t * dy - y));
    }
    return room;
  };
}

type Edge = readonly [ax: number, ay: number, bx: number, by: number];

/** The straights between the points of some lines, by where they lie. */
function indexEdges(lines: readonly Float64Array[]): { near: (minX: number, minY: number, maxX: number, maxY: number) => Edge[] } {
  const edges = lines.flatMap((line) =>
    Array.from({ length: line.length / 2 - 1 }, (_, k): Edge => [line[2 * k]!, line[2 * k + 1]!, line[2 * k + 2]!, line[2 * k + 3]!]),
  );
  if (edges.length === 0) return { near: () => [] };
  const index = new Flatbush(edges.length);
  for (const [ax, ay, bx, by] of edges) index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
  index.finish();
  return { near: (...box) => index.search(...box).map((k) => edges[k]!) };
}
