import { z } from 'zod';
import { Fabric, Garment, Machine } from '../model/target.ts';
import { ThreadType } from '../model/thread.ts';

export const PUCKERING = ['none', 'slight', 'strong'] as const;

const Spot = z.object({ x: z.number().min(-1000).max(1000), y: z.number().min(-1000).max(1000) });

/** A place on a sample where a width or a gap is measured, mm: as it is in the plan, as it was expected on the cloth, and as it was found. */
export const SamplePlace = z.object({
  kind: z.enum(['width', 'gap']),
  /** Whose it is, in words. */
  name: z.string().trim().min(1).max(300),
  from: Spot,
  to: Spot,
  designed: z.number().min(-100).max(1000),
  /** By how much it changes for each mm of the cloth's pull: widths shrink (below 0), gaps open. */
  perPull: z.number().min(-20).max(20),
  expected: z.number().min(-100).max(1000),
  /** None where it was not measured. */
  measured: z.number().min(0).max(1000).nullable(),
});
export type SamplePlace = z.infer<typeof SamplePlace>;

/** What the clock expected of a run, s: what it sews for with no start slower than the rest, how many trims, and all else. */
export const ExpectedRun = z.object({
  sewing: z.number().min(0).max(1e7),
  trims: z.number().int().min(0).max(1e6),
  rest: z.number().min(0).max(1e7),
  seconds: z.number().min(0).max(1e7),
});
export type ExpectedRun = z.infer<typeof ExpectedRun>;

/** A sample as it was recorded: which revision was sewn, on and with what, and what was found. */
export const SewOut = z.object({
  /** Number of the revision that was sewn. */
  revision: z.number().int().positive(),
  /** YYYY-MM-DD. */
  sewnOn: z.iso.date(),
  who: z.string().trim().min(1, 'say who sewed it').max(200),
  fabric: Fabric,
  garment: Garment.nullable(),
  thread: ThreadType,
  machine: Machine,
  /** From start to end without standing times; none where nobody looked. */
  minutes: z.number().positive().max(10_000).nullable(),
  expected: ExpectedRun,
  breaks: z.number().int().min(0).max(1000),
  puckering: z.enum(PUCKERING),
  note: z.string().trim().max(4000),
  places: z.array(SamplePlace).max(100),
  /** Whether cloth and machine learn of it; what is left out says why in its note. */
  counts: z.boolean(),
});
export type SewOut = z.infer<typeof SewOut>;
