import type { PointerAt } from './followPointer.ts';

/** The angle of a line from a middle on the window to the pointer, degrees in [0, 180), in whole degrees or in tenths. */
export function turnAngle(middle: { readonly x: number; readonly y: number }, at: PointerAt): number {
  const degrees = (Math.atan2(middle.y - at.y, at.x - middle.x) * 180) / Math.PI;
  const step = at.isFine ? 0.1 : 1;
  return halfTurn(Math.round(degrees / step) * step);
}

/** An angle after so many steps of one degree, or of ten. */
export function stepAngle(angle: number, steps: number, isLarge: boolean): number {
  return halfTurn(Math.round(angle) + steps * (isLarge ? 10 : 1));
}

const halfTurn = (degrees: number): number => ((degrees % 180) + 180) % 180;
