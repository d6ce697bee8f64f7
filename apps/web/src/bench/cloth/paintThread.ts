import { COLOR, JUMP, type Program, STITCH, TRIM, UNNAMED_THREAD } from '@isola/core';
import { layStitch, LIGHT_X, LIGHT_Y, type Raster, type ThreadPaint } from './raster.ts';
import type { Projection } from './sheet.ts';
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

/** Paints the stitches from where the walk stands up to row `to`, and moves the walk there. */
export function paintThread(sheet: ThreadSheet, walk: ThreadWalk, to: number): void {
  const { raster, program, projection, thickness } = sheet;
  const drawn = thickness * FULLNESS * projection.scale;
  const look = lookOf(Math.max(THINNEST, drawn + SPREAD * Math.max(0, 1 - drawn / NO_SPREAD)), projection.scale);
  const paints = new Map<number, ThreadPaint>();
  let paint: ThreadPaint = { look, palette: knownPalette(UNNAMED_THREAD.color) };
  let thread = -1;
  walkStitches(sheet, walk, to, (ax, ay, bx, by, row) => {
    if (thread !== walk.thread) {
      thread = walk.thread;
      paint = paints.get(thread) ?? { look, palette: knownPalette((program.threads[thread] ?? UNNAMED_THREAD).color) };
      paints.set(thread, paint);
    }
    const step = stepOf(bx - ax, by - ay, LIGHT_X, LIGHT_Y) + glitterOf(program.x[row]!, program.y[row]!);
    layStitch(raster, paint, step, ax, ay, bx, by);
  });
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
