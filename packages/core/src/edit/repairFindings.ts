import { AuditContext } from '../audit/AuditContext.ts';
import { findFaults, type Found } from '../audit/findFaults.ts';
import type { Finding } from '../audit/finding.ts';
import { limitOf } from '../audit/limitOf.ts';
import type { Rule } from '../audit/rule.ts';
import { rulesFor } from '../audit/rulebook.ts';
import type { Design } from '../model/design.ts';
import { REPAIRS } from './repairs/repairs.ts';
import { operationsOfPatches } from './operationsOfPatches.ts';
import { applyOperation, type Operation, type SimpleOperation } from './operations/registry.ts';

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
 * an earlier repair took some of its places away. `isWantedPlace` picks places of them by their keys; all, where nothing is said. `rules`: those looked at.
 */
export function repairFindings(
  design: Design,
  isWanted: (finding: Finding) => boolean,
  isWantedPlace?: (key: string) => boolean,
  rules = rulesFor(design.target),
): Repair {
  let current = design;
  const operations: SimpleOperation[] = [];
  const applied: AppliedRepair[] = [];
  const refused: RefusedRepair[] = [];
  const untouched = new AuditContext(current);
  const find = (context: AuditContext, rule: Rule): Found[] => findFaults(context, rule, design.kept, isWantedPlace);
  const picked = new Map(rules.map((rule) => [rule.id, find(untouched, rule).filter((f) => isWanted(f.finding))]));
  let context = untouched;
  for (const rule of rules) {
    const { repair, retarget } = rule;
    const asked = picked.get(rule.id)!;
    const found = context === untouched ? asked : find(context, rule).filter((f) => isWanted(f.finding) || isAsked(f, asked));
    const target = found.length === 0 ? undefined : retarget?.target(context);
    if (retarget !== undefined && target !== undefined) {
      const operation: SimpleOperation = { id: 'set-target', target };
      current = apply(current, operation, rule);
      context = new AuditContext(current);
      operations.push(operation);
      for (const { finding } of found)
        applied.push({ rule: rule.id, objects: finding.objects, change: `${retarget.name}: ${finding.message}` });
      continue;
    }
    const repairer = REPAIRS[rule.id];
    if (repair === undefined && repairer === undefined) {
      for (const { finding } of found)
        refused.push({ rule: rule.id, objects: finding.objects, why: `has no repair that can be made for you: ${finding.advice ?? ''}` });
      continue;
    }
    if (found.length === 0) continue;
    const limit = limitOf(rule, current.target);
    const first = operations.length;
    const perform = (made: readonly SimpleOperation[]): void => {
      if (made.length === 0) return;
      current = apply(current, { id: 'sequence', operations: [...made] }, rule);
      context = new AuditContext(current);
      operations.push(...made);
    };
    const patches = repair === undefined ? [] : found.flatMap((f) => repair.patches(context, f.faults, limit)).sort((a, b) => a.at - b.at);
    perform(operationsOfPatches(current.plan, patches));
    // What is left of them is repaired in objects, where that can be.
    const left = repairer === undefined ? [] : operations.length === first ? found : find(context, rule).filter((f) => isAsked(f, asked));
    if (repairer !== undefined && left.length > 0) {
      const made = repairer({ design: current, context, faults: left.flatMap((f) => f.faults), limit });
      for (const { objects, why } of made.refused) refused.push({ rule: rule.id, objects, why });
      perform(made.operations);
    }
    if (operations.length === first) continue;
    for (const { finding } of found)
      applied.push({ rule: rule.id, objects: finding.objects, change: `${repair?.name ?? rule.mend}: ${finding.message}` });
  }
  return { design: current, operations, applied, refused };
}

function apply(design: Design, operation: Operation, rule: Rule): Design {
  const next = applyOperation(design, operation);
  if (!next.ok) throw new Error(`the repairs of ${rule.id} do not fit their own program: ${next.error}`);
  return next.value;
}

function isAsked({ finding }: Found, asked: readonly Found[]): boolean {
  return asked.some((a) => isLeftOf(finding, a.finding));
}

/** Whether a finding lies at a place of one of the same rule that was found before anything was repaired. */
function isLeftOf(finding: Finding, earlier: Finding): boolean {
  return finding.places.some((p) => earlier.places.some((e) => p.x === e.x && p.y === e.y));
}
