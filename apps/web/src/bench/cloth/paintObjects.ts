import type { ClothObjects } from '../../workers/clothProtocol.ts';
import { between } from './colors.ts';
import { batchesInSight, rowsOfBatch, type Sheet } from './sheet.ts';

/** From along the cloth's width counter-clockwise, 30° from one to the next: the colors that stitches of these directions get. */
export const DIRECTION_COLORS = ['#1d5f8a', '#2f8f6b', '#9a8a1e', '#c8702a', '#a83a55', '#6b4a9c'];
/** How deep something lies, from bare cloth up; the last stands for all above. */
export const LEVEL_COLORS = ['#8fb8b0', '#3f8a8c', '#c98a2b', '#a33b2c', '#4a2038'];
const BENEATH = 'rgba(90, 100, 105, 0.35)';

/** Directions are told apart by so many degrees: few enough that no edge shows where rows lie between two of them. */
const SHADE_STEP = 5;

/** The color of a direction, degrees: mixed of the two between which it lies, and the same for the way back. */
export function colorOfDirection(degrees: number): string {
  const axis = (Math.round(degrees / SHADE_STEP) * SHADE_STEP) / 30;
  const whole = Math.floor(axis);
  const at = ((whole % 6) + 6) % 6;
  return between(DIRECTION_COLORS[at]!, DIRECTION_COLORS[(at + 1) % 6]!, axis - whole);
}

/** Paints stitches in the color of the way they run, whatever their thread. */
export function paintDirections(sheet: Sheet, from: number, to: number): void {
  const { x, y } = sheet.program;
  paintSorted(sheet, from, to, (row) => colorOfDirection((Math.atan2(y[row]! - y[row - 1]!, x[row]! - x[row - 1]!) * 180) / Math.PI));
}

/** Paints covers by how many others lie under them; what is not cover faintly. */
export function paintLayers(sheet: Sheet, objects: ClothObjects | undefined, from: number, to: number): void {
  paintSorted(sheet, from, to, (row) => {
    const owner = objects?.ownerOfRow[row] ?? -1;
    if (objects === undefined || owner < 0 || objects.roles[owner] !== 'cover') return BENEATH;
    return LEVEL_COLORS[Math.min(LEVEL_COLORS.length - 1, objects.levels[owner]!)]!;
  });
}

/** Strokes the stitches of each batch color by color. */
function paintSorted(sheet: Sheet, from: number, to: number, colorOf: (row: number) => string): void {
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
