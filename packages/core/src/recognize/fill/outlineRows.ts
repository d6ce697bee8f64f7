import { areaOfRing, uniteRings } from '../../geometry/region.ts';
import { type GridRow, type LineGrid, startBeyond, startOf } from './gridRows.ts';

/** What of a line of the grid is sewn, from `a` to `b` along it, mm. */
interface Stretch {
  readonly line: number;
  a: number;
  b: number;
  readonly up: Stretch[];
  readonly down: Stretch[];
}

/** Rows nearer together on one line than this (mm) are one: no cloth shows between them. */
const TOGETHER = 0.06;
/** Rows on neighbouring lines hang together where they share this much, mm. */
const SHARED = 0.02;
/** One row is told to be missed where its neighbours share more than this, mm; two, where no cloth shows between rows so far apart, too. */
const MISSED_ONE = 1.2;
const MISSED_TWO = 2;
const COVERED = 0.8;
/** Parts whose rows on neighbouring lines are no farther apart than this along them (mm) are linked. */
const LINKED = 0.8;
/** A side goes on beyond the last row by no more than so many mm for each mm that it goes across. */
const STEEPEST = 2;

/**
 * The area that rows on the lines of a grid cover, as rings of places along and across them: every row from end to end, what lies between rows of
 * neighbouring lines that share a part, and half a step beyond the outer ones. Where two rows lie beside each other on one line the slit between
 * them stays as it is, however narrow.
 */
export function outlineOfRows(chains: readonly (readonly GridRow[])[], grid: LineGrid): Float64Array[] {
  const lines = new Map<number, Stretch[]>();
  for (const chain of chains) {
    for (const [n, { line, low, high }] of chain.entries()) {
      const start = startOf(chain, n) ?? startBeyond(chain, n, grid.step) ?? chain[n - 1]?.last ?? low;
      put(lines, line, Math.min(low, start), Math.max(high, start));
    }
  }
  for (const [line, stretches] of lines) lines.set(line, together(stretches));
  closeLines(lines, 1, MISSED_ONE);
  if (3 * grid.step < COVERED) closeLines(lines, 2, MISSED_TWO);
  const all = [...lines.values()].flat();
  linkApart(all, lines);
  for (const stretch of all) {
    for (const next of lines.get(stretch.line + 1) ?? []) {
      if (shared(stretch, next) <= SHARED) continue;
      stretch.up.push(next);
      next.down.push(stretch);
    }
  }
  return uniteRings([...chainRings(all, grid), ...branchRings(all, grid)]);
}

function put(lines: Map<number, Stretch[]>, line: number, a: number, b: number): void {
  const stretch = { line, a: Math.min(a, b), b: Math.max(a, b), up: [], down: [] };
  const on = lines.get(line);
  if (on === undefined) lines.set(line, [stretch]);
  else on.push(stretch);
}

/** Stretches of one line, those that overlap or nearly do as one; ascending. */
function together(stretches: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = [];
  for (const stretch of [...stretches].sort((p, q) => p.a - q.a)) {
    const before = out[out.length - 1];
    if (before !== undefined && stretch.a - before.b < TOGETHER) before.b = Math.max(before.b, stretch.b);
    else out.push(stretch);
  }
  return out;
}

/**
 * What lies on both lines beside `over` lines lies on these, too, where they share more than `least` mm: a row that was not told, or told in part,
 * leaves no slit.
 */
function closeLines(lines: Map<number, Stretch[]>, over: number, least: number): void {
  const missed = new Map<number, Stretch[]>();
  for (const [below, stretches] of lines) {
    for (const p of stretches) {
      for (const q of lines.get(below + over + 1) ?? []) {
        if (shared(p, q) <= least) continue;
        for (let line = below + 1; line <= below + over; line++) {
          const on = lines.get(line) ?? [];
          const isAlone = !on.some((stretch) => stretch.a < Math.min(p.b, q.b) && stretch.b > Math.max(p.a, q.a));
          if (!isAlone && over > 1) continue;
          const t = (line - below) / (over + 1);
          const [a, b] = isAlone ? [p.a + t * (q.a - p.a), p.b + t * (q.b - p.b)] : [Math.max(p.a, q.a), Math.min(p.b, q.b)];
          missed.set(line, [...(missed.get(line) ?? on), { line, a, b, up: [], down: [] }]);
        }
      }
    }
  }
  for (const [line, stretches] of missed) lines.set(line, together(stretches));
}

function shared(a: Stretch, b: Stretch): number {
  return Math.min(a.b, b.b) - Math.max(a.a, b.a);
}

/**
 * Lets parts that lie beside each other by a hair, but share nothing, hang together: the end of a row is drawn out until it lies beside the row of
 * the next line. What lies farther apart than {@link LINKED} stays by itself.
 */
function linkApart(all: readonly Stretch[], lines: ReadonlyMap<number, readonly Stretch[]>): void {
  const partOf = new Map<Stretch, Stretch>(all.map((stretch) => [stretch, stretch]));
  const part = (stretch: Stretch): Stretch => {
    let at = stretch;
    while (partOf.get(at) !== at) at = partOf.get(at)!;
    partOf.set(stretch, at);
    return at;
  };
  const apart: { from: Stretch; to: Stretch; gap: number }[] = [];
  for (const from of all) {
    for (const to of lines.get(from.line + 1) ?? []) {
      const gap = SHARED - shared(from, to);
      if (gap < 0) partOf.set(part(from), part(to));
      else if (gap < LINKED) apart.push({ from, to, gap });
    }
  }
  for (const { from, to, gap } of apart.sort((p, q) => p.gap - q.gap)) {
    if (part(from) === part(to)) continue;
    partOf.set(part(from), part(to));
    // The shorter one reaches over to the other.
    const [short, long] = from.b - from.a < to.b - to.a ? [from, to] : [to, from];
    if (short.a > long.a) short.a -= gap + SHARED;
    else short.b += gap + SHARED;
  }
}

/** Rings around stretches that follow one another from line to line without a branch, half a step beyond those that nothing follows. */
function chainRings(all: readonly Stretch[], { step, heightOf }: LineGrid): Float64Array[] {
  const isOnward = (from: Stretch): boolean => from.up.length === 1 && from.up[0]!.down.length === 1;
  const rings: Float64Array[] = [];
  for (const start of all) {
    if (start.down.length === 1 && isOnward(start.down[0]!)) continue;
    const chain = [start];
    for (let at = start; isOnward(at); at = at.up[0]!) chain.push(at.up[0]!);
    const left: number[] = [];
    const right: number[] = [];
    const add = (a: number, b: number, v: number): void => {
      left.push(a, v);
      right.push(b, v);
    };
    const end = chain[chain.length - 1]!;
    if (start.down.length === 0) add(...capOf(start, chain[1], step / 2), heightOf(start.line) - step / 2);
    for (const { a, b, line } of chain) add(a, b, heightOf(line));
    if (end.up.length === 0) add(...capOf(end, chain[chain.length - 2], step / 2), heightOf(end.line) + step / 2);
    if (left.length < 4) continue;
    for (let k = left.length - 2; k >= 0; k -= 2) right.push(left[k]!, left[k + 1]!);
    rings.push(Float64Array.from(right));
  }
  return rings;
}

/** How far an outer stretch goes along half a step beyond it, by how it changed since the one before; by itself it narrows on both sides. */
function capOf({ a, b, line }: Stretch, before: Stretch | undefined, reach: number): [number, number] {
  const moved = (from: number | undefined, to: number, alone: number): number => {
    if (from === undefined) return alone * reach;
    return Math.max(-STEEPEST * reach, Math.min(STEEPEST * reach, ((to - from) / Math.abs(line - before!.line)) * 0.5));
  };
  const [low, high] = [a + moved(before?.a, a, 1), b + moved(before?.b, b, -1)];
  return low < high ? [low, high] : [(low + high) / 2, (low + high) / 2];
}

/**
 * What lies between stretches of neighbouring lines where one of them meets several: each meets its share, parted in the middle of the slits, which
 * end half way to the line that has none.
 */
function branchRings(all: readonly Stretch[], { heightOf }: LineGrid): Float64Array[] {
  const rings: Float64Array[] = [];
  for (const lower of all) {
    rings.push(...slitEnds(lower, lower.up, heightOf), ...slitEnds(lower, lower.down, heightOf));
    if (lower.up.length === 1 && lower.up[0]!.down.length === 1) continue;
    for (const [n, upper] of lower.up.entries()) {
      const [a, b] = shareOf(lower, lower.up, n);
      const [c, d] = shareOf(upper, upper.down, upper.down.indexOf(lower));
      const [v, w] = [heightOf(lower.line), heightOf(upper.line)];
      rings.push(Float64Array.of(a, v, b, v, d, w, c, w));
    }
  }
  return rings;
}

/** The ends of the slits between stretches that lie beside one, nearest to its line: the half of each that a row of it covers. */
function slitEnds(stretch: Stretch, beside: readonly Stretch[], heightOf: LineGrid['heightOf']): Float64Array[] {
  return beside.slice(1).map((after, k) => {
    const before = beside[k]!;
    const [middle, v] = [slitOf(stretch, before, after), heightOf(stretch.line)];
    const half = (v + heightOf(after.line)) / 2;
    return Float64Array.of((middle + before.b) / 2, half, (middle + after.a) / 2, half, middle, v);
  });
}

/** Where along a stretch the slit between two that lie beside it has its middle. */
function slitOf({ a, b }: Stretch, before: Stretch, after: Stretch): number {
  return Math.max(a, Math.min(b, (before.b + after.a) / 2));
}

/** The part of a stretch that meets the n-th of those beside it. */
function shareOf(stretch: Stretch, beside: readonly Stretch[], n: number): [number, number] {
  const slit = (k: number): number => slitOf(stretch, beside[k]!, beside[k + 1]!);
  return [n === 0 ? stretch.a : slit(n - 1), n === beside.length - 1 ? stretch.b : slit(n)];
}

/** Whether all of an area but scraps hangs together. */
export function hangsTogether(rings: readonly Float64Array[], scrap: number): boolean {
  const sizes = rings.map(areaOfRing).sort((p, q) => q - p);
  return !(sizes[1]! > scrap * sizes[0]!);
}
