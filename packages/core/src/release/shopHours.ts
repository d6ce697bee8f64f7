import { z } from 'zod';

const Clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time of day like 08:00');

/** When the shop's machines are run: from one time of day to another, on these days of the week (0 is Sunday). */
export const ShopHours = z
  .object({ from: Clock, to: Clock, days: z.array(z.number().int().min(0).max(6)).min(1).max(7) })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'the day ends before it begins' });
export type ShopHours = z.infer<typeof ShopHours>;

export const USUAL_HOURS: ShopHours = { from: '08:00', to: '16:30', days: [1, 2, 3, 4, 5] };
