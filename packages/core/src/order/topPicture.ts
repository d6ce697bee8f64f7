import { COLOR, type Program, STITCH, UNNAMED_THREAD } from '../model/program.ts';
import { cellAt, eachCellOn } from './cells.ts';

/** The topmost thread's color by cells ({@link cellAt}) of a rectangle: an index into `names`, 0 for bare cloth. */
export interface TopPicture {
  readonly minColumn: number;
  readonly minRow: number;
  readonly columns: number;
  readonly rows: number;
  readonly colors: Uint16Array;
  readonly names: readonly string[];
}

/** The number of a color that was not looked up yet. */
const UNKNOWN = -1;
/** Cells around all penetrations: thread has a width, and neighbours are looked at. */
const FRAME = 3;

/** The picture of the rows that `isSeen` picks; thread of the cloth's own color looks like bare cloth, where that color is given. O(length / cell). */
export function topPicture(program: Program, isSeen: (row: number) => boolean = () => true, cloth?: string): TopPicture {
  const { x, y, command, rowCount, threads } = program;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < rowCount; i++) {
    if (command[i] !== STITCH) continue;
    minX = Math.min(minX, x[i]!);
    minY = Math.min(minY, y[i]!);
    maxX = Math.max(maxX, x[i]!);
    maxY = Math.max(maxY, y[i]!);
  }
  if (maxX < minX) return { minColumn: 0, minRow: 0, columns: 0, rows: 0, colors: new Uint16Array(0), names: [''] };
  const [first, last] = [cellAt(minX, minY), cellAt(maxX, maxY)];
  const [minColumn, minRow] = [(first >> 14) - FRAME, (first & 0x3fff) - FRAME];
  const [columns, rows] = [(last >> 14) - minColumn + 1 + FRAME, (last & 0x3fff) - minRow + 1 + FRAME];
  const colors = new Uint16Array(columns * rows);
  const names = [''];
  let [thread, color] = [-1, UNKNOWN];
  for (let i = 0; i < rowCount; i++) {
    if (command[i] === COLOR) {
      thread++;
      color = UNKNOWN;
    }
    if (command[i] !== STITCH || i === 0 || command[i - 1] !== STITCH || !isSeen(i)) continue;
    if (color === UNKNOWN) {
      const name = (threads[thread] ?? UNNAMED_THREAD).color;
      color = name === cloth ? 0 : names.includes(name) ? names.indexOf(name) : names.push(name) - 1;
    }
    eachCellOn(
      x[i - 1]!,
      y[i - 1]!,
      x[i]!,
      y[i]!,
      (cell) => (colors[((cell & 0x3fff) - minRow) * columns + (cell >> 14) - minColumn] = color),
    );
  }
  return { minColumn, minRow, columns, rows, colors, names };
}

/**
 * The share of cells with thread in either picture whose topmost thread is of another color in the other one. Where objects were sewn anew their
 * rows end a little elsewhere: with `isNear` a color that is found in a neighbouring cell, 0.2 mm away, is no change.
 */
export function changedPicture(before: TopPicture, after: TopPicture, isNear = false): number {
  // Colors of the second picture by their numbers in the first.
  const same = after.names.map((name) => before.names.indexOf(name));
  const other = before.names.map((name) => after.names.indexOf(name));
  let [all, changed] = [0, 0];
  for (let at = 0; at < before.colors.length; at++) {
    const color = before.colors[at]!;
    if (color === 0) continue;
    all++;
    if (!has(after, before, at, other[color]!, isNear)) changed++;
  }
  for (let at = 0; at < after.colors.length; at++) {
    const color = after.colors[at]!;
    if (color === 0 || colorAt(before, columnOf(after, at), rowOf(after, at)) !== 0) continue;
    all++;
    if (!has(before, after, at, same[color]!, isNear)) changed++;
  }
  return all === 0 ? 0 : changed / all;
}

const columnOf = ({ minColumn, columns }: TopPicture, at: number): number => (at % columns) + minColumn;
const rowOf = ({ minRow, columns }: TopPicture, at: number): number => Math.floor(at / columns) + minRow;

function colorAt({ minColumn, minRow, columns, rows, colors }: TopPicture, column: number, row: number): number {
  const [c, r] = [column - minColumn, row - minRow];
  return c < 0 || r < 0 || c >= columns || r >= rows ? 0 : colors[r * columns + c]!;
}

/** Whether a picture has a color at a cell of another one, or, where that is enough, beside it. */
function has(picture: TopPicture, of: TopPicture, at: number, color: number, isNear: boolean): boolean {
  const [column, row] = [columnOf(of, at), rowOf(of, at)];
  if (colorAt(picture, column, row) === color) return true;
  if (!isNear) return false;
  for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) if (colorAt(picture, column + dx, row + dy) === color) return true;
  return false;
}
