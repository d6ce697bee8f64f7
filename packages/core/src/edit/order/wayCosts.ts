import type { Point } from '../../model/stitchObject.ts';
import type { Machine } from '../../model/target.ts';
import { HIDDEN_STITCH } from '../../order/hiddenWays.ts';
import { CARRY } from '../../plan/joining.ts';

/** A hidden path is some longer than the straight way. */
const DETOUR = 1.15;

/** About how long it takes from one place to another with one thread. */
export function guessSeconds(machine: Machine, a: Point, b: Point, mayHide: boolean): number {
  const way = Math.hypot(b.x - a.x, b.y - a.y);
  const stitch = 60 / machine.topSpeed;
  if (way <= CARRY) return way < LEAST_STEP ? 0 : stitch * (1 + way / 1000);
  if (mayHide) return stitch * Math.ceil((DETOUR * way) / HIDDEN_STITCH);
  return cutSeconds(machine, way);
}

/** Ends nearer than this (mm) are one. */
const LEAST_STEP = 0.3;

/** What a cut takes with the way that the frame moves meanwhile (mm), seconds. */
export function cutSeconds(machine: Machine, way: number): number {
  return machine.trimCycle + machine.moveSettle + way / machine.moveSpeed;
}
