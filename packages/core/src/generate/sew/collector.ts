import type { UnderlayKind } from '../../model/kinds.ts';
import { SHORTEST } from '../../model/objectSpec.ts';
import type { Walk } from '../fill/walker.ts';

/** Penetrations of one kind that follow those of the part before; where `isApart` the needle has to get to the first one without sewing. */
export interface ObjectPart {
  readonly role: 'underlay' | 'travel' | 'cover';
  readonly layer?: UnderlayKind;
  /** xyxy. */
  readonly points: Float64Array;
  readonly isApart: boolean;
}

/** An object's stitches in sewing order, and what had to be put right or could not be done as asked, in words. */
export interface GeneratedObject {
  readonly parts: readonly ObjectPart[];
  readonly notes: readonly string[];
}

/** Collects parts and keeps where the needle is. A penetration nearer to the last one than `shortest` (mm) is left out, wherever parts meet. */
export class Collector {
  readonly parts: ObjectPart[] = [];
  private readonly shortest: number;
  x: number | undefined;
  y: number | undefined;

  constructor(shortest = SHORTEST) {
    this.shortest = shortest;
  }

  /** `walk` gives the way to a part's first point; without one, or where it finds none, the part stands apart. */
  add(role: ObjectPart['role'], path: Float64Array, walk: Walk | undefined, layer?: UnderlayKind): void {
    if (path.length < 2) return;
    const isFirst = this.x === undefined;
    const way = isFirst ? undefined : walk?.(this.x!, this.y!, path[0]!, path[1]!);
    if (way !== undefined && way.length > 0) this.push({ role: 'travel', points: this.spread(way), isApart: false });
    const isApart = isFirst || way === undefined;
    const points = isApart
      ? Float64Array.from([path[0]!, path[1]!, ...this.spread(path.subarray(2), path[0], path[1])])
      : this.spread(path);
    this.push({ role, ...(layer === undefined ? {} : { layer }), points, isApart });
  }

  private push(part: ObjectPart): void {
    if (part.points.length === 0) return;
    this.parts.push(part);
    [this.x, this.y] = [part.points[part.points.length - 2], part.points[part.points.length - 1]];
  }

  /** The points without those too near to the one before; the last one stays. */
  private spread(points: Float64Array, x = this.x, y = this.y): Float64Array {
    const out: number[] = [];
    for (let k = 0; k < points.length; k += 2) {
      const isNear = x !== undefined && y !== undefined && Math.hypot(points[k]! - x, points[k + 1]! - y) < this.shortest;
      if (isNear && k < points.length - 2) continue;
      if (isNear && out.length >= 2) out.length -= 2;
      [x, y] = [points[k], points[k + 1]];
      out.push(x!, y!);
    }
    return Float64Array.from(out);
  }
}
