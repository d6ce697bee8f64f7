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

/**
 * By how much of a stitch a line's grid is shifted: on parallel lines by how many rows it lies from the spec's origin, or from the middle of the
 * cloth, so that neighbouring shapes agree.
 */
export function shiftOf(lines: RowLines, line: number, { offset, seed = 0, texture, spacing, stitchLength, origin }: FillSpec): number {
  const [dx, dy] = [lines.dx[line]!, lines.dy[line]!];
  const isTurning = Math.abs(dx - lines.dx[0]!) > 1e-12;
  const step = spacing / 2;
  const across = lines.y[line]! * dx - lines.x[line]! * dy;
  const from = origin === undefined ? step / 2 : origin[1] * dx - origin[0] * dy;
  const index = isTurning ? line : Math.round((across - from) / step);
  if (texture === undefined && offset === 'random') return hashed(index ^ Math.imul(seed, SEED_STEP));
  const along = origin === undefined || isTurning ? 0 : (origin[0] * dx + origin[1] * dy) / stitchLength;
  if (texture !== undefined) return mod1(texture[((index % texture.length) + texture.length) % texture.length]! + along);
  return mod1(index * (offset as number) + along);
}

/** Seeds that follow each other are far apart to the hash; seed 0 leaves it alone. */
const SEED_STEP = 0x9e3779b1;

function mod1(value: number): number {
  return ((value % 1) + 1) % 1;
}
