import type { Program } from './program.ts';
import type { Target } from './target.ts';

/** A finding that someone decided to leave as it is. */
export interface KeptFinding {
  readonly rule: string;
  readonly title: string;
  readonly reason: string;
}

/** A job's present state: what is sewn, for what, and which findings were settled by a decision (by their key). */
export interface Design {
  readonly program: Program;
  readonly target: Target;
  readonly kept: Readonly<Record<string, KeptFinding>>;
}
