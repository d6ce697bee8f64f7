/** By how much of a part the places of neighbouring stitches are shifted against each other. */
const SHIFT = 1 / 3;

/**
 * Where a stitch of `length` mm is parted so that no part is over `longest` mm, as shares of its way, ascending; none where it is short
 * enough. Neighbours (by `index`) are parted at shifted places, so that the penetrations of a broad satin do not line up to a crease.
 */
export function splitStitch(length: number, longest: number, index: number): number[] {
  if (length <= longest) return [];
  const parts = Math.max(2, Math.ceil(((1 + SHIFT) * length) / longest));
  const shift = (((index % 3) - 1) * SHIFT) / parts;
  return Array.from({ length: parts - 1 }, (_, k) => (k + 1) / parts + shift);
}
