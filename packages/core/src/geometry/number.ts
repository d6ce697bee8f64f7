/** The value rounded to a thousandth, the finest a stitch file holds; never −0. */
export function roundToThousandth(value: number): number {
  return Math.round(value * 1000) / 1000 + 0;
}

/** The value held between two limits, both included; `low` must not be above `high`. */
export function clamp(value: number, low: number, high: number): number {
  return value < low ? low : value > high ? high : value;
}
