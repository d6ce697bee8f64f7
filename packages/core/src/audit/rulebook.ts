import type { Goal } from '../model/target.ts';
import { asRule, type Rule, type RuleGroup } from './rule.ts';
import { stackedCover } from './rules/bulk/stackedCover.ts';
import { tooDense } from './rules/bulk/tooDense.ts';
import { hoopOverflow, zoneOverflow } from './rules/fit/overflow.ts';
import { tooManyColors } from './rules/fit/tooManyColors.ts';
import { longStitch } from './rules/holding/longStitch.ts';
import { machineStep } from './rules/holding/machineStep.ts';
import { missingTie } from './rules/holding/missingTie.ts';
import { tinyStitch } from './rules/holding/tinyStitch.ts';
import { needlessJump } from './rules/time/needlessJump.ts';
import { needlessTrim } from './rules/time/needlessTrim.ts';

/** Counts up whenever a rule's meaning or limit changes, so that findings of different times can be told apart. */
export const RULEBOOK_VERSION = 3;

/**
 * All rules, in the order in which their repairs are made: connections first, because they take locks away; penetrations next; locks last,
 * where a thread then really starts or ends.
 */
export const RULES: readonly Rule[] = [
  asRule(needlessTrim),
  asRule(needlessJump),
  asRule(tinyStitch),
  asRule(machineStep),
  asRule(longStitch),
  asRule(missingTie),
  asRule(tooDense),
  asRule(stackedCover),
  asRule(hoopOverflow),
  asRule(zoneOverflow),
  asRule(tooManyColors),
];

/** Which groups of rules matter first for a goal, among findings of one severity. */
export const GROUPS_BY_GOAL: Readonly<Record<Goal, readonly RuleGroup[]>> = {
  fastest: ['fit', 'time', 'order', 'holding', 'bulk', 'underlay', 'look'],
  cleanest: ['fit', 'holding', 'look', 'underlay', 'order', 'bulk', 'time'],
  softest: ['fit', 'bulk', 'underlay', 'holding', 'look', 'order', 'time'],
};

/** The rule of an id. @throws when there is none. */
export function findRule(id: string): Rule {
  const rule = RULES.find((r) => r.id === id);
  if (rule === undefined) throw new RangeError(`no rule ${id}; there are ${RULES.map((r) => r.id).join(', ')}`);
  return rule;
}
