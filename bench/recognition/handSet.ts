import { type Program, readStitchCsv } from '@isola/core';
import { readdirSync, readFileSync } from 'node:fs';
import { z } from 'zod';

const Rows = z.tuple([z.number(), z.number()]);
const Ring = z.array(Rows);

const HandObject = z.object({
  kind: z.enum(['run', 'satin', 'fill', 'other']),
  kindAny: z.array(z.enum(['run', 'satin', 'fill', 'other'])).optional(),
  role: z.enum(['cover', 'travel', 'placement', 'tackdown']),
  first: z.number(),
  last: z.number(),
  spacing: z.number().nullish(),
  angle: z.number().nullish(),
  outline: Ring.nullish(),
  holes: z.array(Ring).nullish(),
  underlay: z.array(z.object({ kind: z.string(), first: z.number(), last: z.number() })).default([]),
  join: z.string().optional(),
  brick: z.string().optional(),
  grid: z.string().optional(),
  sections: z.number().optional(),
  sectionMoves: z.string().optional(),
  split: z.union([z.boolean(), z.string()]).optional(),
  closed: z.boolean().optional(),
  mode: z.string().optional(),
  lay: z.string().optional(),
  how: z.string().optional(),
});
/** What a program of another hand was made of, as told beside it: rows inclusive, color rows counted; lengths in mm, angle in degrees. */
export type HandObject = z.infer<typeof HandObject>;

const Truth = z.object({ name: z.string(), family: z.string(), objects: z.array(HandObject) });

export interface HandProgram {
  readonly name: string;
  readonly family: string;
  readonly part: HandPart;
  readonly program: Program;
  readonly objects: readonly HandObject[];
}

/** `work` may be looked at while recognition is worked on; `kept` is read for reports alone. */
export type HandPart = 'work' | 'kept';

const FOLDER = new URL('./corpus/', import.meta.url);

/**
 * Programs that are kept for reports. Parted by shape: what is on one side in some manner is on neither in another, but for families that are one figure in
 * several sizes, of which the third of each is kept; and by manner, so that each manner of joining, shifting and splitting is on both.
 */
const KEPT = new Set(`020 028 043 044 047 049 051 052 054 055 056 057 058 059 060 061 062 063 064 065 067 069 072 075 076`.split(' '));

/** The programs of one part, each with what it was made of. */
export function handSet(part: HandPart): HandProgram[] {
  return readdirSync(FOLDER)
    .filter((file) => file.endsWith('.csv'))
    .map((file) => file.slice(0, -4))
    .filter((name) => KEPT.has(name.slice(0, 3)) === (part === 'kept'))
    .sort()
    .map((name) => readHand(name, part));
}

export function readHand(name: string, part: HandPart): HandProgram {
  const read = readStitchCsv(readFileSync(new URL(`${name}.csv`, FOLDER), 'utf8'));
  if (!read.ok) throw new Error(`${name}: ${JSON.stringify(read.error)}`);
  const { family, objects } = Truth.parse(JSON.parse(readFileSync(new URL(`${name}.truth.json`, FOLDER), 'utf8')));
  return { name, family, part, program: read.value.program, objects };
}
