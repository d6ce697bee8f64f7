import type { Program } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';
import type { Target } from '../model/target.ts';
import { countProgram, type Counts } from './counts.ts';
import { type RunClock, runClock, type RunTotals } from './runClock.ts';
import { type ColorUse, measureThreadUse } from './threadUse.ts';

/** The figures by which a program is known: counts, thread (m) and run clock (s), for one piece. Estimates where they predict. */
export interface Figures extends Counts {
  readonly colors: readonly ColorUse[];
  readonly threadM: number;
  readonly bobbinM: number;
  readonly run: RunTotals;
}

/** Takes a program's figures on its target. A caller that has its lay lengths or its clock may hand them in. O(rows). */
export function inspectProgram(
  program: Program,
  target: Pick<Target, 'fabric' | 'thread' | 'quantity' | 'machine'>,
  lengths: Float64Array = layLengths(program),
  clock: RunClock = runClock(program, target.machine, lengths),
): Figures {
  return { ...countProgram(program, lengths), ...measureThreadUse(program, target, lengths), run: clock.totals };
}
