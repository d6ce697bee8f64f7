import type { Design } from '../model/design.ts';
import { AuditContext } from './AuditContext.ts';
import { type Finding, SEVERITIES } from './finding.ts';
import { findRule, GROUPS_BY_GOAL, RULES } from './rulebook.ts';

/**
 * All findings on a design, worst first for its goal: by severity, then by what the goal asks for, then by seconds. A caller that has a
 * context of this design may hand it in, so that nothing is measured twice.
 */
export function auditDesign(design: Pick<Design, 'program' | 'target'>, context = new AuditContext(design)): Finding[] {
  return rankFindings(
    RULES.flatMap((rule) => rule.find(context)),
    design.target.goal,
  );
}

function rankFindings(findings: readonly Finding[], goal: Design['target']['goal']): Finding[] {
  const groups = GROUPS_BY_GOAL[goal];
  const rank = (f: Finding): number => SEVERITIES.indexOf(f.severity) * 100 + groups.indexOf(findRule(f.rule).group);
  return [...findings].sort((a, b) => rank(a) - rank(b) || b.cost.seconds - a.cost.seconds || a.first - b.first);
}
