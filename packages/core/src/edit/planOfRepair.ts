import { auditDesign } from '../audit/auditDesign.ts';
import { bringsStop, compareFindings, type FindingChange, isWorse } from '../audit/compareFindings.ts';
import type { Finding } from '../audit/finding.ts';
import type { RuleGroup } from '../audit/rule.ts';
import { findRule, rulesFor } from '../audit/rulebook.ts';
import { countProgram } from '../measure/counts.ts';
import { runClock } from '../measure/runClock.ts';
import type { Design } from '../model/design.ts';
import { changedPicture, topPicture } from '../order/topPicture.ts';
import { type RefusedRepair, repairFindings } from './repairFindings.ts';
import { applyOperation, type SimpleOperation } from './operations/registry.ts';
import { proposeOrder } from './order/proposeOrder.ts';

/** What a design comes to at a moment of its repair. Seconds are an estimate. */
export interface RepairFigures {
  readonly stitches: number;
  readonly trims: number;
  readonly colorChanges: number;
  readonly seconds: number;
  /** Open findings by severity. */
  readonly stop: number;
  readonly fix: number;
  readonly note: number;
}

/** A step of a plan: the repairs of one rule, or a better order. */
export interface PlanStep {
  /** A rule's id, or `order`. */
  readonly id: string;
  readonly title: string;
  readonly group: RuleGroup;
  /** What is wrong, and how many places of it there are. */
  readonly message: string;
  readonly places: number;
  readonly operations: readonly SimpleOperation[];
  readonly after: RepairFigures;
  /** What it does to findings, its own among them. */
  readonly changes: readonly FindingChange[];
  readonly refused: readonly RefusedRepair[];
}

/** A finding that a plan does not repair, and why not. */
export interface LeftOut {
  readonly id: string;
  readonly title: string;
  readonly why: string;
  /** Whether somebody left it out, who can take it in again. */
  readonly isChosen: boolean;
}

export interface RepairPlan {
  readonly before: RepairFigures;
  readonly steps: readonly PlanStep[];
  readonly left: readonly LeftOut[];
  /** After the last step; the design itself where there is none. */
  readonly design: Design;
  readonly after: RepairFigures;
  /** How many places its steps repaired, and how many of them are gone in the end. */
  readonly claimed: number;
  readonly gone: number;
  /** The share of the topmost picture whose color changed. */
  readonly changed: number;
}

/** What a plan has to keep to. */
export interface PlanAsk {
  /** Steps that somebody left out, by their ids. */
  readonly without?: ReadonlySet<string>;
  /** Only what adds no stitch and changes nothing that is seen. */
  readonly isFree?: boolean;
}

export const ORDER_STEP = 'order';
/** Of the topmost picture so much may change (a share) before it is seen. */
const UNSEEN = 0.002;

/**
 * The whole repair of a design for its goal, in the order of the work, each step on what the one before left: what is sewn how, the sew order, then ends
 * and ways, then single penetrations. A step that would bring a finding that stops the job is left out and says so. O(rules that find something ×
 * auditing the design).
 */
export function planOfRepair(design: Design, { without = new Set(), isFree = false }: PlanAsk = {}): RepairPlan {
  let current = design;
  let findings = auditDesign(current);
  const atFirst = findings;
  const before = figuresOf(current, findings);
  const steps: PlanStep[] = [];
  const left: LeftOut[] = [];
  const claims = new Set<string>();
  const take = (id: string, title: string, group: RuleGroup, found: Finding | undefined, make: () => Made): void => {
    if (without.has(id)) {
      left.push({ id, title, why: 'left out', isChosen: true });
      return;
    }
    const { next, operations, refused } = make();
    if (operations.length === 0) {
      if (found !== undefined) left.push({ id, title, why: refused[0]?.why ?? adviceOf(found), isChosen: false });
      return;
    }
    const nextFindings = auditDesign(next);
    const after = figuresOf(next, nextFindings);
    const changes = compareFindings(findings, nextFindings);
    const why = reasonAgainst(design, { isFree, found, after, now: figuresOf(current, findings), changes, current, next });
    if (why !== undefined) {
      left.push({ id, title, why, isChosen: false });
      return;
    }
    const still = keysOf(nextFindings);
    for (const { key } of found?.places ?? []) if (!still.has(key)) claims.add(key);
    // What concerns the whole design is one decision, however many places show it.
    const places = new Set(found?.places.map(({ key }) => key)).size;
    steps.push({ id, title, group, message: found?.message ?? 'A better sew order', places, operations, after, changes, refused });
    [current, findings] = [next, nextFindings];
  };
  const order = (): void => take(ORDER_STEP, 'Sew order', 'order', undefined, () => orderOf(current));
  let isOrdered = false;
  for (const rule of rulesFor(design.target)) {
    // Once objects are sewn as they should be, and before ends and ways are looked at, the order is.
    if (!isOrdered && rule.id === 'far-entry') {
      isOrdered = true;
      order();
    }
    const found = findings.find((f) => f.rule === rule.id);
    if (found !== undefined) take(rule.id, rule.title, rule.group, found, () => repairOf(current, rule.id));
  }
  const picture = (of: Design) => topPicture(of.program, () => true, design.target.clothColor);
  const open = keysOf(findings);
  const back = [...claims].filter((key) => open.has(key)).length;
  return {
    ...{ before, steps, left, design: current, after: figuresOf(current, findings), claimed: claims.size, gone: claims.size - back },
    changed: steps.length === 0 || atFirst.length === 0 ? 0 : changedPicture(picture(design), picture(current), true),
  };
}

interface Made {
  readonly next: Design;
  readonly operations: readonly SimpleOperation[];
  readonly refused: readonly RefusedRepair[];
}

function repairOf(design: Design, rule: string): Made {
  const { design: next, operations, refused } = repairFindings(design, () => true, undefined, [findRule(rule)]);
  return { next, operations, refused };
}

function orderOf(design: Design): Made {
  const { operations } = proposeOrder(design);
  const next = applyOperation(design, { id: 'sequence', operations: [...operations] });
  if (!next.ok) throw new Error(`the proposed order does not fit its own design: ${next.error}`);
  return { next: next.value, operations, refused: [] };
}

interface Judged {
  readonly isFree: boolean;
  readonly found: Finding | undefined;
  readonly now: RepairFigures;
  readonly after: RepairFigures;
  readonly changes: readonly FindingChange[];
  readonly current: Design;
  readonly next: Design;
}

/** Why a step is not taken into a plan, in words; nothing where it is. */
function reasonAgainst({ target }: Design, { isFree, found, now, after, changes, current, next }: Judged): string | undefined {
  const stop = bringsStop(changes);
  if (stop !== undefined) return `it would bring a stop: ${stop.message}`;
  const own = changes.find(({ rule }) => rule === found?.rule);
  if (found !== undefined && own === undefined) return 'it would change nothing of it';
  if (found !== undefined && isWorse(own!)) return `it would make it worse: ${own!.message}`;
  const added = after.stitches - now.stitches;
  if (isFree) {
    if (added > 0) return `it adds ${added} stitches`;
    if (changes.some(isWorse)) return `it would make something else worse: ${changes.find(isWorse)!.message}`;
    const changed = changedPicture(topPicture(current.program), topPicture(next.program), true);
    return changed > UNSEEN || LOOKS.has(found?.rule ?? '') ? 'it changes how it looks' : undefined;
  }
  const isSmall = found?.severity === 'note' && after.seconds > now.seconds + 1;
  if (isSmall && target.goal === 'fastest')
    return `it takes ${Math.round(after.seconds - now.seconds)} s more, and the goal is the fastest run`;
  if (found?.severity === 'note' && added > 0 && target.goal === 'softest')
    return `it adds ${added} stitches, and the goal is the softest hand`;
  return undefined;
}

/** Repairs that change the sheen or the edges of what is seen, though not its color. */
const LOOKS: ReadonlySet<string> = new Set([
  'fill-should-be-satin',
  'satin-should-be-fill',
  'same-angle',
  'thin-satin',
  'detail-too-small',
  'gap-risk',
  'too-open',
  'thread-mismatch',
  'stitch-budget',
]);

function adviceOf({ rule, advice }: Finding): string {
  return advice ?? `its repair (${findRule(rule).mend ?? 'by hand'}) changes nothing here`;
}

function figuresOf({ program, target }: Design, findings: readonly Finding[]): RepairFigures {
  const { stitches, trims, colorChanges } = countProgram(program);
  const count = (severity: Finding['severity']): number => findings.filter((f) => f.severity === severity).length;
  const { seconds } = runClock(program, target.machine).totals;
  return { stitches, trims, colorChanges, seconds, stop: count('stop'), fix: count('fix'), note: count('note') };
}

/** Which places of findings are open. */
function keysOf(findings: readonly Finding[]): ReadonlySet<string> {
  return new Set(findings.flatMap(({ places }) => places.map(({ key }) => key)));
}
