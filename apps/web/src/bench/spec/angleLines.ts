import { lineAcross, type ObjectSpec } from '@isola/core';

export type AngleLine = ObjectSpec['angleLines'][number];

/** Two angle lines across an outline (xyxy) to begin with: a little to either side of the present angle (degrees). */
export function firstTurn(outline: Float64Array, angle: number): AngleLine[] {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < outline.length; k += 2) {
    [minX, maxX] = [Math.min(minX, outline[k]!), Math.max(maxX, outline[k]!)];
    [minY, maxY] = [Math.min(minY, outline[k + 1]!), Math.max(maxY, outline[k + 1]!)];
  }
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const reach = 0.25 * Math.min(maxX - minX, maxY - minY);
  const turn = (angle * Math.PI) / 180;
  return [-1, 1].map((side) => {
    const [x, y] = [cx - Math.sin(turn) * reach * side, cy + Math.cos(turn) * reach * side];
    const at = turn + side * 0.2;
    return thousandths([x - Math.cos(at) * reach, y - Math.sin(at) * reach, x + Math.cos(at) * reach, y + Math.sin(at) * reach]);
  });
}

/** Places along a column where another line is of most use, in turn. */
const SHARES = [0.5, 0.25, 0.75, 0.125, 0.375, 0.625, 0.875];

/** Another line for a satin, as its throws lie, where none is near; none where there are lines all along. */
export function nextAcross(column: { left: Float64Array; right: Float64Array }, lines: readonly AngleLine[]): AngleLine | undefined {
  const candidates = SHARES.map((share) => lineAcross(column, share));
  const [start, end] = [lineAcross(column, 0), lineAcross(column, 1)];
  const near = 0.07 * Math.max(2, Math.hypot(...between(start, end)));
  const found = candidates.find((line) => lines.every((other) => Math.hypot(...between(line, other)) > near));
  return found === undefined ? undefined : [...found];
}

/** Another line for rows that turn, half the way between the first two that are farthest apart. */
export function nextBetween(lines: readonly AngleLine[]): AngleLine[] {
  let [widest, most] = [0, -1];
  for (let k = 0; k + 1 < lines.length; k++) {
    const apart = Math.hypot(...between(lines[k]!, lines[k + 1]!));
    if (apart > most) [most, widest] = [apart, k];
  }
  const [a, b] = [lines[widest]!, lines[widest + 1]!];
  // Lines have no way round: the one that runs against the other is taken from its other end.
  const isAgainst = (a[2] - a[0]) * (b[2] - b[0]) + (a[3] - a[1]) * (b[3] - b[1]) < 0;
  const c = isAgainst ? [b[2], b[3], b[0], b[1]] : b;
  return [...lines.slice(0, widest + 1), thousandths(a.map((v, k) => (v + c[k]!) / 2)), ...lines.slice(widest + 1)];
}

/** From the middle of one line to that of another. */
function between(a: Readonly<AngleLine>, b: Readonly<AngleLine>): [number, number] {
  return [(b[0] + b[2] - a[0] - a[2]) / 2, (b[1] + b[3] - a[1] - a[3]) / 2];
}

function thousandths(line: readonly number[]): AngleLine {
  return line.map((v) => Math.round(v * 1000) / 1000) as AngleLine;
}
