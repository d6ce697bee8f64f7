import { rangeOfLimit, shopLimit } from '../materials/shopLimits.ts';
import type { ShopRules, Target } from '../model/target.ts';
import type { Rule } from './rule.ts';

type Limited = Pick<Rule, 'id' | 'limit' | 'unit' | 'follows'>;

/** By what a rule judges on a target: what the shop set, or what is usual or follows from cloth, thread, place and machine. */
export function limitOf(rule: Limited, target: Target): number {
  const usual = rule.limit(target);
  return rule.follows === undefined ? shopLimit(target.rules, rule.id, usual, rule.unit) : usual;
}

/** What a shop set that makes no sense, each in a sentence; where something is wrong the rule goes by what is usual. */
export function problemsOfRules({ limits, off }: ShopRules, rules: readonly Rule[], target: Target): string[] {
  const byId = new Map(rules.map((rule) => [rule.id, rule]));
  const unknown = [...Object.keys(limits), ...off].filter((id) => !byId.has(id)).map((id) => `There is no rule ${id}.`);
  const senseless = Object.entries(limits).flatMap(([id, set]) => {
    const rule = byId.get(id);
    return rule === undefined ? [] : (problemOfLimit(rule, set, target) ?? []);
  });
  return [...unknown, ...senseless];
}

/** Why a limit of a rule makes no sense; nothing where it does. */
export function problemOfLimit(rule: Rule, set: number, target: Target): string | undefined {
  if (rule.follows !== undefined) return `${rule.title}: its limit ${FOLLOWS[rule.follows]}.`;
  const { low, high } = rangeOfLimit(rule.limit(target), rule.unit);
  if (set >= low && set <= high) return undefined;
  return `${rule.title}: ${set} ${rule.unit} makes no sense as its limit; it takes ${tidy(low)} to ${tidy(high)} ${rule.unit}.`;
}

/** Where a limit is changed that the rulebook does not hold. */
export const FOLLOWS: Readonly<Record<NonNullable<Rule['follows']>, string>> = {
  cloth: 'follows the cloth and is changed there',
  place: 'follows the place on the garment and is changed there',
  thread: 'follows the thread and is changed there',
  machine: 'follows the machine and is changed there',
  itself: 'is what the rule is, and nothing to change',
};

const tidy = (value: number): string => String(Number(value.toFixed(2)));
