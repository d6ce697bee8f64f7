import type { ProductionSheet } from './productionSheet.ts';

/** How an order is run: minutes to hoop a piece, and whether the next pieces are hooped while the machine sews. */
export interface RunHabits {
  readonly hooping: number;
  readonly isHoopedAhead: boolean;
  /** Pieces that lie in one hoop. */
  readonly aHoop: number;
}

/** What an order takes. Minutes; estimates, without breaks of people and threads. */
export interface PlannedRun {
  readonly runs: number;
  readonly machine: number;
  /** What the operator is busy for: hooping, changing hoops, stops, threads put on by hand. */
  readonly operator: number;
  /** From the first start to the last piece. */
  readonly whole: number;
}

/** Minutes to put another hoop on. From memory. */
const HOOP_CHANGE = 0.5;
/** Minutes to put a thread on a needle. From memory. */
const THREADING = 1;

/**
 * Plans an order by its sheet: so many heads sew so many pieces a hoop at once. While the machine sews the operator hoops the next pieces, where there are hoops for
 * that; where hooping takes longer than sewing the machine waits for it.
 */
export function planRun(
  { onePiece, stops, missingNeedles }: Pick<ProductionSheet, 'onePiece' | 'stops' | 'missingNeedles'>,
  { quantity, heads }: { readonly quantity: number; readonly heads: number },
  { hooping, isHoopedAhead, aHoop }: RunHabits,
): PlannedRun {
  const atOnce = heads * aHoop;
  const runs = Math.ceil(quantity / atOnce);
  // Copies in a hoop are sewn one after another, and stops come with each.
  const sewing = (onePiece / 60) * aHoop;
  const hoopingOfRun = hooping * Math.min(quantity, atOnce);
  const between = isHoopedAhead ? HOOP_CHANGE * heads + Math.max(0, hoopingOfRun - sewing) : HOOP_CHANGE * heads + hoopingOfRun;
  const byHand = missingNeedles * THREADING * heads * 2;
  const atStops = (stops.length * aHoop * STOP) / 60;
  return {
    runs,
    machine: runs * sewing,
    operator: hooping * quantity + runs * (HOOP_CHANGE * heads + byHand + atStops),
    whole: hoopingOfRun + runs * (sewing + byHand) + (runs - 1) * between,
  };
}

/** Seconds that somebody stands at a stop; the clock has the machine's own. From memory. */
const STOP = 20;
