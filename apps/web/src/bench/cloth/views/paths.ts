import { COLOR, JUMP, STITCH, TRIM, UNNAMED_THREAD } from '@isola/core';
import { luminance } from '../colors.ts';
import { batchesInSight, colorOfBatch, type Sheet, strokeBatch } from '../sheet.ts';
import type { FigurePainter } from './figurePainter.ts';

type Context = OffscreenCanvasRenderingContext2D;

/** Inks that are seen on light and on dark cloth, and from which brightness on cloth is light. */
const DARK = '#14262b';
const LIGHT = '#fffdf8';
const LIGHT_CLOTH = 0.25;

export const pathsPainter: FigurePainter = {
  paintBatches: (_, sheet, from, to) => paintPaths(sheet, from, to),
  paintAfter: ({ request }, sheet) => paintConnectors(sheet, request.ratio, luminance(request.clothColor) > LIGHT_CLOTH ? DARK : LIGHT),
};

/** Paints sewing as thin lines, to be read under the connectors. */
export function paintPaths(sheet: Sheet, from: number, to: number): void {
  sheet.ctx.globalAlpha = 0.75;
  const width = Math.max(0.8, Math.min(1.6, 0.06 * sheet.projection.scale));
  for (const k of batchesInSight(sheet, from, to)) strokeBatch(sheet, k, colorOfBatch(sheet, k), width);
  sheet.ctx.globalAlpha = 1;
}

/** Paints what stands between stretches: moves as broken lines, cuts as hatched squares, entries and exits as brackets. */
export function paintConnectors({ ctx, program, projection, upTo }: Sheet, ratio: number, ink: string): void {
  const { scale, originX, originY } = projection;
  const { command, x, y } = program;
  const cuts: number[] = [];
  ctx.strokeStyle = ink;
  ctx.lineWidth = 1.2 * ratio;
  ctx.setLineDash([4 * ratio, 3 * ratio]);
  ctx.beginPath();
  for (let i = 1; i < Math.min(program.rowCount, upTo); i++) {
    if (command[i] === JUMP) {
      ctx.moveTo(originX + x[i - 1]! * scale, originY - y[i - 1]! * scale);
      ctx.lineTo(originX + x[i]! * scale, originY - y[i]! * scale);
    } else if (command[i] === TRIM) cuts.push(i);
  }
  ctx.stroke();
  ctx.setLineDash([]);

  const half = 4 * ratio;
  for (const i of cuts) {
    const px = originX + x[i]! * scale;
    const py = originY - y[i]! * scale;
    ctx.fillStyle = '#fffdf8';
    ctx.fillRect(px - half, py - half, 2 * half, 2 * half);
    ctx.strokeStyle = '#b0322a';
    ctx.lineWidth = ratio;
    ctx.strokeRect(px - half, py - half, 2 * half, 2 * half);
    ctx.beginPath();
    for (const d of [-half * 0.5, half * 0.5]) {
      ctx.moveTo(px + d - half * 0.5, py + half * 0.8);
      ctx.lineTo(px + d + half * 0.5, py - half * 0.8);
    }
    ctx.stroke();
  }

  // Brackets where the needle enters and leaves: an open one, and a closed one.
  let thread = UNNAMED_THREAD.color;
  let color = -1;
  for (let i = 0; i < Math.min(program.rowCount, upTo); i++) {
    if (command[i] === COLOR) thread = program.threads[++color]!.color;
    if (command[i] !== STITCH) continue;
    const isEntry = i === 0 || command[i - 1] !== STITCH;
    const isExit = command[i + 1] !== STITCH;
    if (!isEntry && !isExit) continue;
    const px = originX + x[i]! * scale;
    const py = originY - y[i]! * scale;
    for (const [style, width] of [
      [ink, 3.4 * ratio],
      [thread, 1.8 * ratio],
    ] as const) {
      ctx.strokeStyle = style;
      ctx.lineWidth = width;
      ctx.beginPath();
      if (isEntry) bracket(ctx, px, py, -half * 1.1, half);
      if (isExit) bracket(ctx, px, py, half * 1.1, half);
      ctx.stroke();
    }
  }
}

function bracket(ctx: Context, px: number, py: number, reach: number, half: number): void {
  ctx.moveTo(px + reach * 0.4, py - half);
  ctx.lineTo(px + reach, py - half);
  ctx.lineTo(px + reach, py + half);
  ctx.lineTo(px + reach * 0.4, py + half);
}
