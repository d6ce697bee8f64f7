import { z } from 'zod';
import type { Design } from '../../model/design.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { applique, APPLIQUE_COVERS } from './applique.ts';
import { carve, cutAway, fillHoles, joinAreas, reach } from './cutting.ts';
import type { Drawn, NewId } from './drawing.ts';
import { DRAWN_FORMS, DRAWN_KINDS, drawNew } from './drawNew.ts';
import { backing, border, nap, outline, OUTLINE_PLACES, OUTLINES, OVERLAPS } from './edges.ts';
import { knife } from './knife.ts';
import { reshape } from './nodes.ts';
import { onePath } from './onePath.ts';
import { place } from './place.ts';
import { recolor, removeShapes, scale } from './wholes.ts';

const Id = z.string().min(1).max(80);
const Ids = z.array(Id).max(20_000);
const Color = z.string().regex(/^#[0-9a-f]{6}$/, 'a color is #rrggbb');
const Length = z.number().min(0).max(100);
const Width = z.number().min(0.5).max(12);
const Far = z.number().min(-1000).max(1000);
/** Nodes of lines (geometry/nodes.ts), six numbers a node. */
const Lines = z
  .array(
    z
      .array(z.number().min(-3000).max(3000))
      .max(12_000)
      .refine((line) => line.length % 6 === 0, 'a node takes six numbers'),
  )
  .min(1)
  .max(2000);
const Words = z.string().trim().min(1).max(200);

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
  /** `across`: a gap so wide is bridged. */
  join: z.object({ objects: Ids.min(2), across: z.number().min(0.1).max(10).default(0.6) }),
  'fill-holes': z.object({ objects: Ids.default([]), under: Length.default(5) }),
  carve: z.object({ object: Id, by: Id, keep: Length.default(1) }),
  'cut-away': z.object({ objects: Ids.min(1), by: Id, gap: Length.default(2.5) }),
  /** `by`: none is what the cloth pulls, on both sides of the seam. */
  reach: z.object({ object: Id, under: Id, by: Length.optional() }),
  applique: z.object({
    objects: Ids.min(1),
    cover: Width.default(2),
    tack: z.enum(['zigzag', 'run']).default('zigzag'),
    as: z.enum(APPLIQUE_COVERS).default('satin'),
    /** With batting under the cloth the cover is half a millimetre wider. */
    batting: z.boolean().default(false),
    /** Each step for all pieces, or piece by piece. */
    regroup: z.boolean().default(true),
    /** What the operator reads when the cloth is to be laid and to be cut. */
    lay: Words.optional(),
    cut: Words.optional(),
    /** The color of the cloth that is laid; none: the color that the piece was sewn with. */
    cloth: Color.optional(),
  }),
  scale: z.object({ factor: z.number(), objects: Ids.default([]) }),
  place: z.object({
    objects: Ids.default([]),
    dx: Far.default(0),
    dy: Far.default(0),
    turn: z.number().min(-360).max(360).default(0),
    mirror: z.enum(['none', 'sides', 'ends']).default('none'),
  }),
  draw: z.object({
    form: z.enum(DRAWN_FORMS),
    lines: Lines,
    widths: z.array(z.number()).max(2000).optional(),
    kind: z.enum(DRAWN_KINDS).optional(),
    width: z.number().min(0.3).max(30).optional(),
    passes: z.number().int().min(1).max(5).optional(),
    angle: z.number().min(-360).max(360).optional(),
    name: Words.optional(),
    color: Color.optional(),
    after: Id.nullable().optional(),
    before: Id.optional(),
  }),
  reshape: z.object({ object: Id, lines: Lines }),
  /** `along`: xyxy, mm. */
  cut: z.object({ object: Id, along: z.array(Far).min(4).max(4000) }),
  'one-path': z.object({ objects: Ids.min(2) }),
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
    'by' in ask && typeof ask.by === 'string' ? ask.by : [],
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
      return joinAreas(design, ask.objects, newId, ask.across);
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
      return scale(design, ask.factor, newId, ask.objects);
    case 'place':
      return place(design, ask, newId);
    case 'draw':
      return drawNew(design, ask, newId);
    case 'reshape':
      return reshape(design, ask.object, ask.lines, newId);
    case 'cut':
      return knife(design, ask.object, ask.along, newId);
    case 'one-path':
      return onePath(design, ask.objects, newId);
    case 'remove':
      return removeShapes(design, ask.objects, newId);
    case 'recolor':
      return recolor(design, ask.block, ask.color, ask.keep, newId);
  }
}
