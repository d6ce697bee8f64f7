import { EndType, FillRule, inflatePathsD, JoinType, type PathsD, simplifyPathsD, unionD } from 'clipper2-ts';
import { signedArea } from './ring.ts';

/** Rings smaller than this (mm²) are seams, not shapes. */
const LEAST_AREA = 0.2;
/** How far a ring may lie from the points that it was made of, mm. */
const SIMPLIFY = 0.02;

/**
 * The union of rings (xyxy, any way round) with gaps up to twice `reach` (mm) between them closed: outlines counter-clockwise, holes
 * clockwise. Corners are kept; a ring without an area gives none.
 */
export function closeGaps(rings: readonly Float64Array[], reach: number): Float64Array[] {
  // Growing unites what overlaps by itself.
  const grown = inflatePathsD(asPaths(rings), reach, JoinType.Miter, EndType.Polygon, 2, 3);
  return asRings(inflatePathsD(grown, -reach, JoinType.Miter, EndType.Polygon, 2, 3));
}

/** The union of rings (xyxy, any way round) that overlap or meet edge to edge: outlines counter-clockwise, holes clockwise, without seams. */
export function uniteRings(rings: readonly Float64Array[]): Float64Array[] {
  return asRings(rings.length === 1 ? asPaths(rings) : unionD(asPaths(rings), [], FillRule.NonZero, 3));
}

function asPaths(rings: readonly Float64Array[]): PathsD {
  return rings.map((ring) => {
    const isPositive = signedArea(ring) >= 0;
    const path: { x: number; y: number }[] = [];
    for (let i = 0; i < ring.length; i += 2) path.push({ x: ring[i]!, y: ring[i + 1]! });
    return isPositive ? path : path.reverse();
  });
}

function asRings(paths: PathsD): Float64Array[] {
  return simplifyPathsD(paths, SIMPLIFY)
    .map((path) => Float64Array.from(path.flatMap((p) => [p.x, p.y])))
    .filter((ring) => Math.abs(signedArea(ring)) > LEAST_AREA);
}

/** The signed area of a ring, mm²: positive counter-clockwise. */
export const areaOfRing = signedArea;
