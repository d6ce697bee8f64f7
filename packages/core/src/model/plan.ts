import type { Tie } from './kinds.ts';
import type { ObjectShape, ObjectSpec } from './objectSpec.ts';
import type { Program, ProgramThread } from './program.ts';
import type { ClothPiece, Point, StitchObject } from './stitchObject.ts';

/** Names an object for as long as the design exists: made once, never from its place. */
export type ObjectId = string;

/** Rows of a plan's source, `end` not included; color rows counted. */
export interface SourceRows {
  readonly first: number;
  readonly end: number;
}

/** Where rows come from: the source, as they stand there, or rows of their own. */
export type PlanRows = SourceRows | Program;

/**
 * How an object is sewn. All rows that it speaks of are counted from the first of `rows`; −1 is the penetration at `start`, which belongs to the
 * link that leads to the object but is where the object's first stitch begins.
 */
export interface Sewn {
  /** Its underlay, travel and cover, without the way to it and without the ties at its ends. Never color or end rows. */
  readonly rows: PlanRows;
  /** Where the needle has to be before the first row. */
  readonly start: Point;
  /** Whether it comes down there for this object; otherwise the object before ended there. */
  readonly isOwnStart: boolean;
  /** What it is, as measured or as made. */
  readonly reading: StitchObject;
  /** Its underlay and travel, in sewing order, and ties between its sections. */
  readonly parts: readonly StitchObject[];
  /** How it was asked to be sewn, and where; none while it is sewn as the file had it. */
  readonly made: { readonly spec: ObjectSpec; readonly shape: ObjectShape } | null;
  /** How many rows were changed by hand or by a repair since it was sewn so. */
  readonly edited: number;
}

/** What a digitizer would speak of: it lasts through all that happens around it. */
export interface PlanObject {
  readonly id: ObjectId;
  readonly name: string;
  readonly sewn: Sewn;
  /** As the file had it, where it is sewn otherwise now. */
  readonly own: Sewn | null;
  /** It was drawn here: no file had it, and it has no stitches but those that it is sewn with. */
  readonly isDrawn?: true;
  /** It stays where it is in the order when an order is proposed. */
  readonly isLocked?: true;
  /** The cloth that is laid on it, of a placement line. */
  readonly piece?: ClothPiece;
  /** How much compensation (mm on each side) the outline holds that it came with; absent where nobody said so. */
  readonly heldPull?: number;
}

export const LINK_WAYS = ['as-found', 'carry', 'hidden', 'open', 'jump', 'trim'] as const;
/**
 * How the needle gets from one object to the next: as the rows that were found there say, by one stitch, along a path that stitching hides or one in
 * the open, by a jump with the thread uncut, or cut, with locks on both sides.
 */
export type LinkWay = (typeof LINK_WAYS)[number];

/** A path that was laid from one object to the next. It holds for as long as both ends are where they were. */
export interface LaidPath {
  readonly from: Point;
  readonly to: Point;
  /** The penetrations between them, xyxy. */
  readonly points: readonly number[];
}

export const LINK_WISHES = ['cut', 'uncut'] as const;
/** Whether somebody wants the thread cut on a way, or forbids it; what proposes ways keeps to it. */
export type LinkWish = (typeof LINK_WISHES)[number];

/** An end of a way: a place, and the lock that the object there was asked to have (none: the file's). */
export interface WayEnd extends Point {
  readonly tie: Tie | null;
}

/** Rows that were found between two objects, and after which (none: at the start). They hold for as long as both ends are those. */
export interface FoundWay {
  readonly after: ObjectId | null;
  readonly rows: PlanRows;
  /** None at the start and at the end of a design. */
  readonly from: WayEnd | null;
  readonly to: WayEnd | null;
}

/** The way from one object to the next, ties included; the last link of a plan leads to its end. */
export interface Link {
  readonly way: LinkWay;
  /** Of a hidden or open way. */
  readonly path?: LaidPath;
  readonly wish?: LinkWish;
  /** What was found there holds no more: another thread is put on under way now, or none. */
  readonly isAnew?: true;
  /** What the machine stops for on this way, in words for the operator; null: it stops for nothing. Where nothing is said, as was found there. */
  readonly stop?: string | null;
  readonly found: FoundWay | null;
  /** The ties found in those rows, counted from the first of them. */
  readonly ties: readonly StitchObject[];
}

/** Objects sewn one after another with one thread. */
export interface Block {
  readonly id: string;
  /** None: nothing was put on before it. */
  readonly thread: ProgramThread | null;
  readonly objects: readonly ObjectId[];
  /** It is not to be merged with another block of its thread. */
  readonly keep?: true;
}

/** A design while it is being worked on: objects that last, in an order, joined by links. Rows are assembled from it. */
export interface Plan {
  /** The file as it came, never changed. */
  readonly source: Program;
  /** The order is blocks, then the objects in them. */
  readonly blocks: readonly Block[];
  readonly objects: Readonly<Record<ObjectId, PlanObject>>;
  /** The way to each object. */
  readonly links: Readonly<Record<ObjectId, Link>>;
  /** What follows the last object. */
  readonly ending: Link;
}

/** The ids of a plan's objects in sewing order. */
export function orderOf(plan: Pick<Plan, 'blocks'>): ObjectId[] {
  return plan.blocks.flatMap((block) => block.objects);
}

export function isSourceRows(rows: PlanRows): rows is SourceRows {
  return 'end' in rows;
}

/** The rows themselves: a program and which of its rows, `end` not included. */
export function readRows(source: Program, rows: PlanRows): { readonly program: Program; readonly first: number; readonly end: number } {
  return isSourceRows(rows) ? { program: source, ...rows } : { program: rows, first: 0, end: rows.rowCount };
}

export function countRows(rows: PlanRows): number {
  return isSourceRows(rows) ? rows.end - rows.first : rows.rowCount;
}

/** Where the needle is after an object's last row. */
export function exitOf(source: Program, { rows, start }: Sewn): Point {
  const { program, first, end } = readRows(source, rows);
  return end > first ? { x: program.x[end - 1]!, y: program.y[end - 1]! } : start;
}

/** The ends of ways that lead away from and to an object. */
export function exitEnd(source: Program, sewn: Sewn): WayEnd {
  const { x, y } = exitOf(source, sewn);
  return { x, y, tie: sewn.made?.spec.tie ?? null };
}

export function entryEnd({ start: { x, y }, made }: Sewn): WayEnd {
  return { x, y, tie: made?.spec.tie ?? null };
}
