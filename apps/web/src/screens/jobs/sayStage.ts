import type { JobSummary } from '@isola/contract';
import { sayCount, sayTime } from '../../bench/figures/sayFigures.ts';

const STAGES = { 'taken-in': 'Taken in', 'in-work': 'In work', released: 'Released' } as const;

/** Where a job stands, and what was released where that is not what it is now. */
export function sayStage({ stage, released, version }: JobSummary): { readonly text: string; readonly more: string } {
  if (stage !== 'released' || released === null || released.version === version) return { text: STAGES[stage], more: '' };
  const { number, figures } = released;
  return {
    text: 'Released, changed since',
    more: `revision ${number}: ${sayTime(figures.run.seconds)}, ${sayCount(figures.stitches)} st`,
  };
}
