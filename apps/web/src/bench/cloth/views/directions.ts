import { between } from '../colors.ts';
import type { Sheet } from '../sheet.ts';
import type { FigurePainter } from './figurePainter.ts';
import { paintSorted } from './paintSorted.ts';

/** From along the cloth's width counter-clockwise, 30° from one to the next: the colors that stitches of these directions get. */
export const DIRECTION_COLORS = ['#1d5f8a', '#2f8f6b', '#9a8a1e', '#c8702a', '#a83a55', '#6b4a9c'];

export const directionsPainter: FigurePainter = { paintBatches: (_, sheet, from, to) => paintDirections(sheet, from, to) };

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
