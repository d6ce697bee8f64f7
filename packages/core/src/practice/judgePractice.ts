import { z } from 'zod';
import { compareFindings, isWorse } from '../audit/compareFindings.ts';
import type { Finding } from '../audit/finding.ts';
import { findRule, RULES } from '../audit/rulebook.ts';
import { isFoundIn, isIn, type PlantedFault } from './plantFaults.ts';

/** What somebody says is wrong, and where: a rule of the rulebook, and the object that has it by its name. */
export const PracticeClaim = z.object({
  rule: z.string().refine((id) => RULES.some((rule) => rule.id === id), 'no rule of the rulebook'),
  name: z.string().min(1).max(300),
  x: z.number().min(-1000).max(1000),
  y: z.number().min(-1000).max(1000),
});
export type PracticeClaim = z.infer<typeof PracticeClaim>;

/** What came of a practice. */
export interface PracticeResult {
  readonly faults: readonly {
    readonly rule: string;
    readonly title: string;
    readonly name: string;
    /** What was done to it, and why that matters. */
    readonly words: string;
    readonly why: string;
    readonly isFound: boolean;
    readonly isMended: boolean;
  }[];
  /** Claims that no planted fault answers to; `isThere`: the file had it all the same before anything was planted. */
  readonly others: readonly { readonly title: string; readonly name: string; readonly isThere: boolean }[];
  /** What is found now and was not, or is worse than it was. */
  readonly broken: readonly { readonly title: string; readonly message: string; readonly why: string }[];
}

/** Judges what somebody found and mended: `before` are the findings of the planted file, `now` those of the design that was made of it. */
export function judgePractice(
  planted: readonly PlantedFault[],
  claims: readonly PracticeClaim[],
  before: readonly Finding[],
  now: readonly Finding[],
): PracticeResult {
  const answers = (claim: PracticeClaim, { rule, box }: PlantedFault): boolean => claim.rule === rule && isIn(box, claim.x, claim.y);
  return {
    faults: planted.map((fault) => {
      const { rule, name, words, box } = fault;
      return {
        ...{ rule, name, words, title: findRule(rule).title, why: findRule(rule).why },
        isFound: claims.some((claim) => answers(claim, fault)),
        isMended: !isFoundIn(now, rule, box),
      };
    }),
    others: claims
      .filter((claim) => !planted.some((fault) => answers(claim, fault)))
      .map(({ rule, name, x, y }) => ({ title: findRule(rule).title, name, isThere: isFoundIn(before, rule, [x, y, x, y]) })),
    broken: compareFindings(before, now)
      .filter((change) => isWorse(change) && change.added > 0)
      .map(({ rule, message }) => ({ title: findRule(rule).title, message, why: findRule(rule).why })),
  };
}
