import { z } from 'zod';
import { ShopHours, USUAL_HOURS } from './shopHours.ts';

const JobIds = z.array(z.uuid()).max(5000);

/** The week's board as the shop keeps it: when machines run, how hooping goes, which machine sews which jobs in which order, and what is sewn. */
export const BoardPlan = z
  .object({
    hours: ShopHours,
    /** Minutes to hoop a piece, and whether the next ones are hooped while a machine sews. */
    hooping: z.number().min(0).max(120),
    isHoopedAhead: z.boolean(),
    /** By machine. */
    lanes: z.record(z.string().min(1).max(100), JobIds),
    /** Orders that are done and off the board. */
    sewn: JobIds,
  })
  .superRefine(({ lanes, sewn }, context) => {
    const seen = new Set<string>();
    for (const id of [...Object.values(lanes).flat(), ...sewn]) {
      if (seen.has(id)) context.addIssue({ code: 'custom', path: ['lanes'], message: `the job ${id} stands on it twice` });
      seen.add(id);
    }
  });
export type BoardPlan = z.infer<typeof BoardPlan>;

export const EMPTY_BOARD: BoardPlan = { hours: USUAL_HOURS, hooping: 1, isHoopedAhead: true, lanes: {}, sewn: [] };
