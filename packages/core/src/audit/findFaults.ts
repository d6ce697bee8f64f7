import type { KeptFinding } from '../model/design.ts';
import type { AuditContext } from './AuditContext.ts';
import { type Finding, type FindingPlace, MOST_NAMED } from './finding.ts';
import { limitOf } from './limitOf.ts';
import type { Fault } from './fault.ts';
import type { Rule } from './rule.ts';
import { sayCount } from '../words/sayCount.ts';

/** A finding with the faults that it was made of, as its rule's repair wants them. */
export interface Found {
  readonly finding: Finding;
  readonly faults: readonly Fault[];
}

/** What a rule finds, without the places that were settled by a decision; of those only the ones that are wanted, by their keys. */
export function findFaults(
  context: AuditContext,
  rule: Rule,
  kept: Readonly<Record<string, KeptFinding>>,
  isWanted?: (key: string) => boolean,
): Found[] {
  const limit = limitOf(rule, context.target);
  const all = listFaults(context, rule, limit);
  const hasDecisions = isWanted !== undefined || Object.values(kept).some((finding) => finding.rule === rule.id);
  const open = hasDecisions
    ? all.filter((fault) => {
        const key = keyOfFault(context, rule, fault);
        return !(key in kept) && isWanted?.(key) !== false;
      })
    : all;
  return open.length === 0 ? [] : [{ finding: describe(context, rule, open, limit), faults: open }];
}

function describe(context: AuditContext, rule: Rule, faults: readonly Fault[], limit: number): Finding {
  const { worst = faults[0]!, ...saying } = rule.say(context, faults, limit);
  return {
    ...{ key: rule.id, rule: rule.id, unit: rule.unit },
    ...{ rows: faults.map((f) => f.row), first: faults[0]!.row, last: faults[faults.length - 1]!.row },
    at: { x: worst.x, y: worst.y },
    places: placesOf(context, rule, faults),
    objects: objectsOfFaults(context, faults),
    ...saying,
    message: sayWhere(context, rule, faults, saying.message),
  };
}

/** A fault with the object that it is one of, or in how many it is found. */
function sayWhere(context: AuditContext, rule: Rule, faults: readonly Fault[], what: string): string {
  const ids = new Set(faults.map((fault) => objectOf(context, fault)));
  const [first] = ids;
  const one = ids.size === 1 ? context.objects?.objects.find(({ id }) => id === first) : undefined;
  if (rule.scope === 'design' || context.objects === undefined || ids.has(undefined)) return capitalize(what);
  return one === undefined ? `${capitalize(what)}, in ${ids.size} objects` : `${capitalize(one.name)}: ${what}`;
}

const capitalize = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** So many places outside of a hoop or zone are told apart: they are one decision all the same. */
const MOST_OF_DESIGN = 400;

function placesOf(context: AuditContext, rule: Rule, faults: readonly Fault[]): FindingPlace[] {
  const told = rule.scope === 'design' ? faults.slice(0, MOST_OF_DESIGN) : faults;
  return told.map((fault) => {
    const object = objectOf(context, fault);
    return { key: keyOfFault(context, rule, fault), x: fault.x, y: fault.y, ...(object === undefined ? {} : { object }) };
  });
}

function objectsOfFaults(context: AuditContext, faults: readonly Fault[]): string[] {
  const seen = new Set<string>();
  for (const fault of faults) {
    for (const id of [objectOf(context, fault), fault.other]) if (id !== undefined) seen.add(id);
    if (seen.size >= MOST_NAMED) break;
  }
  return [...seen];
}

function objectOf(context: AuditContext, { row, object }: Fault): string | undefined {
  return object ?? context.objectAt(row);
}

/** Places are told apart by tenths of a millimetre. */
const PER_MM = 10;

/** What is the same for a fault as long as its object and its place in the design stay. */
function keyOfFault(context: AuditContext, rule: Rule, { row, x, y, object, other, isOneOfSeveral }: Fault): string {
  if (rule.scope === 'design') return rule.id;
  const place = `${Math.round(x * PER_MM)} ${Math.round(y * PER_MM)}`;
  if (object !== undefined) return [rule.id, object, ...(other === undefined ? [] : [other]), ...(isOneOfSeveral ? [place] : [])].join(' ');
  return `${rule.id} ${context.objectAt(row) ?? context.threadAt(row).color} ${place}`;
}

/** The fault with the largest value. */
export function findWorst<F extends Fault>(faults: readonly F[], value: (fault: F) => number): F {
  return faults.reduce((worst, fault) => (value(fault) > value(worst) ? fault : worst));
}

/** “1 trim”, “3 trims”. */
export function countOf(count: number, singular: string, plural = `${singular}s`): string {
  return `${sayCount(count)} ${count === 1 ? singular : plural}`;
}

/** All places where a rule is broken by a limit, in sewing order; found once for each limit that it is judged by. */
function listFaults(context: AuditContext, rule: Rule, limit: number): readonly Fault[] {
  const limits = [limit, ...(rule.alsoBy ?? []).map((id) => context.target.rules?.limits[id])].join(' ');
  const known = context.faults.get(rule.id);
  if (known?.limits === limits) return known.found;
  const found = rule.list(context, limit);
  context.faults.set(rule.id, { limits, found });
  return found;
}
