/** Ways count as beside one another where their directions differ by no more than this (sine), and no farther apart than so many times what was asked. */
const BESIDE = 0.1;
const NEAR = 3;
/** Shorter stitches (mm) tell no direction; fewer places than this tell nothing. */
const LEAST_STITCH = 0.3;
const LEAST_PLACES = 6;

/**
 * How far apart the ways of a line lie, mm: from the middle of each stitch square to it to the nearest other way on either side, where that runs beside it;
 * the median of all. NaN where too few do, as in shapes hardly broader than the ways are apart. `paths` xyxy. O(stitches²).
 */
export function pitchBetweenWays(paths: readonly Float64Array[], asked: number): number {
  const stitches = paths
    .flatMap((path, p) =>
      Array.from({ length: path.length / 2 - 1 }, (_, k) => {
        const [x, y, x1, y1] = path.subarray(k * 2, k * 2 + 4) as unknown as [number, number, number, number];
        const length = Math.hypot(x1 - x, y1 - y);
        return { p, k, x, y, length, dx: (x1 - x) / length, dy: (y1 - y) / length };
      }),
    )
    .filter(({ length }) => length > 1e-6);
  const found: number[] = [];
  for (const a of stitches) {
    if (a.length < LEAST_STITCH) continue;
    const [mx, my] = [a.x + (a.dx * a.length) / 2, a.y + (a.dy * a.length) / 2];
    for (const side of [1, -1]) {
      const [nx, ny] = [-a.dy * side, a.dx * side];
      let best: { away: number; sine: number } | undefined;
      for (const b of stitches) {
        if (b.p === a.p && Math.abs(b.k - a.k) < 2) continue;
        const across = nx * b.dy - ny * b.dx;
        if (Math.abs(across) < 1e-9) continue;
        const away = ((b.x - mx) * b.dy - (b.y - my) * b.dx) / across;
        const along = ((b.x - mx) * ny - (b.y - my) * nx) / across;
        if (away < 0.05 || along < 0 || along > b.length || away >= (best?.away ?? NEAR * asked)) continue;
        best = { away, sine: Math.abs(b.dx * nx + b.dy * ny) };
      }
      if (best !== undefined && best.sine < BESIDE) found.push(best.away);
    }
  }
  if (found.length < LEAST_PLACES) return NaN;
  return found.sort((p, q) => p - q)[found.length >> 1]!;
}
