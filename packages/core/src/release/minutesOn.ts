import type { Figures } from '../measure/inspect.ts';
import { startLoss } from '../measure/runClock.ts';
import type { Machine } from '../model/target.ts';
import { planRun, type RunHabits } from './planRun.ts';
import { headsOf } from './productionSheet.ts';

/** What one piece takes on another machine than its figures are of, s: each cause by the other machine's clock. An estimate. */
export function secondsOn({ run, trims, colorChanges, stops }: Figures, from: Machine, to: Machine): number {
  if (from === to) return run.seconds;
  const trimOf = (machine: Machine): number => Math.max(0, machine.trimCycle - startLoss(machine));
  return (
    (run.sewing * from.topSpeed) / to.topSpeed +
    trims * trimOf(to) +
    (run.jumps * from.moveSpeed) / to.moveSpeed +
    colorChanges * to.colorChange +
    stops * to.stop
  );
}

/** Minutes of an order on a machine, from the first start to its last piece. An estimate, without breaks of people and threads. */
export function minutesOn(figures: Figures, from: Machine, to: Machine, quantity: number, habits: RunHabits): number {
  const threads = figures.colors.length;
  const run = {
    onePiece: secondsOn(figures, from, to),
    stops: Array.from({ length: figures.stops }, (_, k) => ({ number: k + 1, at: 0, after: 0, note: '' })),
    missingNeedles: Math.max(0, threads - to.needles),
  };
  return planRun(run, { quantity, heads: headsOf(to) }, habits).whole;
}
