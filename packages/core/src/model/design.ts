import type { Plan } from './plan.ts';
import type { Program } from './program.ts';
import type { Target } from './target.ts';

/** A place of a finding that someone decided to leave as it is. */
export interface KeptFinding {
  readonly rule: string;
  readonly title: string;
  readonly reason: string;
}

/** A job's present state: what is sewn, for what, and which places of findings were settled by a decision (by their keys). */
export interface Design {
  readonly plan: Plan;
  /** The rows that are assembled from the plan. */
  readonly program: Program;
  readonly target: Target;
  readonly kept: Readonly<Record<string, KeptFinding>>;
}
