import { resamplePath } from '../../geometry/path.ts';
import { boxOfRing } from '../../geometry/ring.ts';
import type { Point, StitchObject } from '../../model/stitchObject.ts';

/** Places toward so many of its neighbours are tried for each object, and so many around its edge where a path could be hidden. */
const NEIGHBORS = 6;
const AROUND = 10;
/** Edges are looked at at so many of their places. */
const LOOKS = 48;
/** Places nearer to each other than this (mm) are one. */
const APART = 1;

/**
 * For each object with an area the places on its edge where it could well begin or end: nearest to each of its neighbours, and where `mayHide` says
 * that a path is hidden. O(objects²) by their boxes, and the rest by neighbours.
 */
export function placesToMeet(objects: readonly StitchObject[], mayHide: (place: Point) => boolean): Point[][] {
  const edges = objects.map(({ outline }) => (outline.length >= 6 ? edgeOf(outline) : undefined));
  const boxes = objects.map(({ outline, path, entry }) =>
    boxOfRing(outline.length >= 6 ? outline : (path ?? Float64Array.of(entry.x, entry.y))),
  );
  return objects.map((_, k) => {
    const edge = edges[k];
    if (edge === undefined) return [];
    const near = objects
      .map((__, n) => ({ n, gap: gapBetween(boxes[k]!, boxes[n]!) }))
      .filter(({ n }) => n !== k)
      .sort((a, b) => a.gap - b.gap)
      .slice(0, NEIGHBORS);
    const out: Point[] = [];
    const add = (place: Point): void => {
      if (out.every((p) => Math.hypot(p.x - place.x, p.y - place.y) >= APART)) out.push(place);
    };
    for (const { n } of near) add(nearestPlace(edge, edges[n] ?? lineOf(objects[n]!)));
    for (let a = 0; a < AROUND; a++) {
      const at = Math.floor((a * LOOKS) / AROUND) * 2;
      const place = { x: edge[at]!, y: edge[at + 1]! };
      if (mayHide(place)) add(place);
    }
    return out;
  });
}

function edgeOf(ring: Float64Array): Float64Array {
  return resamplePath(Float64Array.from([...ring, ring[0]!, ring[1]!]), LOOKS + 1);
}

function lineOf({ path, entry, exit }: StitchObject): Float64Array {
  return path !== undefined && path.length >= 4 ? resamplePath(path, LOOKS + 1) : Float64Array.of(entry.x, entry.y, exit.x, exit.y);
}

function gapBetween(a: readonly number[], b: readonly number[]): number {
  return Math.hypot(Math.max(0, a[0]! - b[2]!, b[0]! - a[2]!), Math.max(0, a[1]! - b[3]!, b[1]! - a[3]!));
}

function nearestPlace(edge: Float64Array, other: Float64Array): Point {
  let [best, least] = [0, Infinity];
  for (let k = 0; k < edge.length; k += 2)
    for (let n = 0; n < other.length; n += 2) {
      const d = (edge[k]! - other[n]!) ** 2 + (edge[k + 1]! - other[n + 1]!) ** 2;
      if (d < least) [least, best] = [d, k];
    }
  return { x: edge[best]!, y: edge[best + 1]! };
}
