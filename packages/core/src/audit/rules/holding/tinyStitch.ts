import { type Patch, replaceRows } from '../../../model/patch.ts';
import { isThreadCut } from '../../../model/stretches.ts';
import { findLock } from '../../../model/ties.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf, findWorst } from '../../findFaults.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';

/** The smallest useful stitch, mm: below it the needle strikes the thread it has just laid. From memory: 0.4 to 0.5. */
export const SMALLEST_STITCH = 0.4;
/** Half of the last decimal of a file of 0.1 mm, so that a stitch drawn at the limit is not found for its rounding. */
const ROUNDING = 0.05;
/** So many are no accident any more. */
const MANY = 10;

export const tinyStitch: Rule = {
  id: 'tiny-stitch',
  group: 'holding',
  scope: 'object',
  title: 'Tiny stitch',
  measures: 'length of a stitch outside of locks',
  unit: 'mm',
  why: 'A needle that comes down almost where it was strikes its own thread: it frays and breaks, and the knots show as a hard, dull spot.',
  source: 'from memory',
  limit: () => SMALLEST_STITCH,
  list: (context, limit) => listTiny(context, limit).map((row) => context.place(row)),
  say(context, faults, limit) {
    const worst = findWorst(faults, ({ row }) => -context.lengths[row]!);
    return {
      worst,
      severity: faults.length >= MANY ? 'fix' : 'note',
      measured: context.lengths[worst.row]!,
      limit,
      message: `${countOf(faults.length, 'stitch', 'stitches')} under ${limit} mm, the smallest ${context.lengths[worst.row]!.toFixed(2)}`,
      reason: 'The needle strikes thread it has just laid; it frays and breaks. Merged with its neighbor nothing is seen of it.',
      cost: priceOfPatches(context, merge(context, faults)),
      fix: `Merge ${faults.length === 1 ? 'it' : `all ${faults.length}`}`,
    };
  },
  repair: { name: 'merge', patches: merge },
};

/**
 * Rows of stitches that are too short, locks and the needle's coming down excepted. A stitch is judged from the last penetration that would
 * stay if those before it were merged, so that a creep of many tiny steps counts all but those that bring it over the limit.
 */
function listTiny(context: AuditContext, limit: number): number[] {
  const { program } = context;
  const rows: number[] = [];
  for (const stretch of context.stretches) {
    let from = stretch.first;
    let to = stretch.last;
    const isStart = isThreadCut(stretch.before) || stretch === context.stretches[0];
    const isEnd = isThreadCut(stretch.after) || stretch === context.stretches[context.stretches.length - 1];
    if (isStart) from = Math.max(from, findLock(program, stretch.first, stretch.last));
    if (isEnd) {
      const lock = findLock(program, stretch.last, stretch.first);
      if (lock >= 0) to = lock;
    }
    let kept = from;
    for (let i = from + 1; i <= to; i++) {
      const isTiny = Math.hypot(program.x[i]! - program.x[kept]!, program.y[i]! - program.y[kept]!) < limit - ROUNDING;
      if (!isTiny || isTurn(context, i)) {
        kept = i;
        continue;
      }
      // The edge of a fill keeps its penetrations: what goes is the one before, unless that is on the edge itself.
      if (i < to && isTurn(context, i + 1)) {
        if (kept === i - 1 && kept > from && !isTurn(context, kept)) rows.push(kept);
        kept = i;
      } else rows.push(i);
    }
  }
  return rows;
}

/**
 * Whether a short stitch is the way from one row of a fill to the next, along its edge: that is as short as rows lie close, and without it rows would turn
 * into Vs.
 */
function isTurn({ objects, program }: AuditContext, row: number): boolean {
  const owner = objects?.objects[objects.ownerOfRow[row] ?? -1];
  if (owner?.kind !== 'fill' || owner.angle === undefined) return false;
  const turn = (owner.angle * Math.PI) / 180;
  const [dx, dy] = [program.x[row]! - program.x[row - 1]!, program.y[row]! - program.y[row - 1]!];
  const [along, across] = [Math.abs(dx * Math.cos(turn) + dy * Math.sin(turn)), Math.abs(dy * Math.cos(turn) - dx * Math.sin(turn))];
  return across > along * TURNED && across > 0;
}

/** A step that goes across the rows by more than this times what it goes along them leads to another row. */
const TURNED = 0.5;

/** Takes the penetrations away. One that ends its stretch stays, and the one before it goes, so that no place is lost where a path ends. */
function merge(context: AuditContext, faults: readonly Fault[]): Patch[] {
  const ends = new Set(context.stretches.map((s) => s.last));
  const starts = new Set(context.stretches.map((s) => s.first));
  const drop = new Set<number>();
  for (const { row } of faults) {
    if (!ends.has(row)) {
      drop.add(row);
      continue;
    }
    let before = row - 1;
    while (drop.has(before)) before--;
    drop.add(starts.has(before) ? row : before);
  }
  const patches: Patch[] = [];
  const ordered = [...drop].sort((a, b) => a - b);
  for (let k = 0; k < ordered.length;) {
    const at = ordered[k]!;
    let count = 1;
    while (ordered[k + count] === at + count) count++;
    patches.push(replaceRows(context.program, at, count, []));
    k += count;
  }
  return patches;
}
