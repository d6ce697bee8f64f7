import { z } from 'zod';

const Coordinate = z.number().min(-1000).max(1000);
const Color = z.string().regex(/^#[0-9a-f]{6}$/);
const Note = z.string().max(10_000).optional();

/** A row in an edit: stitches and jumps have a place, colors a color. */
export const RowValue = z.discriminatedUnion('command', [
  z.object({ command: z.literal('stitch'), x: Coordinate, y: Coordinate, note: Note }),
  z.object({ command: z.literal('jump'), x: Coordinate, y: Coordinate, note: Note }),
  z.object({ command: z.literal('color'), color: Color, note: Note }),
  z.object({ command: z.literal('trim'), note: Note }),
  z.object({ command: z.literal('stop'), note: Note }),
]);
export type PatchRow = z.infer<typeof RowValue>;
