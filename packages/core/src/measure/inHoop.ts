import { AS_FILED, type HoopPlace, toHoop } from '../model/place.ts';
import { type Program, STITCH } from '../model/program.ts';
import type { Extents } from './counts.ts';

/** The bounds of a program's penetrations in the hoop, mm; `extents` are those in the design, which say it where it is not turned. */
export function extentsInHoop(program: Program, extents: Extents, place: HoopPlace = AS_FILED): Extents {
  const { x: dx, y: dy, turn } = place;
  if (turn === 0) {
    const { minX, maxX, minY, maxY } = extents;
    return { ...extents, minX: minX + dx, maxX: maxX + dx, minY: minY + dy, maxY: maxY + dy };
  }
  let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let row = 0; row < program.rowCount; row++) {
    if (program.command[row] !== STITCH) continue;
    const at = toHoop(place, program.x[row]!, program.y[row]!);
    minX = Math.min(minX, at.x);
    maxX = Math.max(maxX, at.x);
    minY = Math.min(minY, at.y);
    maxY = Math.max(maxY, at.y);
  }
  if (minX > maxX) return { ...extents, minX: dx, maxX: dx, minY: dy, maxY: dy };
  return { minX, maxX, minY, maxY, width: maxX - minX, height: maxY - minY };
}

/** The place at which the design's middle lies at the hoop's center, turned as it is. In hundredths of a millimetre. */
export function centered(program: Program, extents: Extents, place: HoopPlace = AS_FILED): HoopPlace {
  const at = extentsInHoop(program, extents, place);
  const hundredth = (v: number): number => Math.round(v * 100) / 100 + 0;
  return { ...place, x: hundredth(place.x - (at.minX + at.maxX) / 2), y: hundredth(place.y - (at.minY + at.maxY) / 2) };
}

/** The same design turned about its own middle, which stays where it is in the hoop. */
export function turned(program: Program, extents: Extents, place: HoopPlace, turn: number): HoopPlace {
  const before = extentsInHoop(program, extents, place);
  const after = centered(program, extents, { ...place, turn });
  const hundredth = (v: number): number => Math.round(v * 100) / 100 + 0;
  return { turn, x: hundredth(after.x + (before.minX + before.maxX) / 2), y: hundredth(after.y + (before.minY + before.maxY) / 2) };
}
