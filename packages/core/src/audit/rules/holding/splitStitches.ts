import { type Patch, type PatchRow, replaceRows } from '../../../edit/patch.ts';
import { roundToThousandth } from '../../../geometry/number.ts';
import type { AuditContext } from '../../AuditContext.ts';

/**
 * Patches that put penetrations into stitches so that no part is longer than `longest` mm. Neighbouring stitches are parted at shifted
 * places, a third either way, so that the penetrations of a broad satin do not line up to a crease.
 */
export function splitStitches(context: AuditContext, rows: readonly number[], longest: number): Patch[] {
  const { x, y } = context.program;
  return rows.map((row, k) => {
    const length = context.lengths[row]!;
    const x0 = x[row - 1]!;
    const y0 = y[row - 1]!;
    // One part more than would just do leaves the room by which the places are shifted.
    const parts = Math.ceil(length / longest + 1 / 3);
    const shift = ((k % 3) - 1) / (3 * parts);
    const inserted: PatchRow[] = [];
    for (let part = 1; part < parts; part++) {
      const t = part / parts + shift;
      inserted.push({ command: 'stitch', x: roundToThousandth(x0 + t * (x[row]! - x0)), y: roundToThousandth(y0 + t * (y[row]! - y0)) });
    }
    return replaceRows(context.program, row, 0, inserted);
  });
}
