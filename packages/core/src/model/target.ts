import { z } from 'zod';
import { HoopPlace } from './place.ts';
import { ThreadType } from './thread.ts';

export const CLOTH_LOOKS = [
  'plain',
  'twill',
  'canvas',
  'pique',
  'knit',
  'rib',
  'brushed',
  'loops',
  'smooth',
  'felt',
  'leather',
  'sheer',
] as const;
export type ClothLook = (typeof CLOTH_LOOKS)[number];

/** A cloth and what sews well on it. Lengths in mm. */
export const Fabric = z.object({
  id: z.string().min(1).max(100),
  name: z.string().min(1).max(200),
  /** g/m². */
  mass: z.number().positive(),
  /** Percent. */
  stretch: z.number().nonnegative(),
  pile: z.number().nonnegative(),
  /** Same-direction pitch of a closed fill and of a satin. */
  fillSpacing: z.number().positive(),
  satinSpacing: z.number().positive(),
  /** How far an edge is pulled in, on each side. */
  pull: z.number().nonnegative(),
  /** How many closed layers of thread (K) it bears. */
  maxCover: z.number().positive(),
  stabilizer: z.string().max(100),
  topping: z.string().max(100),
  look: z.enum(CLOTH_LOOKS),
  /** Holes in a row nearer to each other than this (mm) tear it like a stamp; absent where it does not tear. */
  tearsUnder: z.number().positive().optional(),
  /** The color it is shown in unless the job says another, #rrggbb. */
  color: z.string().regex(/^#[0-9a-f]{6}$/),
  /** Where `pull` was learned of samples: what it was before, its spread (standard deviation, mm), and how many samples and readings stand behind it. */
  learned: z
    .object({
      from: z.number().nonnegative(),
      spread: z.number().nonnegative(),
      samples: z.number().int().positive(),
      readings: z.number().int().positive(),
    })
    .optional(),
});
export type Fabric = z.infer<typeof Fabric>;

/** A place on a garment: how large a design may be there (mm), and the hoop that is used for it. */
export const Garment = z.object({
  id: z.string().min(1).max(100),
  name: z.string().min(1).max(200),
  width: z.number().positive(),
  height: z.number().positive(),
  hoopId: z.string().min(1).max(100),
});
export type Garment = z.infer<typeof Garment>;

/** A hoop and the field inside it that the needle may reach, mm, centred on the origin. */
export const Hoop = z.object({
  id: z.string().min(1).max(100),
  name: z.string().min(1).max(200),
  width: z.number().positive(),
  height: z.number().positive(),
});
export type Hoop = z.infer<typeof Hoop>;

/** What a machine can do and how long it takes. Speeds in stitches a minute, times in s, lengths in mm. */
export const Machine = z.object({
  id: z.string().min(1).max(100),
  name: z.string().min(1).max(200),
  needles: z.number().int().positive(),
  /** Pieces that are sewn at once; one where nothing is said. */
  heads: z.number().int().min(1).max(100).optional(),
  topSpeed: z.number().positive(),
  /** Speed of the first stitch after a start; full speed is reached after eight. */
  startSpeed: z.number().positive(),
  /** The longest stitch it makes; a longer one becomes a jump. */
  maxStitch: z.number().positive(),
  /** Whole trim: slow down, tie off, cut, move, tie in, speed up. */
  trimCycle: z.number().nonnegative(),
  colorChange: z.number().nonnegative(),
  stop: z.number().nonnegative(),
  /** Standstill of a frame move, and the frame's speed in mm/s. */
  moveSettle: z.number().nonnegative(),
  moveSpeed: z.number().positive(),
  /** Where speeds and trim cycle were learned of samples: what they were before, their spreads (standard deviations), and how many samples stand behind them. */
  learned: z
    .object({
      from: z.object({ topSpeed: z.number().positive(), startSpeed: z.number().positive(), trimCycle: z.number().nonnegative() }),
      speedSpread: z.number().nonnegative(),
      trimSpread: z.number().nonnegative(),
      samples: z.number().int().positive(),
    })
    .optional(),
});
export type Machine = z.infer<typeof Machine>;

export const GOALS = ['fastest', 'cleanest', 'softest'] as const;
export type Goal = (typeof GOALS)[number];

/** How copies of a design are laid out in its hoop: so many (none: as many as fit), mm between them, with registration marks sewn first or without. */
export const HoopLayout = z.object({
  copies: z.number().int().positive().max(10_000).nullable(),
  gap: z.number().min(0).max(200),
  hasMarks: z.boolean(),
  /** Whether copies lie turned by a quarter, counter-clockwise. */
  isTurned: z.boolean().optional(),
});
export type HoopLayout = z.infer<typeof HoopLayout>;

/** Where practitioners differ, what the shop does: holes under details, the order of underlay, spacing for thicker thread. */
export const SCHOOLS = {
  holes: ['by-size', 'sew-through', 'carve'],
  underlayOrder: ['tatami-first', 'edge-first'],
  thickerThread: ['thickness', 'third-off'],
  topping: ['over-the-nap-layer', 'without'],
} as const;

/** What a shop changed of the rulebook: limits by rule, rules that it does not want, and its schools. */
export const ShopRules = z.object({
  limits: z.record(z.string().max(60), z.number().min(0).max(1e6)),
  off: z.array(z.string().max(60)).max(100),
  schools: z.object({
    holes: z.enum(SCHOOLS.holes),
    underlayOrder: z.enum(SCHOOLS.underlayOrder),
    thickerThread: z.enum(SCHOOLS.thickerThread),
    topping: z.enum(SCHOOLS.topping),
  }),
});
export type ShopRules = z.infer<typeof ShopRules>;
export type Schools = ShopRules['schools'];

/** What holds where a shop changed nothing. */
export const USUAL_RULES: ShopRules = {
  limits: {},
  off: [],
  schools: { holes: 'by-size', underlayOrder: 'tatami-first', thickerThread: 'thickness', topping: 'over-the-nap-layer' },
};

/**
 * What a program is to be sewn on, with and for. It holds whole records, not references: a job keeps the values it was judged by when the
 * shop later changes or deletes them.
 */
export const Target = z.object({
  fabric: Fabric,
  clothColor: z.string().regex(/^#[0-9a-f]{6}$/),
  garment: Garment.nullable(),
  hoop: Hoop,
  thread: ThreadType,
  machine: Machine,
  quantity: z.number().int().positive().max(1_000_000),
  goal: z.enum(GOALS),
  /** How the design lies in the hoop; absent: as its file says, which is meant from the hoop's center. */
  place: HoopPlace.optional(),
  /** Absent: one piece in a hoop. */
  layout: HoopLayout.optional(),
  /** What thread the file was made for, where somebody said so. */
  madeFor: ThreadType.optional(),
  /** Absent: the rulebook as it stands. */
  rules: ShopRules.optional(),
});
export type Target = z.infer<typeof Target>;
