/** Points of a ring are no farther apart than this (mm) before others are hung on it, so that there is a place near every other ring. */
const DENSE = 0.5;
/** A step over no longer than so many gaps lies inside the shape: rings beside each other are so far apart. */
export const SURE_STEP = 1.1;

/**
 * One unbroken line through rings beside one another: each ring is gone round, and on the way the needle steps over to a ring beside it, goes
 * round that one with all that hangs on it, and steps back next to where it left. Rings farther from all others than `reach` mm begin a line of
 * their own. Steps over where `isOpen` is false half way, outside of the shape, are taken where there are no others only. Lines (xyxy, closed) start as
 * near to (`x`, `y`) as they can. A tree of nearest rings (Prim's algorithm), O(points × points within reach of each).
 */
export function tourRings(
  rings: readonly Float64Array[],
  reach: number,
  gap: number,
  isOpen: (x: number, y: number) => boolean,
  x?: number,
  y?: number,
): Float64Array[] {
  const dense = rings.filter((ring) => ring.length >= 6).map(densify);
  const left = new Set(dense.keys());
  const near = indexPoints(dense, reach);
  const links = new Map<number, Link[]>();
  const tours: Float64Array[] = [];
  while (left.size > 0) {
    const root = firstRing(dense, left, x, y);
    left.delete(root.ring);
    // The nearest ring that is left, from any that hangs on the root.
    const best = new Map<number, Link & { readonly on: number }>();
    const look = (on: number): void => {
      const ring = dense[on]!;
      for (let i = 0; i < ring.length; i += 2) {
        near(ring[i]!, ring[i + 1]!, (k, j) => {
          if (!left.has(k)) return;
          const [px, py] = [dense[k]![j * 2]!, dense[k]![j * 2 + 1]!];
          const distance = Math.hypot(px - ring[i]!, py - ring[i + 1]!);
          const known = best.get(k);
          if (distance >= reach || distance >= (known?.cost ?? Infinity)) return;
          const isOutside = distance > SURE_STEP * gap && !isOpen((px + ring[i]!) / 2, (py + ring[i + 1]!) / 2);
          const cost = isOutside ? reach + distance : distance;
          if (cost < (known?.cost ?? Infinity)) best.set(k, { ring: k, from: i / 2, to: j, cost, on });
        });
      }
    };
    look(root.ring);
    for (;;) {
      let next: (Link & { readonly on: number }) | undefined;
      for (const [k, link] of best) if (left.has(k) && (next === undefined || link.cost < next.cost)) next = link;
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
  /** The length of the step over, mm; more where it leaves the shape. */
  readonly cost: number;
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

/** Calls back for every point of rings that may lie within `reach` mm of a place: those in the squares around it. */
function indexPoints(
  rings: readonly Float64Array[],
  reach: number,
): (x: number, y: number, found: (ring: number, point: number) => void) => void {
  const squares = new Map<number, number[]>();
  const keyOf = (column: number, row: number): number => column * 2_097_152 + row;
  rings.forEach((ring, k) => {
    for (let i = 0; i < ring.length; i += 2) {
      const key = keyOf(Math.floor(ring[i]! / reach), Math.floor(ring[i + 1]! / reach));
      const there = squares.get(key);
      if (there === undefined) squares.set(key, [k, i / 2]);
      else there.push(k, i / 2);
    }
  });
  return (x, y, found) => {
    const [column, row] = [Math.floor(x / reach), Math.floor(y / reach)];
    for (let c = column - 1; c <= column + 1; c++) {
      for (let r = row - 1; r <= row + 1; r++) {
        const there = squares.get(keyOf(c, r));
        if (there !== undefined) for (let n = 0; n < there.length; n += 2) found(there[n]!, there[n + 1]!);
      }
    }
  };
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
