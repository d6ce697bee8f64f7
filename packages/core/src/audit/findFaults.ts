import type { KeptFinding } from '../model/design.ts';
import { type AuditContext, nameThread } from './AuditContext.ts';
import { type Finding, type FindingPlace, MOST_NAMED } from './finding.ts';
import type { Fault, Rule } from './rule.ts';

/** A finding with the faults that it was made of, as its rule's repair wants them. */
export interface Found {
  readonly finding: Finding;
  readonly faults: readonly Fault[];
}

/** With more threads than this a finding for each would hide the others: then all faults make one. */
const MOST_GROUPS = 16;

/** What a rule finds, without the places that were settled by a decision; of those only the ones that are wanted, by their keys. */
export function findFaults(
  context: AuditContext,
  rule: Rule,
  kept: Readonly<Record<string, KeptFinding>>,
  isWanted?: (key: string) => boolean,
): Found[] {
  const all = rule.list(context);
  const hasDecisions = isWanted !== undefined || Object.values(kept).some((finding) => finding.rule === rule.id);
  const open = hasDecisions
    ? all.filter((fault) => {
        const key = keyOfFault(context, rule, fault);
        return !(key in kept) && isWanted?.(key) !== false;
      })
    : all;
  return groupFaults(context, rule, open).map(([key, faults]) => ({ finding: describe(context, rule, key, faults), faults }));
}

function groupFaults(context: AuditContext, rule: Rule, faults: readonly Fault[]): [string, Fault[]][] {
  if (faults.length === 0) return [];
  if (rule.by === 'all') return [[rule.id, [...faults]]];
  const groups = new Map<string, Fault[]>();
  for (const fault of faults) {
    const { color, name } = context.threadAt(fault.row);
    const key = `${rule.id} ${color} ${name}`;
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [fault]);
    else group.push(fault);
  }
  return groups.size > MOST_GROUPS ? [[rule.id, [...faults]]] : [...groups];
}

function describe(context: AuditContext, rule: Rule, key: string, faults: readonly Fault[]): Finding {
  const { worst = faults[0]!, ...saying } = rule.say(context, faults);
  return {
    ...{ key, rule: rule.id, unit: rule.unit },
    ...{ rows: faults.map((f) => f.row), first: faults[0]!.row, last: faults[faults.length - 1]!.row },
    at: { x: worst.x, y: worst.y },
    places: placesOf(context, rule, faults),
    objects: objectsOfFaults(context, faults),
    ...saying,
  };
}

/** So many places outside of a hoop or zone are told apart: they are one decision all the same. */
const MOST_OF_DESIGN = 400;

function placesOf(context: AuditContext, rule: Rule, faults: readonly Fault[]): FindingPlace[] {
  const told = rule.scope === 'design' ? faults.slice(0, MOST_OF_DESIGN) : faults;
  return told.map((fault) => ({ key: keyOfFault(context, rule, fault), x: fault.x, y: fault.y }));
}

function objectsOfFaults(context: AuditContext, faults: readonly Fault[]): string[] {
  const seen = new Set<string>();
  for (const { row } of faults) {
    const id = context.objectAt(row);
    if (id !== undefined) seen.add(id);
    if (seen.size >= MOST_NAMED) break;
  }
  return [...seen];
}

/** Places are told apart by tenths of a millimetre. */
const PER_MM = 10;

/** What is the same for a fault as long as its object and its place in the design stay. */
function keyOfFault(context: AuditContext, rule: Rule, { row, x, y }: Fault): string {
  if (rule.scope === 'design') return rule.id;
  return `${rule.id} ${context.objectAt(row) ?? context.threadAt(row).color} ${Math.round(x * PER_MM)} ${Math.round(y * PER_MM)}`;
}

/** How the thread or threads of some faults are called in a sentence. */
export function nameThreads(context: AuditContext, faults: readonly Fault[]): string {
  const first = context.threadAt(faults[0]!.row);
  const isOne = faults.every(({ row }) => {
    const { color, name } = context.threadAt(row);
    return color === first.color && name === first.name;
  });
  return isOne ? nameThread(first) : 'several threads';
}

/** The fault with the largest value. */
export function findWorst<F extends Fault>(faults: readonly F[], value: (fault: F) => number): F {
  return faults.reduce((worst, fault) => (value(fault) > value(worst) ? fault : worst));
}

/** “1 trim”, “3 trims”. */
export function countOf(count: number, singular: string, plural = `${singular}s`): string {
  return `${count.toLocaleString('en')} ${count === 1 ? singular : plural}`;
}
