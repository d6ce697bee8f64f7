import type { Plan } from '../model/plan.ts';
import type { Target } from '../model/target.ts';
import type { Fault } from './fault.ts';

/** What an audit worked out of a design that does not hang on the limits it is judged by. */
export interface Remembered<Measures extends object> {
  readonly measures: Measures;
  /** By rule: all places where it is broken, and the limits by which they were found. */
  readonly faults: Map<string, { readonly limits: string; readonly found: readonly Fault[] }>;
}

/** So many designs are remembered: the one on the bench and one that is tried. Each holds its cover map. */
const MOST = 2;
const kept: { readonly plan: Plan; readonly key: string; readonly remembered: Remembered<object> }[] = [];

/** What is known of a plan on a target since it was last audited, whatever limits it was judged by; empty where nothing is. */
export function recall<Measures extends object>(plan: Plan, target: Target): Remembered<Measures> {
  const key = keyOf(target);
  const at = kept.findIndex((one) => one.plan === plan && one.key === key);
  const [known] = at < 0 ? [] : kept.splice(at, 1);
  const one = known ?? { plan, key, remembered: { measures: {}, faults: new Map() } };
  kept.unshift(one);
  kept.length = Math.min(kept.length, MOST);
  return one.remembered as Remembered<Measures>;
}

/** All of a target that faults hang on but limits of single rules, which are looked at rule by rule, and what only ranks or prices them. */
function keyOf({ rules, goal: _, quantity: __, ...target }: Target): string {
  return JSON.stringify([target, rules?.schools]);
}
