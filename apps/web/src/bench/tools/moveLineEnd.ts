export type AngleLine = readonly [x0: number, y0: number, x1: number, y1: number];

/** Angle lines with one end of one of them elsewhere, in whole thousandths of a mm; `to` gets where it is. */
export function moveLineEnd(
  lines: readonly AngleLine[],
  index: number,
  end: 0 | 1,
  to: (x: number, y: number) => readonly [number, number],
): [number, number, number, number][] {
  const thousandth = (v: number): number => Math.round(v * 1000) / 1000;
  return lines.map((line, k) => {
    const [x0, y0, x1, y1] = line;
    if (k !== index) return [x0, y0, x1, y1];
    const [x, y] = to(line[end * 2]!, line[end * 2 + 1]!);
    return end === 0 ? [thousandth(x), thousandth(y), x1, y1] : [x0, y0, thousandth(x), thousandth(y)];
  });
}
