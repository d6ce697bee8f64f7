/** A closed line (xyxy, first point not repeated) that others were hung on. */
export interface TourRing {
  readonly ring: Float64Array;
}

/** Points of a ring are no farther apart than this (mm) before others are hung on it, so that there is a place near every other ring. */
const DENSE = 0.5;

/**
 * One unbroken line through rings beside one another: each ring is gone round, and on the way the needle steps over to a ring beside it, goes
 * round that one with all that hangs on it, and steps back next to where it left. Rings farther from all others than `reach` mm begin a line of
 * their own. Lines (xyxy, closed) start as near to (`x`, `y`) as they can. A tree of nearest rings (Prim's algorithm), O(points²) with most
 * pairs of rings told apart by their boxes.
 */
export function tourRings(rings: readonly Float64Array[], reach: number, gap: number, x?: number, y?: number): Float64Array[] {
  const dense = rings.filter((ring) => ring.length >= 6).map(densify);
  const left = new Set(dense.keys());
  const links = new Map<number, Link[]>();
  const tours: Float64Array[] = [];
  while (left.size > 0) {
    const root = firstRing(dense, left, x, y);
    left.delete(root.ring);
    // The nearest ring that is left, from any that hangs on the root.
    const best = new Map<number, Link & { readonly on: number }>();
    const look = (on: number): void => {
      for (const k of left) {
        const known = best.get(k);
        const link = nearestPoints(dense[on]!, dense[k]!, known?.distance ?? reach);
        if (link !== undefined) best.set(k, { ...link, ring: k, on });
      }
    };
    look(root.ring);
    for (;;) {
      let next: (Link & { readonly on: number }) | undefined;
      for (const [k, link] of best) if (left.has(k) && (next === undefined || link.distance < next.distance)) next = link;
      if (next === undefined) break;
      left.delete(next.ring);
      links.set(next.on, [...(links.get(next.on) ?? []), next]);
      look(next.ring);
    }
    const out: number[] = [];
    goRound(dense, links, root.ring, root.point, gap, out);
    out.push(out[0]!, out[1]!);
    tours.push(Float64Array.from(out));
  }
  return tours;
}

interface Link {
  readonly ring: number;
  /** Indices of points on the ring that it hangs on and on the ring itself. */
  readonly from: number;
  readonly to: number;
  readonly distance: number;
}

/** Round a ring from one of its points, with all that hangs on it; stops short of the start by `gap` mm. */
function goRound(
  rings: readonly Float64Array[],
  links: ReadonlyMap<number, readonly Link[]>,
  k: number,
  start: number,
  gap: number,
  out: number[],
): void {
  const ring = rings[k]!;
  const n = ring.length / 2;
  const hung = new Map<number, Link[]>();
  for (const link of links.get(k) ?? []) hung.set(link.from, [...(hung.get(link.from) ?? []), link]);
  const stopsAt = n - Math.min(n - 3, Math.max(1, Math.round(gap / DENSE)));
  for (let s = 0; s < n; s++) {
    const at = (start + s) % n;
    if (s <= stopsAt) out.push(ring[at * 2]!, ring[at * 2 + 1]!);
    for (const link of hung.get(at) ?? []) goRound(rings, links, link.ring, link.to, gap, out);
  }
}

function firstRing(rings: readonly Float64Array[], left: ReadonlySet<number>, x?: number, y?: number): { ring: number; point: number } {
  let best = { ring: -1, point: 0 };
  let least = Infinity;
  for (const k of left) {
    if (x === undefined || y === undefined) return { ring: k, point: 0 };
    const ring = rings[k]!;
    for (let i = 0; i < ring.length; i += 2) {
      const d = (ring[i]! - x) ** 2 + (ring[i + 1]! - y) ** 2;
      if (d < least) [least, best] = [d, { ring: k, point: i / 2 }];
    }
  }
  return best;
}

/** The nearest points of two rings, if nearer than `within` mm. */
function nearestPoints(a: Float64Array, b: Float64Array, within: number): Omit<Link, 'ring'> | undefined {
  const [boxA, boxB] = [boxOf(a), boxOf(b)];
  if (boxA[0] > boxB[2] + within || boxB[0] > boxA[2] + within || boxA[1] > boxB[3] + within || boxB[1] > boxA[3] + within)
    return undefined;
  let least = within * within;
  let found: Omit<Link, 'ring'> | undefined;
  for (let i = 0; i < a.length; i += 2) {
    const [px, py] = [a[i]!, a[i + 1]!];
    if (px < boxB[0] - within || px > boxB[2] + within || py < boxB[1] - within || py > boxB[3] + within) continue;
    for (let j = 0; j < b.length; j += 2) {
      const d = (b[j]! - px) ** 2 + (b[j + 1]! - py) ** 2;
      if (d >= least) continue;
      least = d;
      found = { from: i / 2, to: j / 2, distance: Math.sqrt(d) };
    }
  }
  return found;
}

const boxes = new WeakMap<Float64Array, readonly [number, number, number, number]>();

function boxOf(ring: Float64Array): readonly [number, number, number, number] {
  const known = boxes.get(ring);
  if (known !== undefined) return known;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < ring.length; k += 2) {
    minX = Math.min(minX, ring[k]!);
    maxX = Math.max(maxX, ring[k]!);
    minY = Math.min(minY, ring[k + 1]!);
    maxY = Math.max(maxY, ring[k + 1]!);
  }
  const box = [minX, minY, maxX, maxY] as const;
  boxes.set(ring, box);
  return box;
}

/** The ring with points added so that none is farther than {@link DENSE} from the next; its corners stay. */
export function densify(ring: Float64Array): Float64Array {
  const out: number[] = [];
  const n = ring.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const dx = ring[j * 2]! - ring[i * 2]!;
    const dy = ring[j * 2 + 1]! - ring[i * 2 + 1]!;
    const parts = Math.max(1, Math.ceil(Math.hypot(dx, dy) / DENSE));
    for (let k = 0; k < parts; k++) out.push(ring[i * 2]! + (dx * k) / parts, ring[i * 2 + 1]! + (dy * k) / parts);
  }
  return Float64Array.from(out);
}
