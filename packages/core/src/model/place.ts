import { z } from 'zod';
import { JUMP, type Program, STITCH } from './program.ts';

/** As far as a design is moved, mm: farther than the largest field is wide. */
const FARTHEST = 2000;

/**
 * How a design lies in the hoop: turned about its own origin by `turn` degrees, counter-clockwise, then moved so that this origin comes to `x`, `y`
 * (mm from the hoop's center, y up).
 */
export const HoopPlace = z.object({
  x: z.number().min(-FARTHEST).max(FARTHEST),
  y: z.number().min(-FARTHEST).max(FARTHEST),
  turn: z.number().gt(-360).lt(360),
});
export type HoopPlace = z.infer<typeof HoopPlace>;

/** A design that lies as its file says. */
export const AS_FILED: HoopPlace = { x: 0, y: 0, turn: 0 };

export function isAsFiled({ x, y, turn }: HoopPlace): boolean {
  return x === 0 && y === 0 && turn === 0;
}

/** Quarter turns without a rounding. */
function turnOf({ turn }: HoopPlace): readonly [cos: number, sin: number] {
  const quarters = turn / 90;
  if (Number.isInteger(quarters)) {
    const k = ((quarters % 4) + 4) % 4;
    return [[1, 0, -1, 0][k]!, [0, 1, 0, -1][k]!];
  }
  const angle = (turn * Math.PI) / 180;
  return [Math.cos(angle), Math.sin(angle)];
}

/** Where a place of the design lies in the hoop, mm. */
export function toHoop(place: HoopPlace, x: number, y: number): { readonly x: number; readonly y: number } {
  const [cos, sin] = turnOf(place);
  return { x: x * cos - y * sin + place.x, y: x * sin + y * cos + place.y };
}

/** Where a place in the hoop lies in the design, mm. */
export function fromHoop(place: HoopPlace, x: number, y: number): { readonly x: number; readonly y: number } {
  const [cos, sin] = turnOf(place);
  const [dx, dy] = [x - place.x, y - place.y];
  return { x: dx * cos + dy * sin, y: -dx * sin + dy * cos };
}

/** What adding leaves behind the last decimal that any file has. */
const PER_MM = 1e6;
const clean = (v: number): number => Math.round(v * PER_MM) / PER_MM + 0;

/** A design's rows as the machine gets them. The same program where it lies as its file says. */
export function placeProgram(program: Program, place: HoopPlace | undefined): Program {
  if (place === undefined || isAsFiled(place)) return program;
  const { rowCount } = program;
  const [x, y] = [new Float64Array(rowCount), new Float64Array(rowCount)];
  // Before its first move the needle is nowhere yet.
  let row = 0;
  while (row < rowCount && program.command[row] !== STITCH && program.command[row] !== JUMP) row++;
  for (; row < rowCount; row++) {
    const at = toHoop(place, program.x[row]!, program.y[row]!);
    x[row] = clean(at.x);
    y[row] = clean(at.y);
  }
  return { ...program, x, y };
}
