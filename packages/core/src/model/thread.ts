import { z } from 'zod';

export const FIBERS = ['rayon', 'polyester', 'cotton'] as const;
export type Fiber = (typeof FIBERS)[number];

/** A thread as it is bought. `weight` is the metric number by which the trade calls it: the smaller, the thicker. */
export const ThreadType = z.object({
  id: z.string().min(1).max(100),
  name: z.string().min(1).max(200),
  weight: z.number().positive(),
  fiber: z.enum(FIBERS),
  /** Metric needle size: blade diameter in hundredths of a millimetre. */
  needle: z.number().positive(),
  /** Length on a cone, m. */
  coneMetres: z.number().positive(),
  /** Whole cones in stock, where somebody counts them. */
  cones: z.number().int().nonnegative().max(100_000).optional(),
});
export type ThreadType = z.infer<typeof ThreadType>;

/** Fiber densities, g/mm³. */
const DENSITY: Readonly<Record<Fiber, number>> = { rayon: 1.5e-3, polyester: 1.38e-3, cotton: 1.52e-3 };
/** The part of a twisted thread's cross-section that is fiber. From memory. */
const PACKING = 0.6;

/** Tex (grams a kilometre) of a metric number (metres a gram). ISO 1144, ISO 2947. */
export function texFromMetricNumber(metricNumber: number): number {
  return 1000 / metricNumber;
}

/** Denier (grams in 9 km) of tex (grams in 1 km). ISO 1144, ISO 2947. */
export function denierFromTex(tex: number): number {
  return 9 * tex;
}

/** The diameter of a thread in mm, taken as a round cylinder of fiber and air: about 0.19 mm for 25 tex rayon. */
export function threadThickness(thread: Pick<ThreadType, 'weight' | 'fiber'>): number {
  const gramsPerMillimetre = texFromMetricNumber(thread.weight) * 1e-6;
  return 2 * Math.sqrt(gramsPerMillimetre / (Math.PI * DENSITY[thread.fiber] * PACKING));
}
