import { EndType, inflatePathsD, JoinType } from 'clipper2-ts';
import { areaOfRing } from '../geometry/region.ts';
import type { Program } from '../model/program.ts';
import type { FillGeometry } from './measureFill.ts';
import type { Piece } from './piece.ts';
import { median, meanAxis } from './rows.ts';

/** What a line does that is more than a line. */
export type LinePattern = 'edge-stitch' | 'contour' | 'meander' | 'registration-mark';

/** Two penetrations nearer than this (mm) are one hole. */
const SAME_HOLE = 0.15;
/** Every so many stitches of an edge stitch at least one comes back to the hole before the last, and so many prongs make one. */
const PRONG_SHARE = 0.22;
const LEAST_PRONGS = 6;
/** A registration mark is a cross of this size, mm. */
const MARK_SIZE = { from: 2.5, to: 16 };
/** A line that fills an area is this long (mm) and goes beside itself at an even distance between these (mm). */
const LEAST_LINE = 120;
const LINE_APART = { from: 0.35, to: 4 };
const UNEVEN = 0.45;
/** A neighbour is so many times as far along the line as across, and so many millimetres at least. */
const AWAY = 2.5;
const LEAST_AWAY = 1.5;
/** So much of a contour line runs along its neighbour; a meander turns about. */
const PARALLEL = 0.63;
/** So much of the line has itself for a neighbour. */
const BESIDE_ITSELF = 0.75;

/** Says of a run whether it is an edge (blanket) stitch, a registration mark, or one line that fills an area, and the area then. */
export function findPattern(program: Program, piece: Piece): { readonly pattern: LinePattern; readonly fill?: FillGeometry } | undefined {
  // Prongs are beside one another as rows are, but each goes back through its own hole.
  if ((piece.measured.kind === 'run' || piece.rows !== undefined) && isEdgeStitch(program, piece)) return { pattern: 'edge-stitch' };
  if (piece.measured.kind !== 'run') return undefined;
  if (isMark(program, piece)) return { pattern: 'registration-mark' };
  return fillingLine(piece);
}

/** Along, out, back to the same hole, along: prongs square to an edge. */
function isEdgeStitch({ x, y }: Program, { first, last }: Piece): boolean {
  let prongs = 0;
  let square = 0;
  for (let i = Math.max(first, 1); i + 2 <= last; i++) {
    if (Math.hypot(x[i + 1]! - x[i - 1]!, y[i + 1]! - y[i - 1]!) > SAME_HOLE) continue;
    prongs++;
    const [px, py] = [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!];
    const [ax, ay] = [x[i + 2]! - x[i + 1]!, y[i + 2]! - y[i + 1]!];
    if (Math.abs(px * ax + py * ay) < 0.5 * Math.hypot(px, py) * Math.hypot(ax, ay)) square++;
  }
  return prongs >= LEAST_PRONGS && prongs >= PRONG_SHARE * (last - first + 1) && square >= 0.7 * prongs;
}

/** Two short straights that cross each other square, and nothing else. */
function isMark({ x, y }: Program, { first, last }: Piece): boolean {
  const from = Math.max(0, first - 1);
  if (last - from > 40) return false;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = from; i <= last; i++) {
    minX = Math.min(minX, x[i]!);
    maxX = Math.max(maxX, x[i]!);
    minY = Math.min(minY, y[i]!);
    maxY = Math.max(maxY, y[i]!);
  }
  const size = Math.max(maxX - minX, maxY - minY);
  if (size < MARK_SIZE.from || size > MARK_SIZE.to || Math.min(maxX - minX, maxY - minY) < 0.6 * size) return false;
  const dx: number[] = [];
  const dy: number[] = [];
  for (let i = from + 1; i <= last; i++) {
    dx.push(x[i]! - x[i - 1]!);
    dy.push(y[i]! - y[i - 1]!);
  }
  // Of a cross all stitches run one of two ways: with angles taken fourfold they are one.
  const { angle } = meanAxis(
    dx.map((d, k) => (d * d - dy[k]! * dy[k]!) / Math.max(1e-9, Math.hypot(d, dy[k]!))),
    dx.map((d, k) => (2 * d * dy[k]!) / Math.max(1e-9, Math.hypot(d, dy[k]!))),
  );
  const axis = ((angle / 2) * Math.PI) / 180;
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  let on = 0;
  let oneWay = 0;
  for (let i = from; i <= last; i++) {
    const u = (x[i]! - cx) * Math.cos(axis) + (y[i]! - cy) * Math.sin(axis);
    const v = (y[i]! - cy) * Math.cos(axis) - (x[i]! - cx) * Math.sin(axis);
    // All lies on the two axes through the middle, a frame or a ring does not.
    if (Math.min(Math.abs(u), Math.abs(v)) < 0.12 * size) on++;
    if (Math.abs(u) > Math.abs(v)) oneWay++;
  }
  const count = last - from + 1;
  return count >= 5 && on >= 0.9 * count && oneWay > 0.25 * count && oneWay < 0.75 * count;
}

/** A long line at an even distance beside itself: contour where it follows rings, meander where it turns about. */
function fillingLine({ measured }: Piece): { pattern: LinePattern; fill: FillGeometry } | undefined {
  if (measured.kind !== 'run' || measured.length < LEAST_LINE || measured.passes > 1) return undefined;
  const { path } = measured;
  const count = path.length / 2;
  const cell = LINE_APART.to;
  const grid = new Map<string, number[]>();
  const way = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    if (k > 0) way[k] = way[k - 1]! + Math.hypot(path[k * 2]! - path[k * 2 - 2]!, path[k * 2 + 1]! - path[k * 2 - 1]!);
    const key = `${Math.floor(path[k * 2]! / cell)} ${Math.floor(path[k * 2 + 1]! / cell)}`;
    const there = grid.get(key);
    if (there === undefined) grid.set(key, [k]);
    else if (there.length < 256) there.push(k);
  }
  const gaps: number[] = [];
  let parallel = 0;
  const step = Math.max(1, Math.floor(count / 600));
  let asked = 0;
  for (let k = 1; k + 1 < count; k += step) {
    asked++;
    const [px, py] = [path[k * 2]!, path[k * 2 + 1]!];
    const [cx, cy] = [Math.floor(px / cell), Math.floor(py / cell)];
    let least = Infinity;
    let with_ = 0;
    for (let gx = cx - 1; gx <= cx + 1; gx++)
      for (let gy = cy - 1; gy <= cy + 1; gy++)
        for (const n of grid.get(`${gx} ${gy}`) ?? []) {
          if (n + 1 >= count) continue;
          const [ax, ay] = [path[n * 2]!, path[n * 2 + 1]!];
          const [dx, dy] = [path[n * 2 + 2]! - ax, path[n * 2 + 3]! - ay];
          const length = dx * dx + dy * dy;
          const t = length > 0 ? Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / length)) : 0;
          const gap = Math.hypot(ax + t * dx - px, ay + t * dy - py);
          // The same way a little on or back is no neighbour: there it is as far along the line as across.
          if (gap >= least || Math.abs(way[n]! + t * (way[n + 1]! - way[n]!) - way[k]!) < Math.max(LEAST_AWAY, AWAY * gap)) continue;
          least = gap;
          const [ux, uy] = [path[k * 2 + 2]! - path[k * 2 - 2]!, path[k * 2 + 3]! - path[k * 2 - 1]!];
          with_ = Math.abs(ux * dx + uy * dy) / Math.max(1e-9, Math.hypot(ux, uy) * Math.sqrt(length));
        }
    if (least > LINE_APART.to) continue;
    gaps.push(least);
    if (with_ > 0.9) parallel++;
  }
  if (gaps.length < BESIDE_ITSELF * asked || gaps.length < 20) return undefined;
  const sorted = gaps.sort((a, b) => a - b);
  const spacing = median(sorted);
  const spread = (sorted[Math.floor(sorted.length * 0.8)]! - sorted[Math.floor(sorted.length * 0.2)]!) / 2;
  if (spacing < LINE_APART.from || spread > UNEVEN * spacing) return undefined;
  const points = Array.from({ length: count }, (_, k) => ({ x: path[k * 2]!, y: path[k * 2 + 1]! }));
  const grown = inflatePathsD([points], spacing * 0.62, JoinType.Round, EndType.Round, 2, 3, 0.05);
  const area = inflatePathsD(grown, -spacing * 0.55, JoinType.Round, EndType.Polygon, 2, 3, 0.05)
    .map((ring) => Float64Array.from(ring.flatMap((p) => [p.x, p.y])))
    .filter((ring) => Math.abs(areaOfRing(ring)) > 1);
  const outline = area.reduce((most, ring) => (areaOfRing(ring) > areaOfRing(most) ? ring : most), area[0] ?? new Float64Array(0));
  const holes = area.filter((ring) => areaOfRing(ring) < 0);
  const fill = { angle: 0, spacing, stitchLength: measured.stitchLength, offset: undefined, rowEnds: 'slanted' as const, outline, holes };
  return { pattern: parallel > PARALLEL * gaps.length ? 'contour' : 'meander', fill };
}
