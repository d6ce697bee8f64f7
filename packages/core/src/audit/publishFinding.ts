import type { Finding } from './finding.ts';
import { SEVERITIES } from './finding.ts';

/** So many places of a finding are listed. */
const MOST_PLACES = 400;

/** A finding as it stands in JSON: all its fields but the list of rows, of which the number is given. */
export function publishFinding(finding: Finding): object {
  const { rows, places, ...rest } = finding;
  return { ...rest, places: places.slice(0, MOST_PLACES), count: rows.length };
}

/** How many there are of each severity, and what they cost together. */
export function totalFindings(findings: readonly Finding[]): object {
  const bySeverity = Object.fromEntries(SEVERITIES.map((s) => [s, findings.filter((f) => f.severity === s).length]));
  const fixable = findings.filter((f) => f.fix !== undefined);
  return {
    findings: findings.length,
    ...bySeverity,
    seconds: fixable.reduce((sum, f) => sum + f.cost.seconds, 0),
    stitches: fixable.reduce((sum, f) => sum + f.cost.stitches, 0),
  };
}
