// How much of what chance makes is tried: `npm test` tries a quarter with the seeds that stand beside the properties, the same on each run, so that
// what fails was changed by the commit; `npm run guard` tries all with a seed of its own (docs/testing.md).

/** Whether all is tried. */
export const IS_GUARD = process.env['CHECKS'] === 'all';
const SHARE = 4;
/** What the seeds of this run are mixed with: 0 takes them as they are. */
const FRESH = IS_GUARD ? Number(process.env['GUARD_SEED'] ?? 0) : 0;

/** A count of tries or files: all of them or a quarter, at least one. */
export const triesOf = (count: number): number => (IS_GUARD ? count : Math.ceil(count / SHARE));

/** The seed of a property in this run (int32). */
export const seedOf = (seed: number): number => seed ^ FRESH;

/** Parameters of a fast-check property that runs so often. Where it fails, fast-check prints the seed: it becomes a case with a name. */
export const runs = (count: number, seed: number): { numRuns: number; seed: number } => ({ numRuns: triesOf(count), seed: seedOf(seed) });

/** All of a list, or each fourth of it, the first included. */
export const someOf = <T>(list: readonly T[]): readonly T[] => list.filter((_, k) => IS_GUARD || k % SHARE === 0);
