import { boxOfRing, containsPoint } from '../geometry/ring.ts';
import type { CoverMap } from './coverMap.ts';

/** Thread flattens and spreads: from this cover (K) on no cloth is seen between it. From memory. */
const CLOSED = 0.85;

/**
 * How much cloth shows inside of outlines (mm²; rings as xyxy in mm, even-odd): of each cell the share that thread does not close. A fill of closed
 * rows leaves none; what shows at jagged edges is in it, so compare it with what it was.
 */
export function bareCloth({ cover, cell, columns, rows, minX, minY }: CoverMap, outlines: readonly (readonly Float64Array[])[]): number {
  let bare = 0;
  for (const rings of outlines) {
    const [fromX, fromY, toX, toY] = boxOfRing(rings[0] ?? new Float64Array(0));
    const first = { column: Math.max(0, Math.floor((fromX - minX) / cell)), row: Math.max(0, Math.floor((fromY - minY) / cell)) };
    const last = {
      column: Math.min(columns - 1, Math.floor((toX - minX) / cell)),
      row: Math.min(rows - 1, Math.floor((toY - minY) / cell)),
    };
    for (let row = first.row; row <= last.row; row++) {
      for (let column = first.column; column <= last.column; column++) {
        const k = cover[row * columns + column]!;
        if (k >= CLOSED || !containsPoint(rings, minX + (column + 0.5) * cell, minY + (row + 0.5) * cell)) continue;
        bare += (1 - k / CLOSED) * cell * cell;
      }
    }
  }
  return bare;
}
