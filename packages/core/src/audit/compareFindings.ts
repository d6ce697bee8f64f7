import type { Finding, Severity } from './finding.ts';
import { SEVERITIES } from './finding.ts';

/** What a change does to one rule's finding: how many of its places went and came, and how bad it was and is. */
export interface FindingChange {
  readonly rule: string;
  readonly message: string;
  readonly gone: number;
  readonly added: number;
  readonly before: Severity | undefined;
  readonly after: Severity | undefined;
  /** How far its figure was and is from its limit, in the rule's unit. */
  readonly excess: readonly [before: number, after: number];
}

/** What became of findings, those that got worse first: more places, or worse than they were. Rules of which nothing changed are left out. */
export function compareFindings(before: readonly Finding[], after: readonly Finding[]): FindingChange[] {
  const out: FindingChange[] = [];
  for (const rule of new Set([...before, ...after].map((f) => f.rule))) {
    const [was, is] = [before, after].map((list) => list.find((f) => f.rule === rule));
    const [old, now] = [was, is].map((f) => new Set(f?.places.map(({ key }) => key)));
    const gone = [...old!].filter((key) => !now!.has(key)).length;
    const added = [...now!].filter((key) => !old!.has(key)).length;
    if (gone === 0 && added === 0 && was?.severity === is?.severity) continue;
    out.push({
      rule,
      message: (is ?? was)!.message,
      gone,
      added,
      before: was?.severity,
      after: is?.severity,
      excess: [excessOf(was), excessOf(is)],
    });
  }
  return out.sort((a, b) => Number(isWorse(b)) - Number(isWorse(a)));
}

function excessOf(finding: Finding | undefined): number {
  return finding === undefined ? 0 : Math.abs(finding.measured - finding.limit);
}

/** Figures that fell by less than this share are no better. */
const NO_BETTER = 0.92;

/** Whether a rule finds worse than it did, or at more places nothing better. */
export function isWorse({ gone, added, before, after, excess }: FindingChange): boolean {
  if (after === undefined) return false;
  if (before === undefined) return true;
  const rank = (severity: Severity): number => SEVERITIES.indexOf(severity);
  return rank(after) < rank(before) || (added > gone && rank(after) === rank(before) && excess[1] >= NO_BETTER * excess[0]);
}

/** Whether a change brings a stop that was not there. */
export function bringsStop(changes: readonly FindingChange[]): FindingChange | undefined {
  return changes.find(({ before, after }) => after === 'stop' && before !== 'stop');
}
