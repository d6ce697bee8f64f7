import { z } from 'zod';
import { LINE_PATTERNS, ROW_ENDS, STITCH_KINDS, STITCH_ROLES, UNDERLAY_KINDS } from './kinds.ts';
import type { StitchObject } from './stitchObject.ts';

const Id = z.string().min(1).max(80);
const AnyRow = z.number().int();
const Row = AnyRow.min(-1);
const Span = { first: Row, last: Row };
const Points = z.array(z.number().min(-2000).max(2000));
const Place = z.object({ x: z.number(), y: z.number() });
const Share = z.number().min(0).max(1);
const Length = z.number().nonnegative();

/** What an object was found to be, as it stands in an edit: rings and paths as lists, rows counted from the object's first (−1: where it starts). */
export const ReadingJson = z.object({
  ...{ id: Id, name: z.string().min(1).max(200), kind: z.enum(STITCH_KINDS), role: z.enum(STITCH_ROLES) },
  ...{ pattern: z.enum(LINE_PATTERNS).optional(), layer: z.enum(UNDERLAY_KINDS).optional(), parent: Id.optional() },
  ...{ thread: z.number().int().min(-1), color: z.string(), ...Span, spans: z.array(z.object(Span)), stitches: z.number().int().min(0) },
  ...{ spacing: Length.optional(), angle: z.number().optional() },
  width: z.object({ mean: Length, min: Length, max: Length }).optional(),
  ...{ stitchLength: Length, offset: Share.optional(), rowEnds: z.enum(ROW_ENDS).optional(), shortest: Length.optional() },
  ...{ endStitch: Length.optional(), passes: z.number().int().min(0).optional(), outline: Points, holes: z.array(Points) },
  ...{ rails: z.object({ left: Points, right: Points }).optional(), path: Points.optional() },
  underlay: z.array(
    // Layers sewn before other objects lie before the object's own rows.
    z.object({
      first: AnyRow,
      last: AnyRow,
      kind: z.enum(UNDERLAY_KINDS),
      object: Id,
      spacing: Length.optional(),
      angle: z.number().optional(),
    }),
  ),
  ...{ entry: Place, exit: Place, otherReading: z.enum(['fill', 'satin']).optional(), confidence: Share },
});
export type ReadingJson = z.infer<typeof ReadingJson>;

/** Rings and paths are measured; so fine (parts of a millimetre) they are written. */
const GRAIN = 10_000;

export function readingToJson(object: StitchObject): ReadingJson {
  const { outline, holes, rails, path, made: _, edited: __, hasOwn: ___, ...rest } = object;
  return {
    ...rest,
    outline: list(outline),
    holes: holes.map(list),
    ...(rails === undefined ? {} : { rails: { left: list(rails.left), right: list(rails.right) } }),
    ...(path === undefined ? {} : { path: list(path) }),
  } as ReadingJson;
}

export function readingFromJson({ outline, holes, rails, path, ...rest }: ReadingJson): StitchObject {
  return {
    ...rest,
    outline: Float64Array.from(outline),
    holes: holes.map((ring) => Float64Array.from(ring)),
    ...(rails === undefined ? {} : { rails: { left: Float64Array.from(rails.left), right: Float64Array.from(rails.right) } }),
    ...(path === undefined ? {} : { path: Float64Array.from(path) }),
  };
}

function list(points: Float64Array): number[] {
  return Array.from(points, (value) => Math.round(value * GRAIN) / GRAIN);
}
