import type { FillSpec } from './fillSpec.ts';
import { hashed } from './hashed.ts';
import type { RowLines } from './rowLines.ts';

/** Rows whose ends are nearer than this (mm) turn without a penetration at the start of the next. */
const LEAST_TURN = 0.6;

/** Whether a turn of a length (mm) from one row to the next has a penetration of its own. */
export function isSquare(turn: number, { rowEnds, stitchLength }: FillSpec): boolean {
  if (rowEnds === undefined) return turn > LEAST_TURN;
  return rowEnds === 'square' || turn > stitchLength;
}

/** By how much of a stitch a line's grid is shifted: on parallel lines by their place on the cloth, so that neighbouring shapes agree. */
export function shiftOf(lines: RowLines, line: number, { offset, spacing }: FillSpec): number {
  const across = lines.y[line]! * lines.dx[line]! - lines.x[line]! * lines.dy[line]!;
  const isTurning = Math.abs(lines.dx[line]! - lines.dx[0]!) > 1e-12;
  const index = isTurning ? line : Math.round((across * 2) / spacing - 0.5);
  if (offset === 'random') return hashed(index);
  return (((index * offset) % 1) + 1) % 1;
}
