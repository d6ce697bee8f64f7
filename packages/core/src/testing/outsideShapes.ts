import * as icons from '@mdi/js';
import { Clipper, FillRule } from 'clipper2-ts';
import { flattenPath } from '../formats/svg/flattenPath.ts';
import { containsPoint } from '../geometry/ring.ts';

const NAMES = ['mdiAnchor', 'mdiBell', 'mdiClover', 'mdiFish', 'mdiKey', 'mdiLeaf', 'mdiPaw', 'mdiPuzzle', 'mdiShark', 'mdiTeddyBear'];

/** A shape that nobody here drew: rings xyxy, mm; how many parts it has, and its area in mm², as a geometry library (Clipper 2) has them. */
export interface OutsideShape {
  readonly name: string;
  readonly rings: readonly Float64Array[];
  readonly parts: number;
  readonly area: number;
}

/** Outlines of an open icon set (@mdi/js, Apache 2.0), some 40 mm across. */
export function outsideShapes(): OutsideShape[] {
  return NAMES.map((name) => {
    const flat = flattenPath((icons as Readonly<Record<string, string>>)[name]!, 'scale(1.9 -1.9)', 1, 0.4);
    if (!flat.ok) throw new Error(name);
    const paths = flat.value.map((ring) =>
      Array.from({ length: ring.length / 2 - 1 }, (_, k) => ({ x: ring[k * 2]!, y: ring[k * 2 + 1]! })),
    );
    const united = Clipper.unionD(paths, [], FillRule.EvenOdd, 4).filter((p) => Math.abs(Clipper.areaD(p)) > 0.1);
    return {
      name,
      rings: united.map((p) => Float64Array.from(p.flatMap(({ x, y }) => [x, y]))),
      parts: united.filter((p) => Clipper.areaD(p) > 0).length,
      area: united.reduce((sum, p) => sum + Clipper.areaD(p), 0),
    };
  });
}

/** A square with its lower left corner at a place, xyxy, mm. */
export function square(size: number, x = 0, y = 0): Float64Array {
  return Float64Array.of(x, y, x + size, y, x + size, y + size, x, y + size);
}

/** The lengths of a path's steps, mm. */
export function stepsOf(path: Float64Array): number[] {
  return Array.from({ length: path.length / 2 - 1 }, (_, k) =>
    Math.hypot(path[k * 2 + 2]! - path[k * 2]!, path[k * 2 + 3]! - path[k * 2 + 1]!),
  );
}

/** The share of a path's points that lie inside rings. */
export function insideShare(rings: readonly Float64Array[], path: Float64Array): number {
  let inside = 0;
  for (let k = 0; k < path.length; k += 2) if (containsPoint(rings, path[k]!, path[k + 1]!)) inside++;
  return inside / (path.length / 2);
}

/** How far a place lies from the nearest of lines, mm. */
export function awayFrom(lines: readonly Float64Array[], x: number, y: number): number {
  let nearest = Infinity;
  for (const line of lines) {
    for (let k = 0; k + 3 < line.length; k += 2) {
      const [ax, ay] = [line[k]!, line[k + 1]!];
      const [dx, dy] = [line[k + 2]! - ax, line[k + 3]! - ay];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / Math.max(1e-12, dx * dx + dy * dy)));
      nearest = Math.min(nearest, Math.hypot(ax + t * dx - x, ay + t * dy - y));
    }
  }
  return nearest;
}
