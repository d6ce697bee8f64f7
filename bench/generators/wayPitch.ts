/** Ways count as beside one another where their directions differ by no more than this (sine), and no farther apart than so many times what was asked. */
const BESIDE = 0.1;
const NEAR = 3;
/** Shorter stitches (mm) tell no direction, nor do ways that lie on one another; fewer places than this tell nothing. */
const LEAST_STITCH = 0.3;
const SAME_WAY = 0.05;
const LEAST_PLACES = 6;

/**
 * How far apart the ways of a line lie, mm: from the middle of each stitch square to it to the nearest other way on either side, where that runs beside it;
 * that of the middle of the line's length. NaN where too few do, as in shapes hardly broader than the ways are apart. `paths` xyxy. O(stitches²).
 */
export function pitchBetweenWays(paths: readonly Float64Array[], asked: number): number {
  const stitches = paths.flatMap(stitchesOf);
  const found = stitches.flatMap((stitch) =>
    stitch.length < LEAST_STITCH
      ? []
      : [1, -1].flatMap((side) =>
          awayBeside(middleOf(stitch), side, stitches, NEAR * asked).map((away) => ({ away, counts: stitch.length })),
        ),
  );
  return medianOf(found);
}

/**
 * How far apart lines that follow an edge lie, mm: from the penetrations of each to the next one toward the edge (`rings`, xyxy); the first of them lies half
 * as far from the edge itself. What is left between lines that meet in the middle of a shape is no distance that anybody asked for, and does not count.
 * NaN where there are too few places. O(stitches²).
 */
export function pitchTowardEdge(paths: readonly Float64Array[], rings: readonly Float64Array[], asked: number): number {
  const stitches = paths.flatMap(stitchesOf);
  const edges = rings.flatMap((ring) => stitchesOf(Float64Array.from([...ring, ring[0]!, ring[1]!])));
  const found = paths.flatMap(penetrationsOf).flatMap((place) => {
    const [left, right] = [1, -1].map((side) => ({ side, to: nearestBeside(place, side, edges, Infinity)?.away ?? Infinity }));
    const { side, to } = left!.to < right!.to ? left! : right!;
    const line = nearestBeside(place, side, stitches, Infinity);
    const isFirst = line === undefined || to < line.away;
    return awayBeside(place, side, isFirst ? edges : stitches, NEAR * asked).map((away) => ({
      away: isFirst ? 2 * away : away,
      counts: 1,
    }));
  });
  return medianOf(found);
}

/** A place on a path, the way's direction there (unit vector), and the stitches of the path that lie beside it. */
interface Place {
  readonly path: Float64Array;
  readonly from: number;
  readonly to: number;
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
}

/** A stitch from (x, y), the k-th of its path. */
interface Stitch extends Pick<Place, 'path' | 'x' | 'y' | 'dx' | 'dy'> {
  readonly k: number;
  readonly length: number;
}

function stitchesOf(path: Float64Array): Stitch[] {
  return Array.from({ length: path.length / 2 - 1 }, (_, k) => {
    const [x, y, x1, y1] = path.subarray(k * 2, k * 2 + 4) as unknown as [number, number, number, number];
    const length = Math.hypot(x1 - x, y1 - y);
    return { path, k, x, y, length, dx: (x1 - x) / length, dy: (y1 - y) / length };
  }).filter(({ length }) => length > 1e-6);
}

function middleOf({ path, k, x, y, length, dx, dy }: Stitch): Place {
  return { path, from: k - 1, to: k + 1, x: x + (dx * length) / 2, y: y + (dy * length) / 2, dx, dy };
}

/** The penetrations between two stitches that are long enough to tell a direction. */
function penetrationsOf(path: Float64Array): Place[] {
  const stitches = stitchesOf(path);
  return stitches.slice(1).flatMap((next, n) => {
    const before = stitches[n]!;
    const [dx, dy] = [before.dx + next.dx, before.dy + next.dy];
    const length = Math.hypot(dx, dy);
    if (before.length < LEAST_STITCH || next.length < LEAST_STITCH || length < 1) return [];
    return [{ path, from: before.k - 1, to: next.k + 1, x: next.x, y: next.y, dx: dx / length, dy: dy / length }];
  });
}

/** The distance of the nearest of others square to a way on one side, if that runs beside it; none otherwise. */
function awayBeside(place: Place, side: number, others: readonly Stitch[], most: number): number[] {
  const nearest = nearestBeside(place, side, others, most);
  return nearest !== undefined && nearest.sine < BESIDE ? [nearest.away] : [];
}

function nearestBeside(at: Place, side: number, others: readonly Stitch[], most: number): { away: number; sine: number } | undefined {
  const [nx, ny] = [-at.dy * side, at.dx * side];
  let best: { away: number; sine: number } | undefined;
  for (const b of others) {
    if (b.path === at.path && b.k >= at.from && b.k <= at.to) continue;
    const across = nx * b.dy - ny * b.dx;
    if (Math.abs(across) < 1e-9) continue;
    const away = ((b.x - at.x) * b.dy - (b.y - at.y) * b.dx) / across;
    const along = ((b.x - at.x) * ny - (b.y - at.y) * nx) / across;
    if (away < SAME_WAY || along < 0 || along > b.length || away >= (best?.away ?? most)) continue;
    best = { away, sine: Math.abs(b.dx * nx + b.dy * ny) };
  }
  return best;
}

/** The median of distances that count for more or less. */
function medianOf(found: readonly { readonly away: number; readonly counts: number }[]): number {
  if (found.length < LEAST_PLACES) return NaN;
  let left = found.reduce((sum, { counts }) => sum + counts, 0) / 2;
  return [...found].sort((p, q) => p.away - q.away).find(({ counts }) => (left -= counts) <= 0)!.away;
}
