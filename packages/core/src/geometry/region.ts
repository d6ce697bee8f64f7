import { differenceD, EndType, FillRule, inflatePathsD, intersectD, JoinType, type PathsD, simplifyPathsD, unionD } from 'clipper2-ts';
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

/** The union of areas: outlines that run counter-clockwise, holes clockwise (xyxy). */
export function uniteAreas(rings: readonly Float64Array[]): Float64Array[] {
  return toRings(unionD(toPaths(rings), [], FillRule.NonZero, 3)).filter((ring) => Math.abs(signedArea(ring)) > LEAST_AREA);
}

/** What an area has that another has not; both as outlines and holes that run the other way (xyxy). */
export function subtractRings(rings: readonly Float64Array[], others: readonly Float64Array[]): Float64Array[] {
  if (rings.length === 0 || others.length === 0) return [...rings];
  return toRings(differenceD(toPaths(rings), toPaths(others), FillRule.NonZero, 3));
}

/** What two areas share; both as outlines and holes that run the other way (xyxy). */
export function intersectRings(rings: readonly Float64Array[], others: readonly Float64Array[]): Float64Array[] {
  if (rings.length === 0 || others.length === 0) return [];
  return toRings(intersectD(toPaths(rings), toPaths(others), FillRule.NonZero, 3));
}

/** An area (outlines and holes, xyxy, any way round) grown by `distance` mm with round corners, or shrunk where that is negative; outlines counter-clockwise, holes clockwise. */
export function growRings(rings: readonly Float64Array[], distance: number): Float64Array[] {
  const sound = unionD(toPaths(rings), [], FillRule.EvenOdd, 3);
  return asRings(inflatePathsD(sound, distance, JoinType.Round, EndType.Polygon, 2, 3, ARC));
}

/** What lies within `distance` mm of lines (xyxy): round at their ends. */
export function growLines(lines: readonly Float64Array[], distance: number): Float64Array[] {
  return asRings(inflatePathsD(toPaths(lines), distance, JoinType.Round, EndType.Round, 2, 3, ARC));
}

/** How far a round corner may lie from its circle, mm. */
const ARC = 0.01;

function toPaths(rings: readonly Float64Array[]): PathsD {
  return rings.map((ring) => Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[k * 2]!, y: ring[k * 2 + 1]! })));
}

function toRings(paths: PathsD): Float64Array[] {
  return paths.map((path) => Float64Array.from(path.flatMap((p) => [p.x, p.y])));
}

function asPaths(rings: readonly Float64Array[]): PathsD {
  return toPaths(rings).map((path, k) => (signedArea(rings[k]!) >= 0 ? path : path.reverse()));
}

function asRings(paths: PathsD): Float64Array[] {
  return toRings(simplifyPathsD(paths, SIMPLIFY)).filter((ring) => Math.abs(signedArea(ring)) > LEAST_AREA);
}

/** The signed area of a ring, mm²: positive counter-clockwise. */
export const areaOfRing = signedArea;
