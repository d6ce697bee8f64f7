import { z } from 'zod';
import { COLOR, COMMANDS, type Program, ProgramBuilder, type Row, rowAt } from './program.ts';
import { fail, type Result, succeed } from './result.ts';
import { type PatchRow, RowValue } from './rowValue.ts';

/**
 * Rows replaced at one place: those from row `at` that read `removed` give way to `inserted`. Both ends stand in it, so a patch can be
 * checked before it is applied and turned round without its program.
 */
export const Patch = z.object({
  at: z.number().int().nonnegative(),
  removed: z.array(RowValue),
  inserted: z.array(RowValue),
});
export type Patch = z.infer<typeof Patch>;

/** The patch that replaces `count` rows from `at` of a program. @throws when an end row is among them. */
export function replaceRows(program: Program, at: number, count: number, inserted: readonly PatchRow[]): Patch {
  const removed: PatchRow[] = [];
  for (let i = at; i < at + count; i++) removed.push(asPatchRow(rowAt(program, i)));
  return { at, removed, inserted: [...inserted] };
}

/**
 * The program with patches applied; all rows are numbered as before the first. Patches stand in ascending order and do not overlap. Gives
 * the reason instead where one does not fit the program. O(rows).
 */
export function applyPatches(program: Program, patches: readonly Patch[]): Result<Program, string> {
  const builder = new ProgramBuilder(program.rowCount + 16);
  let row = 0;
  let colors = 0;
  const advance = (to: number): void => {
    const from = row;
    const before = colors;
    for (; row < to; row++) if (program.command[row] === COLOR) colors++;
    builder.copy(program, from, to, before);
  };
  for (const patch of patches) {
    const end = patch.at + patch.removed.length;
    if (patch.at < row || end > program.rowCount)
      return fail(`rows ${patch.at} to ${end} do not stand in order within the program's ${program.rowCount} rows`);
    advance(patch.at);
    for (const expected of patch.removed) {
      if (!isRow(program, row, colors, expected)) return fail(`row ${row} is not the ${expected.command} that the edit expects there`);
      if (program.command[row] === COLOR) colors++;
      row++;
    }
    for (const inserted of patch.inserted) builder.row(inserted);
  }
  advance(program.rowCount);
  return succeed(builder.build());
}

function isRow(program: Program, index: number, colorsBefore: number, expected: PatchRow): boolean {
  if (COMMANDS[program.command[index]!] !== expected.command) return false;
  if (expected.command === 'color') {
    const thread = program.threads[colorsBefore]!;
    return thread.color === expected.color && thread.name === (expected.note ?? '');
  }
  if ((program.notes.get(index) ?? '') !== (expected.note ?? '')) return false;
  if (expected.command === 'stitch' || expected.command === 'jump')
    return program.x[index] === expected.x && program.y[index] === expected.y;
  return true;
}

function asPatchRow(row: Row): PatchRow {
  if (row.command === 'end') throw new RangeError('an end row cannot be replaced');
  return row as PatchRow;
}
