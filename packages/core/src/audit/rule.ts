import type { Patch } from '../model/patch.ts';
import type { Target } from '../model/target.ts';
import type { AuditContext } from './AuditContext.ts';
import type { Finding } from './finding.ts';

export const RULE_GROUPS = ['time', 'holding', 'bulk', 'underlay', 'look', 'order', 'fit'] as const;
export type RuleGroup = (typeof RULE_GROUPS)[number];

/** Where a limit comes from. Only `standard` can be looked up. */
export type RuleSource = 'common practice' | 'from memory' | 'standard';

/** A judgement as data and functions of nothing but their arguments. */
export interface Rule {
  readonly id: string;
  readonly group: RuleGroup;
  readonly title: string;
  /** What is measured, and in what unit. */
  readonly measures: string;
  readonly unit: string;
  /** Why it matters, as a digitizer would say it. */
  readonly why: string;
  readonly source: RuleSource;
  limit(target: Target): number;
  find(context: AuditContext): Finding[];
  /** What the repair does, and the patches (ascending) that do it for one finding of this program; none where it cannot. */
  readonly repair?: { readonly name: string; patches(context: AuditContext, finding: Finding): Patch[] };
}
