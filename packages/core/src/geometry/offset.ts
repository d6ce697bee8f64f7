import { EndType, FillRule, inflatePathsD, JoinType, unionD } from 'clipper2-ts';

/**
 * The rings (xyxy) of an area moved outward by `distance` mm, inward when it is negative. Takes outlines and holes together, whatever way
 * they run; an area that vanishes gives no ring. Corners are mitred up to twice the distance.
 */
export function offsetRings(rings: readonly Float64Array[], distance: number): Float64Array[] {
  const paths = rings.map((ring) => {
    const path: { x: number; y: number }[] = [];
    for (let i = 0; i < ring.length; i += 2) path.push({ x: ring[i]!, y: ring[i + 1]! });
    return path;
  });
  // Inflating takes holes to run the other way than outlines: a union by the even-odd rule sees to that.
  const moved = inflatePathsD(unionD(paths, [], FillRule.EvenOdd, 3), distance, JoinType.Miter, EndType.Polygon, 2, 3);
  return moved.map((path) => Float64Array.from(path.flatMap((p) => [p.x, p.y])));
}
