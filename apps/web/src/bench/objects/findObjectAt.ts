import { containsPoint, type Program, type StitchObject } from '@isola/core';
import type { ShownPart } from '../../workers/clothProtocol.ts';

/**
 * The object at a place on the cloth: of what is shown, the one whose stitch passes nearest within `reach` mm, the topmost of those that are
 * about as near; else the topmost cover around the place.
 */
export function findObjectAt(
  program: Program,
  objects: readonly StitchObject[],
  part: ShownPart,
  x: number,
  y: number,
  reach: number,
): StitchObject | undefined {
  let best: StitchObject | undefined;
  let least = reach;
  objects.forEach((object, index) => {
    if (!isShown(object, index, part)) return;
    for (const { first, last } of object.spans) {
      for (let i = Math.max(1, first); i <= last; i++) {
        const d = distanceToStitch(program, i, x, y);
        // What is sewn later lies on top, so it wins where both are under the pointer.
        if (d > Math.max(least, reach / 3)) continue;
        best = object;
        least = Math.min(least, d);
      }
    }
  });
  return (
    best ?? objects.findLast((o, index) => isShown(o, index, part) && o.outline.length > 0 && containsPoint([o.outline, ...o.holes], x, y))
  );
}

function isShown(object: StitchObject, index: number, part: ShownPart): boolean {
  if (typeof part !== 'string') return part.includes(index);
  if (part === 'all') return object.role !== 'tie';
  if (part === 'travel') return object.role === 'travel' || object.role === 'tie';
  return part === 'cover' ? object.role === 'cover' : object.role !== 'cover' && object.role !== 'travel' && object.role !== 'tie';
}

function distanceToStitch({ x, y }: Program, row: number, px: number, py: number): number {
  const [ax, ay] = [x[row - 1]!, y[row - 1]!];
  const [dx, dy] = [x[row]! - ax, y[row]! - ay];
  const square = dx * dx + dy * dy;
  const t = square > 0 ? Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / square)) : 0;
  return Math.hypot(ax + t * dx - px, ay + t * dy - py);
}
