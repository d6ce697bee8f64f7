import { COLOR, JUMP, type Program, STITCH, TRIM } from '@isola/core';

/** Stitches drawn in one go. Small enough that later thread lies over earlier, large enough that drawing is not all calls. */
const BATCH = 96;

/**
 * Stitches in drawing order, cut into batches of one thread. Batch k has the rows `starts[k]`…`starts[k + 1]` − 1 of `rows`;
 * each such row's stitch runs from the row before it in the program. `boxes` has minX, minY, maxX, maxY (mm) of each batch.
 */
export interface Strokes {
  readonly rows: Int32Array;
  readonly starts: Int32Array;
  readonly threads: Int32Array;
  readonly boxes: Float32Array;
}

/** Finds the stitches of a program that lay thread, and cuts them into batches. O(rows). */
export function planStrokes(program: Program): Strokes {
  const { command, x, y, rowCount } = program;
  const rows = new Int32Array(rowCount);
  let count = 0;
  const starts: number[] = [];
  const threads: number[] = [];
  const boxes: number[] = [];
  let thread = -1;
  let isHeld = false;
  for (let i = 0; i < rowCount; i++) {
    const c = command[i];
    if (c === COLOR || c === TRIM) {
      if (c === COLOR) thread++;
      isHeld = false;
      continue;
    }
    if (c !== STITCH && c !== JUMP) continue;
    if (isHeld) {
      const at = starts.length - 1;
      if (threads[at] !== thread || count - starts[at]! >= BATCH) {
        starts.push(count);
        threads.push(thread);
        boxes.push(Infinity, Infinity, -Infinity, -Infinity);
      }
      const box = (starts.length - 1) * 4;
      boxes[box] = Math.min(boxes[box]!, x[i]!, x[i - 1]!);
      boxes[box + 1] = Math.min(boxes[box + 1]!, y[i]!, y[i - 1]!);
      boxes[box + 2] = Math.max(boxes[box + 2]!, x[i]!, x[i - 1]!);
      boxes[box + 3] = Math.max(boxes[box + 3]!, y[i]!, y[i - 1]!);
      rows[count++] = i;
    }
    if (c === STITCH) isHeld = true;
  }
  starts.push(count);
  return {
    rows: rows.slice(0, count),
    starts: Int32Array.from(starts),
    threads: Int32Array.from(threads),
    boxes: Float32Array.from(boxes),
  };
}
