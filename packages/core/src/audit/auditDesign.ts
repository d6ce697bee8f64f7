import type { Goal } from '../model/target.ts';
import { AuditContext, type Audited } from './AuditContext.ts';
import { findFaults } from './findFaults.ts';
import { type Finding, SEVERITIES } from './finding.ts';
import { findRule, GROUPS_BY_GOAL, rulesFor } from './rulebook.ts';

/**
 * The open findings on a design, worst first for its goal: by severity, then by what the goal asks for, then by seconds. Places that were settled are
 * left out. A caller that has a context of this design may hand it in, so that nothing is measured twice.
 */
export function auditDesign(design: Audited, context = new AuditContext(design)): Finding[] {
  return rankFindings(
    rulesFor(design.target).flatMap((rule) => findFaults(context, rule, design.kept ?? {}).map(({ finding }) => finding)),
    design.target.goal,
  );
}

function rankFindings(findings: readonly Finding[], goal: Goal): Finding[] {
  const groups = GROUPS_BY_GOAL[goal];
  const rank = (f: Finding): number => SEVERITIES.indexOf(f.severity) * 100 + groups.indexOf(findRule(f.rule).group);
  return [...findings].sort((a, b) => rank(a) - rank(b) || b.cost.seconds - a.cost.seconds || a.first - b.first);
}
