import { type StitchObject } from '../model/stitchObject.ts';
import { axisDifference } from '../geometry/axis.ts';

/** How much objects that are alike may differ: shares of pitch and width, degrees. */
const SAME_SPACING = 0.12;
const SAME_WIDTH = 0.35;
const SAME_ANGLE = 8;

/** Objects like one: of its kind, role and thread, about as close and as wide, and of fills at its angle; itself among them. */
export function findAlike(objects: readonly StitchObject[], like: StitchObject): StitchObject[] {
  const isNear = (a: number | undefined, b: number | undefined, share: number): boolean =>
    a === undefined || b === undefined || Math.abs(Math.log(a / b)) <= Math.log(1 + share);
  return objects.filter(
    (o) =>
      o.kind === like.kind &&
      o.role === like.role &&
      o.color === like.color &&
      o.pattern === like.pattern &&
      o.layer === like.layer &&
      isNear(o.spacing, like.spacing, SAME_SPACING) &&
      isNear(o.width?.mean, like.width?.mean, SAME_WIDTH) &&
      (o.kind !== 'fill' || axisDifference(o.angle ?? 0, like.angle ?? 0) <= SAME_ANGLE),
  );
}

/** Covers whose outlines or paths come within `reach` mm of an object's, nearest first. */
export function findNeighbours(
  objects: readonly StitchObject[],
  of: StitchObject,
  reach = 1,
): { readonly object: StitchObject; readonly gap: number }[] {
  const own = pointsOf(of);
  const found: { object: StitchObject; gap: number }[] = [];
  for (const object of objects) {
    if (object === of || object.role !== 'cover') continue;
    const gap = leastGap(own, pointsOf(object), reach);
    if (gap <= reach) found.push({ object, gap });
  }
  return found.sort((a, b) => a.gap - b.gap);
}

function pointsOf(object: StitchObject): Float64Array {
  return object.outline.length > 0 ? object.outline : (object.path ?? new Float64Array(0));
}

function leastGap(a: Float64Array, b: Float64Array, reach: number): number {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < a.length; k += 2) {
    minX = Math.min(minX, a[k]!);
    maxX = Math.max(maxX, a[k]!);
    minY = Math.min(minY, a[k + 1]!);
    maxY = Math.max(maxY, a[k + 1]!);
  }
  let least = Infinity;
  for (let n = 0; n < b.length; n += 2) {
    const [x, y] = [b[n]!, b[n + 1]!];
    if (x < minX - reach || x > maxX + reach || y < minY - reach || y > maxY + reach) continue;
    for (let k = 0; k < a.length; k += 2) least = Math.min(least, Math.hypot(a[k]! - x, a[k + 1]! - y));
  }
  return least;
}
