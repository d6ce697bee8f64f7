import type { ObjectDecision } from './objectDecision.ts';
import type { Program } from './program.ts';
import type { RebuiltObject } from './rebuilt.ts';
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
  /** What was decided about the objects that are recognized in the program, in order; rows are the present program's. */
  readonly decisions: readonly ObjectDecision[];
  /** Objects that were rebuilt from a spec, by their rows; no two share any. */
  readonly rebuilt: readonly RebuiltObject[];
}

/** A file as it came in, on its target: nothing kept, decided or rebuilt. */
export function startDesign(program: Program, target: Target): Design {
  return { program, target, kept: {}, decisions: [], rebuilt: [] };
}
