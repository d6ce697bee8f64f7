import type { Target } from '../model/target.ts';
import type { Rule } from './rule.ts';

/** By what a rule judges on a target: what the shop set, or what follows from cloth, thread, place and machine. */
export function limitOf(rule: Pick<Rule, 'id' | 'limit'>, target: Target): number {
  return target.rules?.limits[rule.id] ?? rule.limit(target);
}
