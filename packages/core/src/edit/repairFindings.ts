import { AuditContext } from '../audit/AuditContext.ts';
import type { Finding } from '../audit/finding.ts';
import { RULES } from '../audit/rulebook.ts';
import type { Design } from '../model/design.ts';
import { applyOperation, type SimpleOperation } from './operation.ts';

export interface AppliedRepair {
  readonly rule: string;
  readonly objects: readonly string[];
  /** What was done, in words. */
  readonly change: string;
}

export interface RefusedRepair {
  readonly rule: string;
  readonly objects: readonly string[];
  readonly why: string;
}

export interface Repair {
  readonly design: Design;
  /** In the order they apply; empty where nothing was repaired. */
  readonly operations: readonly SimpleOperation[];
  readonly applied: readonly AppliedRepair[];
  readonly refused: readonly RefusedRepair[];
}

/**
 * Repairs the findings that `isWanted` picks, rule after rule in the rulebook's order, each on what the one before left. A rule's findings
 * are found anew before it repairs them, since rows have moved by then; what is left of a finding that was picked counts as picked, though
 * an earlier repair took some of its places away.
 */
export function repairFindings(design: Design, isWanted: (finding: Finding) => boolean): Repair {
  let current = design;
  const operations: SimpleOperation[] = [];
  const applied: AppliedRepair[] = [];
  const refused: RefusedRepair[] = [];
  const untouched = new AuditContext(current);
  const picked = new Map(RULES.map((rule) => [rule.id, rule.find(untouched).filter(isWanted)]));
  let context = untouched;
  for (const rule of RULES) {
    const { repair } = rule;
    const asked = picked.get(rule.id)!;
    const findings = context === untouched ? asked : rule.find(context).filter((f) => isWanted(f) || asked.some((a) => isLeftOf(f, a)));
    if (repair === undefined) {
      for (const f of findings)
        refused.push({ rule: rule.id, objects: f.objects, why: `has no repair that can be made for you: ${f.advice ?? ''}` });
      continue;
    }
    const patches = findings.flatMap((f) => repair.patches(context, f)).sort((a, b) => a.at - b.at);
    if (patches.length === 0) continue;
    const operation: SimpleOperation = { id: 'replace-rows', patches };
    const next = applyOperation(current, operation);
    if (!next.ok) throw new Error(`the repairs of ${rule.id} do not fit their own program: ${next.error}`);
    current = next.value;
    context = new AuditContext(current);
    operations.push(operation);
    for (const f of findings) applied.push({ rule: rule.id, objects: f.objects, change: `${repair.name}: ${f.message}` });
  }
  return { design: current, operations, applied, refused };
}

/** Whether a finding lies at a place of one of the same rule that was found before anything was repaired. */
function isLeftOf(finding: Finding, earlier: Finding): boolean {
  return finding.places.some((p) => earlier.places.some((e) => p.x === e.x && p.y === e.y));
}
