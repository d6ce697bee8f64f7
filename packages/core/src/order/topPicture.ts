import { COLOR, type Program, STITCH, UNNAMED_THREAD } from '../model/program.ts';
import { eachCellOn } from './cells.ts';

/** The color of the topmost thread of each cell that thread lies on, by cells ({@link cellAt}). O(length / cell). */
export function topPicture(
  { x, y, command, rowCount, threads }: Program,
  isSeen: (row: number) => boolean = () => true,
): Map<number, string> {
  const out = new Map<number, string>();
  let thread = -1;
  for (let i = 0; i < rowCount; i++) {
    if (command[i] === COLOR) thread++;
    if (command[i] !== STITCH || i === 0 || command[i - 1] !== STITCH || !isSeen(i)) continue;
    const { color } = threads[thread] ?? UNNAMED_THREAD;
    eachCellOn(x[i - 1]!, y[i - 1]!, x[i]!, y[i]!, (cell) => out.set(cell, color));
  }
  return out;
}

/** The cells around one, itself first. */
const AROUND = [0, 1, -1, 1 << 14, -(1 << 14), (1 << 14) + 1, (1 << 14) - 1, -(1 << 14) + 1, -(1 << 14) - 1];

/**
 * The share of cells with thread in either picture whose topmost thread is of another color in the other one. Where objects were sewn anew their
 * rows end a little elsewhere: with `isNear` a color that is found in a neighbouring cell, 0.2 mm away, is no change.
 */
export function changedPicture(before: ReadonlyMap<number, string>, after: ReadonlyMap<number, string>, isNear = false): number {
  const around = isNear ? AROUND : [0];
  const has = (picture: ReadonlyMap<number, string>, cell: number, color: string): boolean =>
    around.some((d) => picture.get(cell + d) === color);
  let [all, changed] = [before.size, 0];
  for (const [cell, color] of before) if (after.get(cell) !== color && !has(after, cell, color)) changed++;
  for (const [cell, color] of after) {
    if (!before.has(cell)) all++;
    // What lost its color was counted above, but for what is there anew.
    if (!before.has(cell) && !has(before, cell, color)) changed++;
  }
  return all === 0 ? 0 : changed / all;
}
