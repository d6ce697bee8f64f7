import type { Design, KeptFinding } from '../model/design.ts';
import type { Plan } from '../model/plan.ts';
import type { Program } from '../model/program.ts';
import type { Target } from '../model/target.ts';
import { adoptProgram } from './adoptProgram.ts';
import { assemble } from './assemble.ts';

/** A design of a plan: its rows are those that are assembled from it, when they are first asked for. */
export function designOf(plan: Plan, target: Target, kept: Readonly<Record<string, KeptFinding>> = {}): Design {
  return {
    ...{ plan, target, kept },
    get program(): Program {
      return assemble(plan).program;
    },
  };
}

/** A file as it came in, on its target: recognized here and now, nothing kept. */
export function startDesign(program: Program, target: Target): Design {
  return designOf(adoptProgram(program), target);
}
