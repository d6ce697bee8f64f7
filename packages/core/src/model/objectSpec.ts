import { z } from 'zod';
import { ROW_ENDS, SPEC_KINDS, type SpecKind, TIES, UNDERLAY_KINDS } from './kinds.ts';

const Coordinate = z.number().min(-1000).max(1000);
const Angle = z.number().min(-3600).max(3600);

/** A layer of underlay; what is left out is as usual for its kind. Lengths in mm, angle in degrees. */
export const UnderlaySpec = z.object({
  kind: z.enum(UNDERLAY_KINDS),
  /** Same-direction pitch of tatami and zigzag. */
  spacing: z.number().min(0.5).max(20).optional(),
  /** How far it lies inside the edge. */
  inset: z.number().min(0).max(5).optional(),
  /** Of tatami; left out it runs square to the cover. */
  angle: Angle.optional(),
  /** Of runs and tatami. */
  stitchLength: z.number().min(0.5).max(12).optional(),
});
export type UnderlaySpec = z.infer<typeof UnderlaySpec>;

/** How an object is sewn: all that a digitizer sets. Lengths in mm, angles in degrees counter-clockwise from +x. */
export const ObjectSpec = z.object({
  kind: z.enum(SPEC_KINDS),
  /** Same-direction pitch of a satin or fill; between neighbouring lines of a contour or meander; from prong to prong of an edge stitch. */
  spacing: z.number().min(0.1).max(20),
  stitchLength: z.number().min(0.5).max(12),
  angle: Angle,
  /** Straights that rows or throws follow where these lie: two or more make a fill turn, each one leans the throws of a satin. */
  angleLines: z.array(z.tuple([Coordinate, Coordinate, Coordinate, Coordinate])).max(40),
  /** By how much of a stitch neighbouring rows of a fill are shifted. */
  offset: z.union([z.number().min(0).max(1), z.literal('random')]),
  /** What chance a random shift goes by, so that it can be told and had again; 0 where nothing is said. */
  seed: z.number().int().min(0).max(999_999).optional(),
  /** Shifts of one row after another, over and over, in shares of a stitch: a texture. It stands in place of one shift. */
  texture: z.array(z.number().min(0).max(1)).min(2).max(64).optional(),
  /** A place that a fill's row runs through, with a penetration there; where nothing is said all fills share one grid. */
  origin: z.tuple([Coordinate, Coordinate]).optional(),
  /** Whether a stitch of its own leads from a fill's row to the next, or the row before slants into it. */
  rowEnds: z.enum(ROW_ENDS),
  /** How often a run goes over its line. */
  passes: z.number().int().min(1).max(5),
  /** Compensation on each side. */
  pull: z.number().min(-2).max(2),
  /** Width of a satin along a line, and how far an edge stitch's prongs reach. */
  width: z.number().min(0.3).max(30),
  /** Throws of a satin longer than this are split. */
  splitLength: z.number().min(1).max(12.5),
  /** A penetration nearer to the one before is left out; {@link SHORTEST} where nothing is said. */
  shortest: z.number().min(0.05).max(1.5).optional(),
  /** Within a fill's row, a penetration nearer than this to the row's end is left out; {@link END_STITCH} where nothing is said. */
  endStitch: z.number().min(0).max(3).optional(),
  /** Whether a fill is meant to be open, where that was said; otherwise its spacing says it. */
  isOpen: z.boolean().optional(),
  /** In sewing order. */
  underlay: z.array(UnderlaySpec).max(6),
  tie: z.enum(TIES),
});
export type ObjectSpec = z.infer<typeof ObjectSpec>;

/** The shortest stitch where a spec says nothing of it, mm: a little under the 0.4 mm below which a needle strikes thread that it has just laid. */
export const SHORTEST = 0.36;

/** The shortest stitch to the end of a fill's row where a spec says nothing of it, mm: a shorter one is seen at the edge. Common practice. */
export const END_STITCH = 0.9;

/** What a spec says where nothing else is known: as most objects are sewn. */
export const USUAL_SPEC: ObjectSpec = {
  kind: 'fill',
  spacing: 0.4,
  stitchLength: 4,
  angle: 0,
  angleLines: [],
  offset: 0.3,
  rowEnds: 'slanted',
  passes: 1,
  pull: 0,
  width: 2,
  splitLength: 7,
  underlay: [],
  tie: 'to-and-fro',
};

/** What a spec of each kind says besides its kind; its other values have no meaning for that kind. */
export const SPEC_VALUES: Readonly<Record<SpecKind, readonly (keyof ObjectSpec)[]>> = {
  run: ['stitchLength', 'passes', 'tie'],
  satin: ['spacing', 'angleLines', 'pull', 'splitLength', 'width', 'shortest', 'underlay', 'tie'],
  fill: [
    'spacing',
    'stitchLength',
    'angle',
    'angleLines',
    'offset',
    'seed',
    'texture',
    'origin',
    'rowEnds',
    'pull',
    'shortest',
    'endStitch',
    'isOpen',
    'underlay',
    'tie',
  ],
  contour: ['spacing', 'stitchLength', 'pull', 'underlay', 'tie'],
  meander: ['spacing', 'stitchLength', 'underlay', 'tie'],
  'edge-stitch': ['spacing', 'width', 'tie'],
};

const Points = z.array(Coordinate);

/**
 * The line that a contour or meander fill was found to be sewn along, by its penetrations, stretch by stretch, and with what spec. It stays as
 * long as kind and spacing do and no compensation is added; its penetrations stay as long as the stitch length does, too.
 */
const OwnLine = z.object({
  kind: z.enum(['contour', 'meander']),
  spacing: z.number(),
  stitchLength: z.number(),
  paths: z.array(Points),
});

/**
 * How an edge stitch was found to stand on its edge: the spacing and width that were read, and of each penetration on the edge, in sewing order,
 * x and y and what its prong adds to them (0 and 0 where it has none). It stays as long as spacing does.
 */
const OwnProngs = z.object({
  spacing: z.number(),
  width: z.number(),
  feet: z.array(z.tuple([Coordinate, Coordinate, Coordinate, Coordinate])).min(1),
});
export type OwnProngs = z.infer<typeof OwnProngs>;

/** The nodes that rings, edges or a path were drawn by (geometry/nodes.ts), one list each; none where they were found in stitches. */
const DrawnBy = z.array(z.array(z.number().min(-3000).max(3000)).max(60_000)).optional();

/** Where an object is sewn, apart from how: points as x y pairs, mm. */
export const ObjectShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('area'), rings: z.array(Points), line: OwnLine.optional(), nodes: DrawnBy }),
  z.object({ kind: z.literal('column'), left: Points, right: Points, nodes: DrawnBy }),
  z.object({ kind: z.literal('line'), path: Points, prongs: OwnProngs.optional(), nodes: DrawnBy }),
]);
export type ObjectShape = z.infer<typeof ObjectShape>;
