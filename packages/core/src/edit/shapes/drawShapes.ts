import { z } from 'zod';
import type { Design } from '../../model/design.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { applique } from './applique.ts';
import { carve, cutAway, fillHoles, joinAreas, reach } from './cutting.ts';
import type { Drawn, NewId } from './drawing.ts';
import { backing, border, nap, outline, OUTLINE_PLACES, OUTLINES, OVERLAPS } from './edges.ts';
import { recolor, removeShapes, scale } from './wholes.ts';

const Id = z.string().min(1).max(80);
const Ids = z.array(Id).max(20_000);
const Color = z.string().regex(/^#[0-9a-f]{6}$/, 'a color is #rrggbb');
const Length = z.number().min(0).max(100);
const Width = z.number().min(0.5).max(12);

/** What shapes can be asked for, and how it reads where nothing is said. Lengths in mm; no objects: all of them. */
export const SHAPE_ASKS = {
  outline: z.object({
    objects: Ids.min(1),
    as: z.enum(OUTLINES).default('satin'),
    width: Width.default(1.5),
    place: z.enum(OUTLINE_PLACES).default('center'),
    offset: Length.default(0),
    overlap: z.enum(OVERLAPS).default('whole'),
    color: Color.optional(),
  }),
  border: z.object({ objects: Ids.default([]), distance: Length.default(3), width: Width.default(2), color: Color.optional() }),
  backing: z.object({
    objects: Ids.default([]),
    margin: Length.default(3),
    holes: z.enum(['sew', 'keep']).default('sew'),
    color: Color.optional(),
  }),
  nap: z.object({ objects: Ids.default([]), margin: Length.default(2), color: Color.optional() }),
  join: z.object({ objects: Ids.min(2) }),
  'fill-holes': z.object({ objects: Ids.default([]), under: Length.default(5) }),
  carve: z.object({ object: Id, by: Id, keep: Length.default(1) }),
  'cut-away': z.object({ objects: Ids.min(1), by: Id, gap: Length.default(2.5) }),
  /** `by`: none is what the cloth pulls, on both sides of the seam. */
  reach: z.object({ object: Id, under: Id, by: Length.optional() }),
  applique: z.object({
    objects: Ids.min(1),
    cover: Width.default(2),
    tack: z.enum(['zigzag', 'run']).default('zigzag'),
  }),
  scale: z.object({ factor: z.number() }),
  remove: z.object({ objects: Ids.min(1) }),
  recolor: z.object({ block: z.number().int().positive(), color: Color, keep: z.boolean().default(false) }),
} as const;
export type ShapeName = keyof typeof SHAPE_ASKS;
export const SHAPE_NAMES = Object.keys(SHAPE_ASKS) as ShapeName[];
export type ShapeAsk = { [K in ShapeName]: { readonly id: K } & z.infer<(typeof SHAPE_ASKS)[K]> }[ShapeName];

/** What is asked for by a name and values, with what is left out as usual; refused with all that makes no sense. */
export function readShapeAsk(name: ShapeName, values: Readonly<Record<string, unknown>>): Result<ShapeAsk, string> {
  const read = SHAPE_ASKS[name].safeParse(values);
  if (read.success) return succeed({ id: name, ...read.data } as ShapeAsk);
  return fail(read.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('; '));
}

/** Draws, cuts or joins shapes of a design as asked: operations that apply one after another, or the reason why it cannot be done. */
export function drawShapes(design: Design, ask: ShapeAsk, newId: NewId): Result<Drawn, string> {
  const named = [
    'objects' in ask ? ask.objects : [],
    'object' in ask ? ask.object : [],
    'under' in ask && typeof ask.under === 'string' ? ask.under : [],
  ].flat();
  const strange = named.find((id) => design.plan.objects[id] === undefined);
  if (strange !== undefined) return fail(`there is no object ${strange}`);
  switch (ask.id) {
    case 'outline':
      return outline(design, ask, newId);
    case 'border':
      return border(design, ask, newId);
    case 'backing':
      return backing(design, ask, newId);
    case 'nap':
      return nap(design, ask, newId);
    case 'join':
      return joinAreas(design, ask.objects, newId);
    case 'fill-holes':
      return fillHoles(design, ask.objects, ask.under, newId);
    case 'carve':
      return carve(design, ask.object, ask.by, ask.keep, newId);
    case 'cut-away':
      return cutAway(design, ask.objects, ask.by, ask.gap, newId);
    case 'reach':
      return reach(design, ask.object, ask.under, ask.by ?? 2 * design.target.fabric.pull, newId);
    case 'applique':
      return applique(design, ask, newId);
    case 'scale':
      return scale(design, ask.factor, newId);
    case 'remove':
      return removeShapes(design, ask.objects, newId);
    case 'recolor':
      return recolor(design, ask.block, ask.color, ask.keep, newId);
  }
}
