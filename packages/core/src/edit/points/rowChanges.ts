import { splitStitch } from '../../generate/column/splitStitch.ts';
import { roundToThousandth } from '../../geometry/number.ts';
import { type Patch, replaceRows } from '../../model/patch.ts';
import { type Program, STITCH } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { PatchRow } from '../../model/rowValue.ts';

/** What rows become: for each that is changed the rows in its place, none where it goes. */
export type RowChanges = ReadonlyMap<number, readonly PatchRow[]>;

export interface ChangedRows {
  /** Ascending, rows counted as before. */
  readonly patches: readonly Patch[];
  /** How many stitches had to be parted, and how long (mm) the longest of them would have been. */
  readonly parted: number;
  readonly longest: number;
  /** Where rows are after the patches that were changed and are still there. */
  readonly rows: ReadonlyMap<number, number>;
}

/** Stitches are parted into pieces no longer than this share of what the machine makes. */
const PIECE = 0.6;

/**
 * Patches that make changes of rows. A stitch that becomes longer than `longest` mm by them is parted evenly, or all is refused with its place and
 * length; those that were longer before are left.
 */
export function patchesOf(program: Program, changes: RowChanges, longest: number, onLong: 'split' | 'refuse'): Result<ChangedRows, string> {
  const { x, y, command } = program;
  const patches: Patch[] = [];
  const rows = new Map<number, number>();
  const order = [...changes.keys()].sort((a, b) => a - b);
  let [parted, worst, shift] = [0, 0, 0];
  for (let k = 0; k < order.length;) {
    const first = order[k]!;
    let last = first;
    while (order[k + 1] === last + 1) last = order[++k]!;
    k++;
    const inserted: PatchRow[] = [];
    let here = first > 0 ? { x: x[first - 1]!, y: y[first - 1]! } : undefined;
    /** Parts the way to a penetration where it is too long; the place where that cannot be. */
    const reach = (to: { readonly x: number; readonly y: number }, was: number): string | undefined => {
      if (here === undefined) return undefined;
      const from = here;
      const length = Math.hypot(to.x - from.x, to.y - from.y);
      if (length <= longest || length <= was + 1e-9) return undefined;
      if (onLong === 'refuse')
        return `the stitch to (${to.x.toFixed(1)}, ${to.y.toFixed(1)}) would be ${length.toFixed(1)} mm long; the machine makes ${longest} mm`;
      for (const t of splitStitch(length, PIECE * longest, 0))
        inserted.push({
          command: 'stitch',
          x: roundToThousandth(from.x + t * (to.x - from.x)),
          y: roundToThousandth(from.y + t * (to.y - from.y)),
        });
      parted++;
      worst = Math.max(worst, length);
      return undefined;
    };
    for (let row = first; row <= last; row++) {
      const was = row > 0 && command[row] === STITCH ? Math.hypot(x[row]! - x[row - 1]!, y[row]! - y[row - 1]!) : 0;
      for (const next of changes.get(row)!) {
        if (next.command === 'stitch') {
          const why = reach(next, was);
          if (why !== undefined) return fail(why);
        }
        if (!rows.has(row)) rows.set(row, first + shift + inserted.length);
        inserted.push(next);
        if (next.command === 'stitch' || next.command === 'jump') here = next;
      }
    }
    const next = last + 1;
    if (next < program.rowCount && command[next] === STITCH) {
      const why = reach({ x: x[next]!, y: y[next]! }, Math.hypot(x[next]! - x[last]!, y[next]! - y[last]!));
      if (why !== undefined) return fail(why);
    }
    patches.push(replaceRows(program, first, last - first + 1, inserted));
    shift += inserted.length - (last - first + 1);
  }
  return succeed({ patches, parted, longest: worst, rows });
}
