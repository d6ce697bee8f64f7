import { type Link, type ObjectId, orderOf, type Plan, readRows } from '../model/plan.ts';
import { type Program, STOP } from '../model/program.ts';

/** What the operator is told on a way, stop by stop: what somebody said, or what was found there. */
export function stopsOf(source: Program, { found, stop }: Link): string[] {
  if (stop !== undefined) return stop === null ? [] : [stop];
  if (found === null) return [];
  const { program, first, end } = readRows(source, found.rows);
  const notes: string[] = [];
  for (let row = first; row < end; row++) if (program.command[row] === STOP) notes.push(program.notes.get(row) ?? '');
  return notes;
}

/** Whether the operator has to do something before an object. */
export function hasStop({ source, links }: Plan, id: ObjectId): boolean {
  return stopsOf(source, links[id]!).length > 0;
}

/** Before which objects the machine stops, with the words for the operator. */
export function listStops(plan: Plan): { readonly object: ObjectId; readonly note: string }[] {
  return orderOf(plan).flatMap((object) =>
    stopsOf(plan.source, plan.links[object]!)
      .slice(0, 1)
      .map((note) => ({ object, note })),
  );
}
