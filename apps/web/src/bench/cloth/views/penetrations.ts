import { STITCH } from '@isola/core';
import { shade } from '../colors.ts';
import { batchesInSight, colorOfBatch, rowsOfBatch, type Sheet, strokeBatch } from '../sheet.ts';
import type { FigurePainter } from './figurePainter.ts';

export const penetrationsPainter: FigurePainter = { paintBatches: (_, sheet, from, to) => paintPenetrations(sheet, from, to) };

/** Paints stitches as faint lines with their penetrations on them. */
export function paintPenetrations(sheet: Sheet, from: number, to: number): void {
  const {
    ctx,
    program,
    projection: { scale, originX, originY },
  } = sheet;
  const radius = Math.max(0.7, Math.min(3.2, 0.09 * scale));
  for (const k of batchesInSight(sheet, from, to)) {
    const color = colorOfBatch(sheet, k);
    ctx.globalAlpha = 0.45;
    strokeBatch(sheet, k, color, Math.max(0.5, 0.05 * scale));
    ctx.globalAlpha = 1;
    ctx.fillStyle = shade(color, -0.35);
    ctx.beginPath();
    for (const row of rowsOfBatch(sheet, k)) {
      if (program.command[row] !== STITCH) continue;
      const px = originX + program.x[row]! * scale;
      const py = originY - program.y[row]! * scale;
      ctx.moveTo(px + radius, py);
      ctx.arc(px, py, radius, 0, 7);
    }
    ctx.fill();
  }
}
