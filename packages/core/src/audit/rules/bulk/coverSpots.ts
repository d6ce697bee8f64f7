import { labelCells } from '../../../geometry/labelCells.ts';
import { threadThickness } from '../../../model/thread.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Price } from '../../finding.ts';
import type { Fault } from '../../fault.ts';

/** Spots smaller than this (mm²) are locks and corners, which are meant to be dense. */
const SMALLEST_SPOT = 5;
/** What a stitch of a closed fill lays on average, mm; turns thread to be saved into stitches. From memory: most fills step at 3.5 to 4.5. */
const MEAN_STITCH = 3.5;

/** Cells over a limit that lie together; the row is one that sews there, the place that of the worst cell. */
export interface Spot extends Fault {
  readonly cells: readonly number[];
  /** mm². */
  readonly area: number;
  readonly worst: number;
  /** Cover over the limit, summed as K × mm². */
  readonly excess: number;
}

/**
 * Places where `values` (K by cell of the cover map) exceed `limit`, largest first. `mark` tells cells apart that make no common spot; those
 * it gives 0 are left out.
 */
export function findSpots(context: AuditContext, values: Float32Array, limit: number, mark: (cell: number) => number): Spot[] {
  const { cover } = context;
  const marks = new Uint16Array(values.length);
  for (let cell = 0; cell < values.length; cell++) if (values[cell]! > limit) marks[cell] = mark(cell);
  const cellArea = cover.cell * cover.cell;
  const spots: Spot[] = [];
  for (const cells of labelCells(marks, cover.columns)) {
    const area = cells.length * cellArea;
    if (area < SMALLEST_SPOT) continue;
    let worst = cells[0]!;
    let excess = 0;
    let row = -1;
    for (const cell of cells) {
      if (values[cell]! > values[worst]!) worst = cell;
      excess += (values[cell]! - limit) * cellArea;
    }
    for (const cell of [worst, ...cells]) {
      row = cover.densestRow[cell]!;
      if (row >= 0) break;
    }
    if (row < 0) continue;
    const x = cover.minX + ((worst % cover.columns) + 0.5) * cover.cell;
    const y = cover.minY + (Math.floor(worst / cover.columns) + 0.5) * cover.cell;
    spots.push({ cells, area, worst: values[worst]!, x, y, row, excess });
  }
  return spots.sort((a, b) => b.area - a.area);
}

/** Stitches and seconds that the cover over the limit takes: an estimate from the length of thread in it. */
export function priceOfExcess(context: AuditContext, spots: readonly Spot[]): Price {
  const { machine, thread } = context.target;
  const length = spots.reduce((sum, spot) => sum + spot.excess, 0) / threadThickness(thread);
  const stitches = Math.round(length / MEAN_STITCH);
  return { stitches, seconds: (stitches * 60) / machine.topSpeed };
}
