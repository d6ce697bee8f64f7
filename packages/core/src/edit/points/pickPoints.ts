import { orient2d } from 'robust-predicates';
import { type Program, STITCH } from '../../model/program.ts';

/** Whether a penetration is among those that may be picked. */
export type MayPick = (row: number) => boolean;

/** Rows of the penetrations inside a closed line (xyxy), by the even-odd rule with robust predicates; on the line counts as inside. O(rows · sides), boxes first. */
export function rowsInLasso(program: Program, lasso: Float64Array, mayPick: MayPick = () => true): number[] {
  const sides = lasso.length / 2;
  if (sides < 3) return [];
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < lasso.length; k += 2) {
    [minX, maxX] = [Math.min(minX, lasso[k]!), Math.max(maxX, lasso[k]!)];
    [minY, maxY] = [Math.min(minY, lasso[k + 1]!), Math.max(maxY, lasso[k + 1]!)];
  }
  const bands = bandsOf(lasso, minY, maxY);
  const out: number[] = [];
  for (let row = 0; row < program.rowCount; row++) {
    const [x, y] = [program.x[row]!, program.y[row]!];
    if (program.command[row] !== STITCH || x < minX || x > maxX || y < minY || y > maxY) continue;
    if (mayPick(row) && isInside(lasso, bands.at(y), x, y)) out.push(row);
  }
  return out;
}

/** The sides of a lasso that pass through each of some level bands, so that a point is held against few of them. */
function bandsOf(lasso: Float64Array, minY: number, maxY: number): { at: (y: number) => readonly number[] } {
  const sides = lasso.length / 2;
  const count = Math.max(1, Math.min(256, sides));
  const height = (maxY - minY) / count || 1;
  const bands: number[][] = Array.from({ length: count }, () => []);
  const bandOf = (y: number): number => Math.min(count - 1, Math.max(0, Math.floor((y - minY) / height)));
  for (let k = 0; k < sides; k++) {
    const [y0, y1] = [lasso[k * 2 + 1]!, lasso[((k + 1) % sides) * 2 + 1]!];
    for (let band = bandOf(Math.min(y0, y1)); band <= bandOf(Math.max(y0, y1)); band++) bands[band]!.push(k);
  }
  return { at: (y) => bands[bandOf(y)]! };
}

function isInside(lasso: Float64Array, sides: readonly number[], x: number, y: number): boolean {
  const count = lasso.length / 2;
  let inside = false;
  for (const k of sides) {
    const n = (k + 1) % count;
    const [y0, y1] = [lasso[k * 2 + 1]!, lasso[n * 2 + 1]!];
    // Above or below of it a point is neither on it nor beside it.
    if ((y < y0 && y < y1) || (y > y0 && y > y1)) continue;
    const [x0, x1] = [lasso[k * 2]!, lasso[n * 2]!];
    const side = orient2d(x0, y0, x1, y1, x, y);
    if (side === 0 && x >= Math.min(x0, x1) && x <= Math.max(x0, x1)) return true;
    if (y0 > y !== y1 > y && side > 0 === y1 < y0) inside = !inside;
  }
  return inside;
}

/** Rows of the penetrations within `reach` mm of a line (xyxy): what a brush went over. */
export function rowsUnderBrush(program: Program, line: Float64Array, reach: number, mayPick: MayPick = () => true): number[] {
  const out: number[] = [];
  for (let row = 0; row < program.rowCount; row++) {
    if (program.command[row] !== STITCH || !mayPick(row)) continue;
    if (distanceTo(line, program.x[row]!, program.y[row]!) <= reach) out.push(row);
  }
  return out;
}

function distanceTo(line: Float64Array, x: number, y: number): number {
  let least = Math.hypot(line[0]! - x, line[1]! - y);
  for (let k = 0; k + 3 < line.length; k += 2) {
    const [x0, y0] = [line[k]!, line[k + 1]!];
    const [dx, dy] = [line[k + 2]! - x0, line[k + 3]! - y0];
    const t = Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy || 1)));
    least = Math.min(least, Math.hypot(x0 + t * dx - x, y0 + t * dy - y));
  }
  return least;
}

/** The row of the penetration nearest to a place within `reach` mm, the later of two that are as near; −1 where there is none. */
export function nearestRow(program: Program, x: number, y: number, reach: number, mayPick: MayPick = () => true): number {
  let [best, least] = [-1, reach];
  for (let row = 0; row < program.rowCount; row++) {
    if (program.command[row] !== STITCH) continue;
    const away = Math.hypot(program.x[row]! - x, program.y[row]! - y);
    if (away <= least && mayPick(row)) [best, least] = [row, away];
  }
  return best;
}
