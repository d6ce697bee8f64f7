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

/** The share of cells with thread in either picture whose topmost thread is of another color in the other one. */
export function changedPicture(before: ReadonlyMap<number, string>, after: ReadonlyMap<number, string>): number {
  let [all, changed] = [before.size, 0];
  for (const [cell, color] of before) if (after.get(cell) !== color) changed++;
  for (const cell of after.keys())
    if (!before.has(cell)) {
      all++;
      changed++;
    }
  return all === 0 ? 0 : changed / all;
}
