import { COLOR, JUMP, type Program, STITCH, TRIM, UNNAMED_THREAD } from '@isola/core';
import { layStitch, LIGHT_X, LIGHT_Y, type Raster, type ThreadPaint } from './raster.ts';
import type { Projection } from './sheet.ts';
import type { Strokes } from './strokes.ts';
import { glitterOf, lookOf, paletteOf, stepOf } from './threadPaint.ts';

/** Thread to be painted: of which program, where its millimetres lie on the raster, and how thick it is (mm). */
export interface ThreadSheet {
  readonly raster: Raster;
  readonly program: Program;
  readonly projection: Projection;
  readonly thickness: number;
  /** Rows with a 0 here are left out. */
  readonly mask?: Uint8Array;
}

/** Where a walk through a program stands: its next row, the thread in the needle (−1 none yet), and whether it holds the cloth. */
export interface ThreadWalk {
  row: number;
  thread: number;
  isHeld: boolean;
}

export function startWalk(): ThreadWalk {
  return { row: 0, thread: -1, isHeld: false };
}

/** Laid thread is flatter and broader than its round thickness: 40-weight rows 0.4 mm apart just close. Common practice. */
const FULLNESS = 1.85;
/** Added to the thinnest thread (px), less to thicker up to NO_SPREAD, since edges that share a pixel would let the cloth through closed rows. */
const SPREAD = 0.5;
const NO_SPREAD = 4;
const THINNEST = 0.7;

/** Paints the stitches from where the walk stands up to row `to` over what is there, and moves the walk there. */
export function paintThread(sheet: ThreadSheet, walk: ThreadWalk, to: number): void {
  const { raster, program } = sheet;
  const paintOf = paintsOf(sheet);
  walkStitches(sheet, walk, to, (ax, ay, bx, by, row) => {
    const step = stepOf(bx - ax, by - ay, LIGHT_X, LIGHT_Y) + glitterOf(program.x[row]!, program.y[row]!);
    layStitch(raster, paintOf(walk.thread), step, ax, ay, bx, by);
  });
}

/** As far as a stitch may lie from where the plan of its program has it, mm: cloth that gives way moves its ends, and it is not without thickness. */
const AROUND = 3;

/**
 * Paints batches `first` ≤ k < `last` of a plan, their stitches last first, each under what is there: what lies hidden costs next to nothing. Only rows
 * `from` ≤ row < `to`.
 */
export function paintThreadUnder(sheet: ThreadSheet, strokes: Strokes, first: number, last: number, from: number, to: number): void {
  const {
    raster,
    program: { x, y },
    projection: { scale, originX, originY },
    mask,
  } = sheet;
  const { clip } = raster;
  const paintOf = paintsOf(sheet);
  const [minX, maxX] = [(clip.left - originX) / scale - AROUND, (clip.right - originX) / scale + AROUND];
  const [minY, maxY] = [(originY - clip.bottom) / scale - AROUND, (originY - clip.top) / scale + AROUND];
  const { boxes, starts, rows, threads } = strokes;
  for (let k = last - 1; k >= first; k--) {
    if (rows[starts[k]!]! >= to || rows[starts[k + 1]! - 1]! < from) continue;
    const b = k * 4;
    if (boxes[b]! > maxX || boxes[b + 2]! < minX || boxes[b + 1]! > maxY || boxes[b + 3]! < minY) continue;
    const paint = paintOf(threads[k]!);
    for (let n = starts[k + 1]! - 1; n >= starts[k]!; n--) {
      const row = rows[n]!;
      if (row < from || row >= to || (mask !== undefined && mask[row] === 0)) continue;
      const ax = originX + x[row - 1]! * scale;
      const ay = originY - y[row - 1]! * scale;
      const bx = originX + x[row]! * scale;
      const by = originY - y[row]! * scale;
      layStitch(raster, paint, stepOf(bx - ax, by - ay, LIGHT_X, LIGHT_Y) + glitterOf(x[row]!, y[row]!), ax, ay, bx, by);
    }
  }
}

/** Gives what to paint each thread of a program with. */
function paintsOf({ program, projection, thickness }: ThreadSheet): (thread: number) => ThreadPaint {
  const drawn = thickness * FULLNESS * projection.scale;
  const look = lookOf(Math.max(THINNEST, drawn + SPREAD * Math.max(0, 1 - drawn / NO_SPREAD)), projection.scale);
  const paints = new Map<number, ThreadPaint>();
  return (thread) => {
    let paint = paints.get(thread);
    if (paint === undefined) {
      paint = { look, palette: knownPalette((program.threads[thread] ?? UNNAMED_THREAD).color) };
      paints.set(thread, paint);
    }
    return paint;
  };
}

/** Walks the stitches that lay thread, as pixels from a to b. */
export function walkStitches(
  { program: { x, y, command }, projection: { scale, originX, originY }, mask }: Omit<ThreadSheet, 'raster'>,
  walk: ThreadWalk,
  to: number,
  visit: (ax: number, ay: number, bx: number, by: number, row: number) => void,
): void {
  for (; walk.row < to; walk.row++) {
    const i = walk.row;
    const c = command[i];
    if (c === COLOR || c === TRIM) {
      if (c === COLOR) walk.thread++;
      walk.isHeld = false;
      continue;
    }
    if (c !== STITCH && c !== JUMP) continue;
    if (walk.isHeld && (mask === undefined || mask[i] === 1))
      visit(originX + x[i - 1]! * scale, originY - y[i - 1]! * scale, originX + x[i]! * scale, originY - y[i]! * scale, i);
    if (c === STITCH) walk.isHeld = true;
  }
}

const palettes = new Map<string, Int32Array>();
const PALETTES_KEPT = 64;

function knownPalette(color: string): Int32Array {
  let known = palettes.get(color);
  if (known === undefined) {
    known = paletteOf(color);
    palettes.set(color, known);
    if (palettes.size > PALETTES_KEPT) palettes.delete(palettes.keys().next().value!);
  }
  return known;
}
