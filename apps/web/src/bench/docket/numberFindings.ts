import type { Finding } from '@isola/core';

/** Findings as the docket numbers them: from 1, worst first. */
export function numberFindings(findings: readonly Finding[]): ReadonlyMap<string, number> {
  return new Map(findings.map((f, k) => [f.key, k + 1]));
}
