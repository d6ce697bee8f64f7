import { type Patch, replaceRows } from '../../../model/patch.ts';
import type { PatchRow } from '../../../model/rowValue.ts';
import { splitStitch } from '../../../generate/column/splitStitch.ts';
import { roundToThousandth } from '../../../geometry/number.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Fault } from '../../fault.ts';

/** Patches that put penetrations into stitches (ascending) so that no part is longer than `longest` mm. */
export function splitStitches(context: AuditContext, faults: readonly Fault[], longest: number): Patch[] {
  const { x, y } = context.program;
  return faults.map(({ row }, index) => {
    const x0 = x[row - 1]!;
    const y0 = y[row - 1]!;
    const inserted = splitStitch(context.lengths[row]!, longest, index).map((t): PatchRow => {
      return { command: 'stitch', x: roundToThousandth(x0 + t * (x[row]! - x0)), y: roundToThousandth(y0 + t * (y[row]! - y0)) };
    });
    return replaceRows(context.program, row, 0, inserted);
  });
}
