import type { AuditContext } from './AuditContext.ts';
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

/** Rows by the thread that sews them, each list ascending as the rows were, in the order the threads first occur. */
export function groupByThread(context: AuditContext, rows: Iterable<number>): number[][] {
  const groups = new Map<string, number[]>();
  for (const row of rows) {
    const thread = context.threadAt(row);
    const key = `${thread.color} ${thread.name}`;
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [row]);
    else group.push(row);
  }
  return [...groups.values()];
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
