/**
 * The signed area of a ring (xyxy, its last point not repeated): positive when it runs counter-clockwise with y up. Fewer than three
 * points give 0.
 */
export function signedArea(ring: Float64Array): number {
  let twice = 0;
  const n = ring.length / 2;
  for (let i = 0, j = n - 1; i < n; j = i++) {
    twice += ring[j * 2]! * ring[i * 2 + 1]! - ring[i * 2]! * ring[j * 2 + 1]!;
  }
  return twice / 2;
}

/** Whether a point lies inside rings taken together by the even-odd rule; a point on an edge may fall either way. */
export function containsPoint(rings: readonly Float64Array[], x: number, y: number): boolean {
  let inside = false;
  for (const ring of rings) {
    const n = ring.length / 2;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      const yi = ring[i * 2 + 1]!;
      const yj = ring[j * 2 + 1]!;
      if (yi > y !== yj > y && x < ((ring[j * 2]! - ring[i * 2]!) * (y - yi)) / (yj - yi) + ring[i * 2]!) inside = !inside;
    }
  }
  return inside;
}

/** Whether a ring winds around a point: so it also does where the ring overlaps itself, as the edges of a column on a tight bend do. */
export function windsAround(ring: Float64Array, x: number, y: number): boolean {
  let turns = 0;
  const n = ring.length / 2;
  for (let i = 0, j = n - 1; i < n; j = i++) {
    const yi = ring[i * 2 + 1]!;
    const yj = ring[j * 2 + 1]!;
    if (yi > y === yj > y) continue;
    if (x < ((ring[j * 2]! - ring[i * 2]!) * (y - yi)) / (yj - yi) + ring[i * 2]!) turns += yi > yj ? 1 : -1;
  }
  return turns !== 0;
}

export type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

/** The box around a ring (xyxy); of none it is empty: its least is above its most. */
export function boxOfRing(ring: Float64Array): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < ring.length; k += 2) {
    minX = Math.min(minX, ring[k]!);
    maxX = Math.max(maxX, ring[k]!);
    minY = Math.min(minY, ring[k + 1]!);
    maxY = Math.max(maxY, ring[k + 1]!);
  }
  return [minX, minY, maxX, maxY];
}

/** The distance of a point to the nearest place on the edges of rings; infinite where there are none. */
export function distanceToRings(rings: readonly Float64Array[], px: number, py: number): number {
  let least = Infinity;
  for (const ring of rings)
    for (let k = 0, n = ring.length - 2; k < ring.length; n = k, k += 2) {
      const [ax, ay] = [ring[n]!, ring[n + 1]!];
      const [dx, dy] = [ring[k]! - ax, ring[k + 1]! - ay];
      const square = dx * dx + dy * dy;
      const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / square));
      least = Math.min(least, Math.hypot(px - ax - t * dx, py - ay - t * dy));
    }
  return least;
}

/** The same ring the other way round. */
export function reversedRing(ring: Float64Array): Float64Array {
  const out = new Float64Array(ring.length);
  for (let k = 0; k < ring.length; k += 2) out.set([ring[ring.length - 2 - k]!, ring[ring.length - 1 - k]!], k);
  return out;
}

/** Outlines and holes (xyxy), told by which lies in which: outlines counter-clockwise, holes clockwise. O(rings² · points) at worst. */
export function orientRings(rings: readonly Float64Array[]): Float64Array[] {
  const boxes = rings.length > 1 ? rings.map(boxOfRing) : [];
  return rings.map((ring, k) => {
    let around = 0;
    for (let n = 0; n < boxes.length; n++) if (n !== k && isWithin(boxes[k]!, boxes[n]!) && isMostlyIn(ring, rings[n]!)) around++;
    return signedArea(ring) > 0 === (around % 2 === 0) ? ring : reversedRing(ring);
  });
}

function isWithin(inner: Box, outer: Box): boolean {
  return inner[0] >= outer[0] && inner[1] >= outer[1] && inner[2] <= outer[2] && inner[3] <= outer[3];
}

/** By three corners, since one of them may lie on the other ring. */
function isMostlyIn(ring: Float64Array, other: Float64Array): boolean {
  const count = ring.length / 2;
  let inside = 0;
  for (let third = 0; third < 3; third++) {
    const k = Math.floor((third * count) / 3) * 2;
    if (containsPoint([other], ring[k]!, ring[k + 1]!)) inside++;
  }
  return inside >= 2;
}
