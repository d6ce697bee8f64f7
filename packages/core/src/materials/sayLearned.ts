import type { Fabric, Machine } from '../model/target.ts';

const samples = (n: number): string => (n === 1 ? '1 sample' : `${n} samples`);

/** A cloth's pull in mm, with its spread and what stands behind it where samples taught it. */
export function sayPull({ pull, learned }: Pick<Fabric, 'pull' | 'learned'>): string {
  if (learned === undefined) return `${pull.toFixed(2)} mm`;
  return `${pull.toFixed(2)} ± ${learned.spread.toFixed(2)} mm (learned of ${samples(learned.samples)})`;
}

/** What stands behind a machine's clock: samples with their spreads, or nothing but what the shop put down. */
export function sayClock({ learned }: Pick<Machine, 'learned'>): string {
  if (learned === undefined) return 'its clock as the shop put it down, not learned of samples';
  return `its clock learned of ${samples(learned.samples)}: speed ± ${learned.speedSpread.toFixed(0)} a minute, a trim ± ${learned.trimSpread.toFixed(1)} s`;
}
