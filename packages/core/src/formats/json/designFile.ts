import { z } from 'zod';
import { ObjectSpec } from '../../model/objectSpec.ts';
import { Target } from '../../model/target.ts';
import { MAX_COORDINATE, MAX_ROWS } from '../fileProblem.ts';

/** By what a design JSON is known, and the version of it that is read and written. */
export const DESIGN_MARK = 'isola design';
export const DESIGN_VERSION = 1;

const Coordinate = z.number().min(-MAX_COORDINATE).max(MAX_COORDINATE);
const Note = z.string().max(2000).optional();
const Color = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'a color like #1f4e79');

/** A row of the machine's program, in mm from the hoop's centre, x to the right, y up. */
const DesignRow = z.discriminatedUnion('command', [
  z.object({ command: z.literal('stitch'), x: Coordinate, y: Coordinate, note: Note }),
  z.object({ command: z.literal('jump'), x: Coordinate, y: Coordinate, note: Note }),
  z.object({ command: z.literal('trim'), note: Note }),
  z.object({ command: z.literal('color'), color: Color, note: z.string().max(2000).optional().describe('the thread’s name') }),
  z.object({ command: z.literal('stop'), note: Note }),
  z.object({ command: z.literal('end'), note: Note }),
]);

const DesignObject = z.looseObject({
  id: z.string(),
  name: z.string(),
  kind: z.string(),
  role: z.string(),
  first: z.number().int().describe('the first of its rows, counted from 0, color rows included'),
  last: z.number().int(),
  spec: ObjectSpec.optional().describe('what it was sewn from, where it is not as its file had it'),
});

/** A whole job as a file: its program, what it is to be sewn on, its objects with their specs, and what was noted of its revisions. */
export const DesignFile = z.object({
  format: z.literal(DESIGN_MARK),
  version: z.literal(DESIGN_VERSION),
  name: z.string().max(200).optional(),
  customer: z.string().max(200).optional(),
  due: z.iso.date().nullable().optional(),
  target: Target.optional(),
  program: z.array(DesignRow).max(MAX_ROWS),
  objects: z.array(DesignObject).optional().describe('as they are recognized or were made; they are found anew when the file is read'),
  revisions: z
    .array(
      z.object({
        number: z.number().int(),
        name: z.string(),
        note: z.string(),
        isRelease: z.boolean(),
        createdAt: z.string(),
        who: z.string().nullable().optional(),
      }),
    )
    .optional(),
});
export type DesignFile = z.infer<typeof DesignFile>;

/** What a design JSON says besides its program. */
export type AboutDesign = Omit<DesignFile, 'format' | 'version' | 'program'>;

/** The JSON Schema (draft 2020-12) of a design JSON, generated from what reads it. */
export function designSchema(): object {
  return z.toJSONSchema(DesignFile, { io: 'input' });
}
