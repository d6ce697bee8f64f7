import { z } from 'zod';

const Row = z.number().int().nonnegative();
const Rows = z.array(Row).min(1).max(200_000);
const Coordinate = z.number().min(-1000).max(1000);
const Distance = z.number().min(-2000).max(2000);

/** What is done where a stitch becomes longer than the machine makes: it is parted, or nothing is done at all. */
const Long = z.enum(['split', 'refuse']).default('split');

/** What single penetrations and jumps are asked to do. Rows count those of the whole program, as it is now; lengths in mm. */
export const PointsAsk = z.discriminatedUnion('what', [
  z.object({ what: z.literal('move'), rows: Rows, dx: Distance, dy: Distance, long: Long }),
  /** A penetration between a row and the one before or after it: midway, or at a place. */
  z.object({
    what: z.literal('insert'),
    row: Row,
    side: z.enum(['before', 'after']),
    at: z.tuple([Coordinate, Coordinate]).optional(),
    long: Long,
  }),
  z.object({ what: z.literal('delete'), rows: Rows, long: Long }),
  /** The needle stays up there, or comes down again. */
  z.object({ what: z.literal('jump'), rows: Rows, long: Long }),
  z.object({ what: z.literal('stitch'), rows: Rows, long: Long }),
  /** The thread is cut after a row, with locks on both sides. */
  z.object({ what: z.literal('cut'), row: Row }),
  z.object({ what: z.literal('smooth'), rows: Rows, long: Long }),
  z.object({ what: z.literal('straighten'), rows: Rows, long: Long }),
  /** Penetrations anew along the way from the first to the last of the rows, so far apart. */
  z.object({ what: z.literal('respace'), rows: Rows, length: z.number().min(0.5).max(12) }),
  /** A part of the design taken out, with clean ends where the thread went in and out of it. */
  z.object({ what: z.literal('take-out'), rows: Rows }),
]);
export type PointsAsk = z.infer<typeof PointsAsk>;
