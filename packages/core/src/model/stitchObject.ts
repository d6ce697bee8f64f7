import type { LinePattern, StitchKind, StitchRole, UnderlayKind } from './kinds.ts';
import type { ObjectShape, ObjectSpec } from './objectSpec.ts';
import type { ClothLook } from './target.ts';

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Cloth that is laid on a placement line and sewn on: its color, and what it looks like. */
export interface ClothPiece {
  readonly color: string;
  readonly look: ClothLook;
}

/** Rows of a program, both ends included, color rows counted. */
export interface RowSpan {
  readonly first: number;
  readonly last: number;
}

/** A layer of underlay as its cover names it. */
export interface UnderlayLayer extends RowSpan {
  readonly kind: UnderlayKind;
  /** The id of the object that it is. */
  readonly object: string;
  /** Same-direction pitch, mm; for open fills and zigzags only. */
  readonly spacing?: number;
  /** Degrees in [0, 180); for tatami only. */
  readonly angle?: number;
}

/** Something that a digitizer would speak of, found in the stitches. Lengths in mm, rings and paths as xyxy, y up. */
export interface StitchObject {
  readonly id: string;
  readonly name: string;
  readonly kind: StitchKind;
  readonly role: StitchRole;
  /** What a line does that is more than a line; a fill of one line has it too. */
  readonly pattern?: LinePattern;
  /** Which layer it is, of underlay. */
  readonly layer?: UnderlayKind;
  /** The cover that it lies under or belongs to. */
  readonly parent?: string;
  /** Index into the program's threads, −1 before the first, and its color. */
  readonly thread: number;
  readonly color: string;
  /** First and last row; the rows between may be interrupted by `spans` of other objects. */
  readonly first: number;
  readonly last: number;
  /** The rows that lay this object's own thread, ascending. The row before each span is where its first stitch starts. */
  readonly spans: readonly RowSpan[];
  /** Stitches in the spans. */
  readonly stitches: number;
  /** Same-direction pitch; satins and fills only. */
  readonly spacing?: number;
  /** Degrees in [0, 180); of a satin the mean. */
  readonly angle?: number;
  /** Widths along a column; satins only. */
  readonly width?: { readonly mean: number; readonly min: number; readonly max: number };
  /** Of a run and a fill the usual length; of a satin the usual length between penetrations. */
  readonly stitchLength: number;
  /** By how much of a stitch a fill's penetrations are shifted from row to row, 0 to below 1; absent where no shift repeats. */
  readonly offset?: number;
  /** How the rows of a fill are joined at their ends. */
  readonly rowEnds?: 'square' | 'slanted';
  /** Of a fill whose turns below some length were left out, that length, mm. */
  readonly shortest?: number;
  /** Of a fill whose rows have no penetrations nearer to their ends than some length, that length, mm; absent where too few tell. */
  readonly endStitch?: number;
  /** How often a run goes over its path. */
  readonly passes?: number;
  /** Rings: the outline counter-clockwise, holes clockwise. Empty for runs. */
  readonly outline: Float64Array;
  readonly holes: readonly Float64Array[];
  /** The edges of a satin, running the same way. */
  readonly rails?: { readonly left: Float64Array; readonly right: Float64Array };
  /** The way of a run, gone over once. */
  readonly path?: Float64Array;
  readonly underlay: readonly UnderlayLayer[];
  /** What it was sewn from, where it is not as the file had it. */
  readonly made?: { readonly spec: ObjectSpec; readonly shape: ObjectShape };
  /** The cloth that is laid on it, of a placement line. */
  readonly piece?: ClothPiece;
  /** Whether it stays where it is when an order is proposed. */
  readonly isLocked?: true;
  /** How much compensation (mm on each side) its outline holds that it came with; absent where nobody said so, since stitches do not tell. */
  readonly heldPull?: number;
  /** Whether the stitches that the file had are kept beside those that it has. */
  readonly hasOwn?: true;
  /** How many of its rows were changed by hand or by a repair since it was sewn so; absent where none was. */
  readonly edited?: number;
  readonly entry: Point;
  readonly exit: Point;
  /** What else it may well be, where its stitches can be read two ways. */
  readonly otherReading?: 'fill' | 'satin';
  /** 0 to 1: how likely it is what it was taken for; of those said at 0.95 and more, 95 in 100 are (docs/recognition.md). */
  readonly confidence: number;
}
