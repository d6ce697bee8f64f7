import type { Patch } from '../model/patch.ts';
import { applyPatches } from '../model/patch.ts';
import { runClock } from '../measure/runClock.ts';
import { ProgramBuilder, type Row, STITCH } from '../model/program.ts';
import type { AuditContext } from './AuditContext.ts';
import type { Price } from './finding.ts';

/** Rows on either side of a patch whose time it can change: a start is over after eight stitches. */
const REACH = 9;

/**
 * What applying patches (ascending) would save on one piece. The clock is run over the rows around each patch before and after it, which
 * gives the same as running it over the whole program, since a row's time depends on no more than the eight before it.
 */
export function priceOfPatches(context: AuditContext, patches: readonly Patch[]): Price {
  let seconds = 0;
  let stitches = 0;
  for (let k = 0; k < patches.length;) {
    const from = Math.max(0, patches[k]!.at - REACH);
    let to: number;
    const group: Patch[] = [];
    do {
      const patch = patches[k++]!;
      group.push(patch);
      to = patch.at + patch.removed.length + REACH;
      for (const row of patch.removed) if (row.command === 'stitch') stitches++;
      for (const row of patch.inserted) if (row.command === 'stitch') stitches--;
    } while (k < patches.length && patches[k]!.at - REACH < to);
    seconds += secondsSaved(context, group, from, Math.min(to, context.program.rowCount));
  }
  return { seconds, stitches };
}

function secondsSaved(context: AuditContext, patches: readonly Patch[], from: number, to: number): number {
  const { program, target } = context;
  const builder = new ProgramBuilder(to - from + 2);
  const colorsBefore = from === 0 ? 0 : context.threadOfRow[from - 1]! + 1;
  if (from > 0) {
    // What the rows before leave behind: a thread on the machine, and the needle at its place.
    const start: Row[] = [
      { command: 'color', color: '#000000' },
      { command: program.command[from - 1] === STITCH ? 'stitch' : 'jump', x: program.x[from - 1]!, y: program.y[from - 1]! },
    ];
    for (const row of start.slice(colorsBefore > 0 ? 0 : 1)) builder.row(row);
  }
  const shift = builder.rowCount - from;
  const before = builder.copy(program, from, to, colorsBefore).build();
  const after = applyPatches(
    before,
    patches.map((p) => ({ ...p, at: p.at + shift })),
  );
  if (!after.ok) throw new Error(`a repair does not fit its own program: ${after.error}`);
  return runClock(before, target.machine).totals.seconds - runClock(after.value, target.machine).totals.seconds;
}
