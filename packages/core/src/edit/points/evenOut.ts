import { roundToThousandth } from '../../geometry/number.ts';
import { lengthOfPath, resamplePath } from '../../geometry/path.ts';
import { type Program, STITCH } from '../../model/program.ts';

/** Stitches of a program that follow each other, by their rows. */
export type Stretch = readonly number[];

/** Rows (ascending) as stretches of stitches that follow each other without a jump or a cut between. */
export function stretchesOf({ command }: Program, rows: readonly number[]): Stretch[] {
  const out: number[][] = [];
  for (const row of rows) {
    if (command[row] !== STITCH) continue;
    const last = out.at(-1);
    if (last?.at(-1) === row - 1) last.push(row);
    else out.push([row]);
  }
  return out;
}

/** A turn above this (as a cosine) is a throw back: thread goes to and fro there, and each side is a line of its own. */
const BACK = Math.cos((110 * Math.PI) / 180);

/** Whether most of a stretch's stitches are thrown to and fro, as those of a satin are. */
function isToAndFro({ x, y }: Program, stretch: Stretch): boolean {
  let [back, all] = [0, 0];
  for (let k = 1; k + 1 < stretch.length; k++) {
    const [p, q, r] = [stretch[k - 1]!, stretch[k]!, stretch[k + 1]!];
    const [ax, ay, bx, by] = [x[q]! - x[p]!, y[q]! - y[p]!, x[r]! - x[q]!, y[r]! - y[q]!];
    all++;
    if (ax * bx + ay * by < BACK * Math.hypot(ax, ay) * Math.hypot(bx, by)) back++;
  }
  return all > 1 && back > all / 2;
}

/** Lines through a stretch: its stitches one after another, or both sides of what goes to and fro. */
function linesOf(program: Program, stretch: Stretch): Stretch[] {
  return isToAndFro(program, stretch) ? [0, 1].map((side) => stretch.filter((_, k) => k % 2 === side)) : [stretch];
}

export type Places = ReadonlyMap<number, readonly [x: number, y: number]>;

/** How far a penetration goes toward the middle of its neighbours. */
const TOWARD = 0.6;

/** Where penetrations come to lie that are drawn toward the middle of the neighbours on their side; the ends of each stretch stay. */
export function smoothed(program: Program, rows: readonly number[]): Places {
  const { x, y } = program;
  const out = new Map<number, readonly [number, number]>();
  for (const stretch of stretchesOf(program, rows))
    for (const line of linesOf(program, stretch))
      for (let k = 1; k + 1 < line.length; k++) {
        const [a, b, c] = [line[k - 1]!, line[k]!, line[k + 1]!];
        const at = (of: Float64Array): number => roundToThousandth(of[b]! + TOWARD * ((of[a]! + of[c]!) / 2 - of[b]!));
        out.set(b, [at(x), at(y)]);
      }
  return out;
}

/** Where penetrations come to lie that are set on the straight from the first to the last of their side. */
export function straightened(program: Program, rows: readonly number[]): Places {
  const { x, y } = program;
  const out = new Map<number, readonly [number, number]>();
  for (const stretch of stretchesOf(program, rows))
    for (const line of linesOf(program, stretch)) {
      const [first, last] = [line[0]!, line.at(-1)!];
      const [dx, dy] = [x[last]! - x[first]!, y[last]! - y[first]!];
      const length = dx * dx + dy * dy;
      for (const row of line.slice(1, -1)) {
        const t = length > 0 ? ((x[row]! - x[first]!) * dx + (y[row]! - y[first]!) * dy) / length : 0;
        const along = Math.min(1, Math.max(0, t));
        out.set(row, [roundToThousandth(x[first]! + along * dx), roundToThousandth(y[first]! + along * dy)]);
      }
    }
  return out;
}

/** Places so far apart (mm, evenly) along the way through a stretch, without its first and last. */
export function respaced({ x, y }: Program, stretch: Stretch, length: number): [number, number][] {
  const path = Float64Array.from(stretch.flatMap((row) => [x[row]!, y[row]!]));
  const parts = Math.max(1, Math.round(lengthOfPath(path) / length));
  const points = resamplePath(path, parts + 1);
  return Array.from({ length: parts - 1 }, (_, k): [number, number] => [
    roundToThousandth(points[k * 2 + 2]!),
    roundToThousandth(points[k * 2 + 3]!),
  ]);
}
