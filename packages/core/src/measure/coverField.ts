import { type Program, STITCH } from '../model/program.ts';

/** Edge of a cell, mm. */
export const COVER_CELL = 0.5;
/** The most cells that are made: 1000 × 1000 mm. A larger field gets larger cells. */
const MAX_CELLS = 4_000_000;
/** An empty frame around the penetrations, in cells, so that smoothing and outlines need no edge cases. */
const FRAME = 2;

/** The cells that a program's rows lie in, row by row from the lowest y up. */
export interface Field {
  readonly columns: number;
  readonly rows: number;
  readonly minX: number;
  readonly minY: number;
  readonly cell: number;
}

/** The field around all rows of a program that have a place. */
export function findField(program: Program): Field {
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i]!;
    // Floats end at jumps, and what lies between two stitches is laid from the row before.
    if (command > 1) continue;
    minX = Math.min(minX, program.x[i]!);
    maxX = Math.max(maxX, program.x[i]!);
    minY = Math.min(minY, program.y[i]!);
    maxY = Math.max(maxY, program.y[i]!);
  }
  if (minX > maxX) return { columns: 1, rows: 1, minX: 0, minY: 0, cell: COVER_CELL };
  let cell = COVER_CELL;
  for (;;) {
    const left = Math.floor(minX / cell) - FRAME;
    const low = Math.floor(minY / cell) - FRAME;
    const columns = Math.floor(maxX / cell) + 1 + FRAME - left;
    const rows = Math.floor(maxY / cell) + 1 + FRAME - low;
    if (columns * rows <= MAX_CELLS) return { columns, rows, minX: left * cell, minY: low * cell, cell };
    cell *= 2;
  }
}

export type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

/** The box around marked cells, mm; empty where none is. */
export function boxOfMarks(isMarked: Uint8Array, { columns, minX, minY, cell }: Field): Box {
  let [left, low, right, high] = [Infinity, Infinity, -1, -1];
  for (let at = 0; at < isMarked.length; at++) {
    if (isMarked[at] !== 1) continue;
    const [column, row] = [at % columns, Math.floor(at / columns)];
    [left, right] = [Math.min(left, column), Math.max(right, column)];
    [low, high] = [Math.min(low, row), Math.max(high, row)];
  }
  return [minX + left * cell, minY + low * cell, minX + (right + 1) * cell, minY + (high + 1) * cell];
}

/** Whether the stitch that ends at a row may cross a box. */
export function meets({ x, y }: Program, row: number, [minX, minY, maxX, maxY]: Box): boolean {
  const before = Math.max(0, row - 1);
  const [ax, bx, ay, by] = [x[before]!, x[row]!, y[before]!, y[row]!];
  return (ax >= minX || bx >= minX) && (ax <= maxX || bx <= maxX) && (ay >= minY || by >= minY) && (ay <= maxY || by <= maxY);
}

/** Visits the cells of penetrations and stitches that end at rows `first` ≤ row < `end`. */
export function eachCell(
  program: Program,
  lengths: Float64Array,
  field: Field,
  first: number,
  end: number,
  visit: (at: number) => void,
): void {
  for (let row = first; row < Math.min(end, program.rowCount); row++) {
    if (program.command[row] !== STITCH) continue;
    visit(cellAt(field, program.x[row]!, program.y[row]!));
    if (lengths[row]! > 0 && row > 0) walkSegment(program, lengths, field, row, visit);
  }
}

/** The cell that a place lies in. */
export function cellAt({ minX, minY, cell, columns }: Field, x: number, y: number): number {
  return Math.floor((y - minY) / cell) * columns + Math.floor((x - minX) / cell);
}

/** Walks the cells that the stitch ending at row `i` crosses, and gives for each the length inside it. */
export function walkSegment(
  program: Program,
  lengths: Float64Array,
  { minX, minY, cell, columns }: Field,
  i: number,
  visit: (at: number, length: number) => void,
): void {
  const x0 = (program.x[i - 1]! - minX) / cell;
  const y0 = (program.y[i - 1]! - minY) / cell;
  const dx = (program.x[i]! - minX) / cell - x0;
  const dy = (program.y[i]! - minY) / cell - y0;
  const length = lengths[i]!;
  const stepX = dx > 0 ? 1 : -1;
  const stepY = dy > 0 ? 1 : -1;
  let column = Math.floor(x0);
  let row = Math.floor(y0);
  const perX = dx === 0 ? Infinity : Math.abs(1 / dx);
  const perY = dy === 0 ? Infinity : Math.abs(1 / dy);
  let nextX = dx === 0 ? Infinity : (dx > 0 ? column + 1 - x0 : x0 - column) * perX;
  let nextY = dy === 0 ? Infinity : (dy > 0 ? row + 1 - y0 : y0 - row) * perY;
  let t = 0;
  while (t < 1) {
    const until = Math.min(1, nextX, nextY);
    visit(row * columns + column, (until - t) * length);
    t = until;
    if (t >= 1) break;
    if (nextX <= nextY) {
      column += stepX;
      nextX += perX;
    } else {
      row += stepY;
      nextY += perY;
    }
  }
}
