import { batchesInSight, rowsOfBatch, type Sheet } from '../sheet.ts';

/** Strokes the stitches of each batch color by color. */
export function paintSorted(sheet: Sheet, from: number, to: number, colorOf: (row: number) => string): void {
  const {
    ctx,
    program: { x, y },
    projection: { scale, originX, originY },
  } = sheet;
  ctx.lineWidth = Math.max(0.8, 0.2 * scale);
  ctx.lineCap = 'round';
  for (const k of batchesInSight(sheet, from, to)) {
    const paths = new Map<string, Path2D>();
    for (const row of rowsOfBatch(sheet, k)) {
      const color = colorOf(row);
      let path = paths.get(color);
      if (path === undefined) {
        path = new Path2D();
        paths.set(color, path);
      }
      path.moveTo(originX + x[row - 1]! * scale, originY - y[row - 1]! * scale);
      path.lineTo(originX + x[row]! * scale, originY - y[row]! * scale);
    }
    for (const [color, path] of paths) {
      ctx.strokeStyle = color;
      ctx.stroke(path);
    }
  }
}
