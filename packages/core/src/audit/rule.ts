import type { Patch } from '../model/patch.ts';
import type { Target } from '../model/target.ts';
import type { AuditContext } from './AuditContext.ts';
import type { Fault } from './fault.ts';
import type { Price, Severity } from './finding.ts';

export const RULE_GROUPS = ['time', 'holding', 'bulk', 'underlay', 'look', 'order', 'fit'] as const;
export type RuleGroup = (typeof RULE_GROUPS)[number];

/** Where a limit comes from. Only `standard` can be looked up. */
export type RuleSource = 'common practice' | 'from memory' | 'standard';

/** What a rule judges: an object by itself, two that lie on or beside each other, a way between two, what is sewn in one thread, or all. */
export type RuleScope = 'object' | 'pair' | 'link' | 'block' | 'design';

/** What is to be said of faults that make one finding. */
export interface Saying {
  readonly severity: Severity;
  readonly measured: number;
  readonly limit: number;
  readonly message: string;
  readonly reason: string;
  readonly cost: Price;
  readonly fix?: string;
  readonly advice?: string;
  /** The fault to look at first; the first of them where nothing is said. */
  readonly worst?: Fault;
}

/** A judgement as data and functions of nothing but their arguments. */
export interface Rule<F extends Fault = Fault> {
  readonly id: string;
  readonly group: RuleGroup;
  readonly scope: RuleScope;
  readonly title: string;
  /** What is measured, and in what unit. */
  readonly measures: string;
  readonly unit: string;
  /** Why it matters, as a digitizer would say it. */
  readonly why: string;
  readonly source: RuleSource;
  /** Where nobody changed it. */
  limit(target: Target): number;
  /** What it follows from where that is no number of the rulebook's own: a record of the shop, or what the rule is. Such a limit is not set in the rulebook. */
  readonly follows?: 'cloth' | 'place' | 'thread' | 'machine' | 'itself';
  /** Ids of rules whose limits its places hang on, too. */
  readonly alsoBy?: readonly string[];
  /** All places where it is broken, in sewing order, judged by a limit. */
  list(context: AuditContext, limit: number): F[];
  /** What some of them mean, said once for message, price and place. */
  say(context: AuditContext, faults: readonly F[], limit: number): Saying;
  /** What the repair does, and the patches (ascending) of the program's rows that do it for some faults; none where it cannot. */
  readonly repair?: { readonly name: string; patches(context: AuditContext, faults: readonly F[], limit: number): Patch[] };
  /** What is done to objects or to their order to repair it, where that can be done (edit/repairs). */
  readonly mend?: string;
  /** The same for what is not repaired in rows but in how it is sewn; nothing where that does not help. */
  readonly retarget?: { readonly name: string; target(context: AuditContext): Target | undefined };
}

/** A rule among others, whatever its faults carry: only its own are handed back to it. */
export function asRule<F extends Fault>(rule: Rule<F>): Rule {
  return rule;
}
