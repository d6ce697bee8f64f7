import { type Program, UNNAMED_THREAD } from '@isola/core';
import type { Strokes } from './strokes.ts';

/** Millimetre to pixel: the transform of the canvas is the identity while strokes are drawn, so that their width is in pixels. */
export interface Projection {
  readonly scale: number;
  readonly originX: number;
  readonly originY: number;
}

/** What is painted on, and of what: all painters of stitches work on one of these. */
export interface Sheet {
  readonly ctx: OffscreenCanvasRenderingContext2D;
  readonly program: Program;
  readonly strokes: Strokes;
  readonly projection: Projection;
  /** Rows from this one on are left out. */
  readonly upTo: number;
  /** Rows with a 0 here are left out. */
  readonly mask?: Uint8Array;
  /** minX, minY, maxX, maxY (mm) of what is in sight; batches outside are passed over. */
  readonly box: readonly [number, number, number, number];
}

/** Boxes are kept in single precision: what ends at the border of the sight must not be lost by that, mm. */
const ROUNDING = 1e-3;

/** The batches in sight among `from` ≤ k < `to`. */
export function* batchesInSight({ strokes: { boxes }, box }: Sheet, from: number, to: number): Generator<number> {
  for (let k = from; k < to; k++) {
    const b = k * 4;
    const isBeside = boxes[b]! > box[2] + ROUNDING || boxes[b + 2]! < box[0] - ROUNDING;
    if (!isBeside && boxes[b + 1]! <= box[3] + ROUNDING && boxes[b + 3]! >= box[1] - ROUNDING) yield k;
  }
}

/** The sewn rows of a batch. */
export function* rowsOfBatch({ strokes, upTo, mask }: Sheet, k: number): Generator<number> {
  for (let n = strokes.starts[k]!; n < strokes.starts[k + 1]! && strokes.rows[n]! < upTo; n++)
    if (mask === undefined || mask[strokes.rows[n]!] === 1) yield strokes.rows[n]!;
}

/** The color of a batch's thread. */
export function colorOfBatch({ program, strokes }: Sheet, k: number): string {
  return (program.threads[strokes.threads[k]!] ?? UNNAMED_THREAD).color;
}

/** Traces a batch's stitches into the current path, without a break where one goes on from the other. */
export function traceBatch(sheet: Sheet, k: number): void {
  const {
    ctx,
    program: { x, y },
    strokes,
    projection: { scale, originX, originY },
    upTo,
    mask,
  } = sheet;
  let last = -2;
  for (let n = strokes.starts[k]!; n < strokes.starts[k + 1]!; n++) {
    const row = strokes.rows[n]!;
    if (row >= upTo) return;
    if (mask !== undefined && mask[row] === 0) continue;
    if (last !== row - 1) ctx.moveTo(originX + x[row - 1]! * scale, originY - y[row - 1]! * scale);
    ctx.lineTo(originX + x[row]! * scale, originY - y[row]! * scale);
    last = row;
  }
}

/** Strokes a batch's stitches in one style. */
export function strokeBatch(sheet: Sheet, k: number, style: string, width: number): void {
  const { ctx } = sheet;
  ctx.strokeStyle = style;
  ctx.lineWidth = width;
  ctx.beginPath();
  traceBatch(sheet, k);
  ctx.stroke();
}
