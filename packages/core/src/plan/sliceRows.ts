import { isSourceRows, type Plan, type PlanRows } from '../model/plan.ts';
import { COLOR, JUMP, type Program, ProgramBuilder } from '../model/program.ts';
import { assemble } from './assemble.ts';

/** Rows of the program that is assembled from a plan, `end` not included: rows of the source where they stand there just so. */
export function sliceRows(plan: Plan, first: number, end: number): PlanRows {
  const { program, places } = assemble(plan);
  const near = places.find((place) => place.end > first && isSourceRows(plan.objects[place.id]!.sewn.rows)) ?? places[0];
  const rows = near === undefined ? undefined : plan.objects[near.id]!.sewn.rows;
  const from = near === undefined || rows === undefined || !isSourceRows(rows) ? first : rows.first + first - near.first;
  if (isSameRows(program, first, end, plan.source, from)) return { first: from, end: from + end - first };
  return new ProgramBuilder(end - first).copy(program, first, end).build();
}

/** Whether rows of one program are rows of another one from row `from` on. */
function isSameRows(a: Program, first: number, end: number, b: Program, from: number): boolean {
  if (from < 0 || from + end - first > b.rowCount) return false;
  for (let i = first, k = from; i < end; i++, k++) {
    const command = a.command[i]!;
    if (command !== b.command[k] || command === COLOR || (a.notes.get(i) ?? '') !== (b.notes.get(k) ?? '')) return false;
    if (command <= JUMP && (a.x[i] !== b.x[k] || a.y[i] !== b.y[k])) return false;
  }
  return true;
}
