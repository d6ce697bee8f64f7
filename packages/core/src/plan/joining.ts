import { generateLock } from '../generate/line/tie.ts';
import { roundToThousandth } from '../geometry/number.ts';
import type { Tie } from '../model/kinds.ts';
import type { ProgramBuilder } from '../model/program.ts';
import type { Point } from '../model/stitchObject.ts';

/** A stitch carries over up to this far, mm. Common practice: 2 mm need no jump. */
export const CARRY = 2;
/** What ends this near (mm) to where it has to be needs no stitch. */
export const SAME_PLACE = 0.3;

/** A penetration of something that is made: to the thousandth of a millimetre. */
export function addStitch(out: ProgramBuilder, x: number, y: number): void {
  out.stitch(roundToThousandth(x), roundToThousandth(y));
}

/** Locks the thread at `here`, along the way to or from `toward`; nothing where these are one place. */
export function addLock(out: ProgramBuilder, here: Point, toward: Point, tie: Tie): void {
  if (here.x === toward.x && here.y === toward.y) return;
  const points = generateLock(here.x, here.y, toward.x, toward.y, tie);
  for (let k = 0; k < points.length; k += 2) addStitch(out, points[k]!, points[k + 1]!);
}
