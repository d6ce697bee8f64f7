import { type Program, STITCH } from '../model/program.ts';
import type { Point, StitchObject } from '../model/stitchObject.ts';

/** Edge of a cell in which what lies on what is looked at, mm. */
export const CELL = 0.2;
/** A thread is drawn so wide, mm: as wide as closed rows need to show no cloth. */
export const DRAWN_WIDTH = 0.4;
/** Cells are numbered from here, so that all places within ±1000 mm have positive numbers. */
const OFFSET = 8192;

/** Numbers of cells on a grid that is the same for all designs: column · 2^14 + row. */
export type Cells = Int32Array;

export function cellAt(x: number, y: number): number {
  return ((Math.floor(x / CELL) + OFFSET) << 14) | (Math.floor(y / CELL) + OFFSET);
}

/** The middle of a cell, mm. */
export function middleOf(cell: number): Point {
  return { x: ((cell >> 14) - OFFSET + 0.5) * CELL, y: ((cell & 0x3fff) - OFFSET + 0.5) * CELL };
}

/** The cells that thread is laid on by rows `first` ≤ row < `end`, which begin at `start`; each once. O(length / cell). */
export function threadCells({ x, y, command }: Program, first: number, end: number, start: Point): Cells {
  const out = new Set<number>();
  let [px, py] = [start.x, start.y];
  for (let i = first; i < end; i++) {
    const [qx, qy] = [x[i]!, y[i]!];
    if (command[i] === STITCH) eachCellOn(px, py, qx, qy, (cell) => out.add(cell));
    [px, py] = [qx, qy];
  }
  return Int32Array.from(out);
}

/** Calls `take` with the cells that a straight thread lies on, some of them more than once. */
export function eachCellOn(px: number, py: number, qx: number, qy: number, take: (cell: number) => void): void {
  const length = Math.hypot(qx - px, qy - py);
  if (length === 0) {
    take(cellAt(px, py));
    return;
  }
  const aside = (3 * DRAWN_WIDTH) / 8;
  const [ox, oy] = [(-(qy - py) / length) * aside, ((qx - px) / length) * aside];
  const steps = Math.ceil(length / (0.75 * CELL));
  for (let k = 0; k <= steps; k++) {
    const t = k / steps;
    const [x, y] = [px + (qx - px) * t, py + (qy - py) * t];
    take(cellAt(x, y));
    take(cellAt(x + ox, y + oy));
    take(cellAt(x - ox, y - oy));
  }
}

/** A closed cover has this much thread or more (K) in one layer. */
const CLOSED_COVER = 0.8;

/** Whether a cover hides what lies under it: a satin or fill whose rows leave no cloth between them, by the thickness of its thread (mm). */
export function isClosedCover({ kind, role, pattern, spacing, outline }: StitchObject, thickness: number): boolean {
  if (role !== 'cover' || pattern !== undefined || (kind !== 'satin' && kind !== 'fill') || outline.length < 6) return false;
  return spacing !== undefined && (2 * thickness) / spacing >= CLOSED_COVER;
}

const SOLID = new WeakMap<Float64Array, Cells>();

/** The cells inside an object's outline, holes left out. Known for as long as the outline is. O(cells × edges met). */
export function solidCells({ outline, holes, kind }: Pick<StitchObject, 'outline' | 'holes' | 'kind'>): Cells {
  const known = SOLID.get(outline);
  if (known !== undefined) return known;
  const rings = [outline, ...holes];
  const out: number[] = [];
  let [minY, maxY] = [Infinity, -Infinity];
  for (let k = 1; k < outline.length; k += 2) [minY, maxY] = [Math.min(minY, outline[k]!), Math.max(maxY, outline[k]!)];
  for (let row = Math.floor(minY / CELL); row <= Math.floor(maxY / CELL); row++) {
    const y = (row + 0.5) * CELL;
    let [winding, isOdd] = [0, false];
    const at = crossings(rings, y);
    for (let k = 0; k + 1 < at.length; k++) {
      winding += at[k]!.turn;
      isOdd = !isOdd;
      // A column's edges may overlap on a tight bend; a fill's holes may run either way round.
      if (kind === 'satin' ? winding === 0 : !isOdd) continue;
      const [from, to] = [Math.ceil(at[k]!.x / CELL - 0.5), Math.floor(at[k + 1]!.x / CELL - 0.5)];
      for (let column = from; column <= to; column++) out.push(((column + OFFSET) << 14) | (row + OFFSET));
    }
  }
  const cells = Int32Array.from(out);
  SOLID.set(outline, cells);
  return cells;
}

/** Where rings cross a level line, ascending, and which way. */
function crossings(rings: readonly Float64Array[], y: number): { readonly x: number; readonly turn: 1 | -1 }[] {
  const out: { x: number; turn: 1 | -1 }[] = [];
  for (const ring of rings)
    for (let k = 0; k < ring.length; k += 2) {
      const n = (k + 2) % ring.length;
      const [y0, y1] = [ring[k + 1]!, ring[n + 1]!];
      if (y0 > y !== y1 > y) out.push({ x: ring[k]! + ((y - y0) / (y1 - y0)) * (ring[n]! - ring[k]!), turn: y1 > y0 ? 1 : -1 });
    }
  return out.sort((a, b) => a.x - b.x);
}
