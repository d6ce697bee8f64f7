import { type AuditContext, nameThread } from './AuditContext.ts';
import { type Finding, MAX_PLACES, type Place } from './finding.ts';

/** The fields of a finding that say where it is, for rows in ascending order; `worst` is the row to look at first. */
export function describeRows(
  context: AuditContext,
  rule: string,
  rows: readonly number[],
  worst = rows[0]!,
): Pick<Finding, 'key' | 'rule' | 'objects' | 'rows' | 'first' | 'last' | 'at' | 'places'> {
  const place = (row: number): Place => ({ x: context.program.x[row]!, y: context.program.y[row]! });
  const first = rows[0]!;
  const thread = context.threadAt(first);
  const { x, y } = place(first);
  return {
    key: `${rule} ${thread.color} ${x.toFixed(1)} ${y.toFixed(1)}`,
    rule,
    objects: [],
    rows,
    first,
    last: rows[rows.length - 1]!,
    at: place(worst),
    places: rows.slice(0, MAX_PLACES).map(place),
  };
}

/** With more threads than this a finding for each would hide the others: then all rows make one group. */
const MOST_GROUPS = 16;

/**
 * Rows by the thread that sews them, in the order the threads first occur; all in one group where there are very many threads. Rows ascend
 * in each group as they did before.
 */
export function groupByThread(context: AuditContext, rows: Iterable<number>): number[][] {
  const all = [...rows];
  const groups = new Map<string, number[]>();
  for (const row of all) {
    const key = keyOfThread(context, row);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [row]);
    else group.push(row);
  }
  return groups.size > MOST_GROUPS ? [all] : [...groups.values()];
}

/** How the thread or threads of some rows are called in a sentence. */
export function nameThreads(context: AuditContext, rows: readonly number[]): string {
  const first = keyOfThread(context, rows[0]!);
  return rows.every((row) => keyOfThread(context, row) === first) ? nameThread(context.threadAt(rows[0]!)) : 'several threads';
}

function keyOfThread(context: AuditContext, row: number): string {
  const thread = context.threadAt(row);
  return `${thread.color} ${thread.name}`;
}

/** The row with the largest value. */
export function findWorst(rows: readonly number[], value: (row: number) => number): number {
  let worst = rows[0]!;
  for (const row of rows) if (value(row) > value(worst)) worst = row;
  return worst;
}

/** “1 trim”, “3 trims”. */
export function countOf(count: number, singular: string, plural = `${singular}s`): string {
  return `${count.toLocaleString('en')} ${count === 1 ? singular : plural}`;
}
