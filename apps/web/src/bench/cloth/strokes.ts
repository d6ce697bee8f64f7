import { COLOR, JUMP, type Program, STITCH, TRIM } from '@isola/core';

/** Stitches drawn in one go. Small enough that later thread lies over earlier, large enough that drawing is not all calls. */
const BATCH = 96;
/** How many steps of light are told apart by the direction of a stitch. */
export const SHADES = 9;
/** Where the light comes from, degrees. Thread that runs across it shines, thread that runs along it does not. */
const LIGHT = 125;

/**
 * Stitches in drawing order, cut into batches of one thread and one shade. Batch k has the rows `starts[k]`…`starts[k + 1]` − 1 of `rows`;
 * each such row's stitch runs from the row before it in the program. `boxes` has minX, minY, maxX, maxY (mm) of each batch.
 */
export interface Strokes {
  readonly rows: Int32Array;
  readonly starts: Int32Array;
  readonly threads: Int32Array;
  readonly shades: Uint8Array;
  readonly boxes: Float32Array;
}

/** Finds the stitches of a program that lay thread, and cuts them into batches. O(rows). */
export function planStrokes(program: Program): Strokes {
  const { command, x, y, rowCount } = program;
  const rows: number[] = [];
  const starts: number[] = [];
  const threads: number[] = [];
  const shades: number[] = [];
  const boxes: number[] = [];
  let thread = -1;
  let isHeld = false;
  let shade = -1;
  for (let i = 0; i < rowCount; i++) {
    const c = command[i];
    if (c === COLOR || c === TRIM) {
      if (c === COLOR) thread++;
      isHeld = false;
      shade = -1;
      continue;
    }
    if (c !== STITCH && c !== JUMP) continue;
    if (isHeld) {
      const dx = x[i]! - x[i - 1]!;
      const dy = y[i]! - y[i - 1]!;
      const s = shadeOf(dx, dy);
      const at = starts.length - 1;
      if (s !== shade || threads[at] !== thread || rows.length - starts[at]! >= BATCH) {
        starts.push(rows.length);
        threads.push(thread);
        shades.push(s);
        boxes.push(Infinity, Infinity, -Infinity, -Infinity);
        shade = s;
      }
      const box = (starts.length - 1) * 4;
      boxes[box] = Math.min(boxes[box]!, x[i]!, x[i - 1]!);
      boxes[box + 1] = Math.min(boxes[box + 1]!, y[i]!, y[i - 1]!);
      boxes[box + 2] = Math.max(boxes[box + 2]!, x[i]!, x[i - 1]!);
      boxes[box + 3] = Math.max(boxes[box + 3]!, y[i]!, y[i - 1]!);
      rows.push(i);
    }
    if (c === STITCH) isHeld = true;
  }
  starts.push(rows.length);
  return {
    rows: Int32Array.from(rows),
    starts: Int32Array.from(starts),
    threads: Int32Array.from(threads),
    shades: Uint8Array.from(shades),
    boxes: Float32Array.from(boxes),
  };
}

function shadeOf(dx: number, dy: number): number {
  const across = Math.abs(Math.sin(Math.atan2(dy, dx) - (LIGHT * Math.PI) / 180));
  return Math.min(SHADES - 1, Math.floor(across * SHADES));
}
