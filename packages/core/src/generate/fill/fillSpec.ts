import type { AngleLine } from './rowLines.ts';

export interface FillSpec {
  /** Same-direction pitch, mm: the distance from a row to the one after the next. */
  readonly spacing: number;
  /** Degrees, counter-clockwise from +x. */
  readonly angle: number;
  /** Straights that say how rows run where they lie; rows turn from each to the next. Fewer than two leave `angle` in force. */
  readonly angleLines?: readonly AngleLine[];
  /** mm. */
  readonly stitchLength: number;
  /** By how much of a stitch the penetrations of one row are shifted against those of the row before; `random` differs from row to row. */
  readonly offset: number | 'random';
  /** What a random shift goes by. */
  readonly seed?: number | undefined;
  /** Shifts of one row after another, over and over, in shares of a stitch, in place of `offset`. */
  readonly texture?: readonly number[] | undefined;
  /**
   * How a row's end leads to the next row: by a penetration of its own at the start of it, or slanting into it. Left out, it slants where the
   * rows are so near that a stitch between them would be tiny.
   */
  readonly rowEnds?: 'square' | 'slanted';
  /** A place that a row's line runs through, with a penetration of the grid there; left out, all shapes share one grid. */
  readonly origin?: readonly [x: number, y: number];
  /** A penetration of the grid nearer to a row's end than this is left out, mm. */
  readonly endStitch?: number;
  /** How far rows reach beyond the outline at either end, mm. */
  readonly pull?: number;
  /** Length of stitches that walk from section to section under the rows, mm. */
  readonly travelLength?: number;
}

export interface FillEnds {
  readonly from?: { readonly x: number; readonly y: number };
  readonly to?: { readonly x: number; readonly y: number };
}

/** Refuses what would never end or give no stitch. */
export function checkSpec({ spacing, stitchLength, angle, pull = 0 }: Pick<FillSpec, 'spacing' | 'stitchLength' | 'angle' | 'pull'>): void {
  if (!(spacing >= LEAST_SPACING)) throw new RangeError(`a fill needs a spacing of ${LEAST_SPACING} mm or more, got ${spacing}`);
  if (!(stitchLength >= LEAST_STITCH)) throw new RangeError(`a fill needs stitches of ${LEAST_STITCH} mm or more, got ${stitchLength}`);
  if (!Number.isFinite(angle)) throw new RangeError(`a fill needs an angle in degrees, got ${angle}`);
  if (!(Math.abs(pull) <= MOST_PULL)) throw new RangeError(`a fill takes a compensation up to ${MOST_PULL} mm, got ${pull}`);
}

/** Closer or shorter than this (mm) no machine sews; compensation beyond that is a mistake. */
export const LEAST_SPACING = 0.1;
export const LEAST_STITCH = 0.5;
export const MOST_PULL = 3;
