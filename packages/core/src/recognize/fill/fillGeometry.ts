import type { RowEnds } from '../../model/kinds.ts';

/** What a fill was made with: degrees, mm, rings xyxy; the outline counter-clockwise, holes clockwise. */
export interface FillGeometry {
  readonly angle: number;
  readonly spacing: number;
  readonly stitchLength: number;
  readonly offset: number | undefined;
  /** Whether a stitch of its own leads from most rows to the next. */
  readonly rowEnds: RowEnds;
  /** Turns shorter than this were left out, mm; none where none were. */
  readonly shortest?: number;
  /** No penetration of a row is nearer to its ends, mm; none where too few tell. */
  readonly endStitch?: number;
  readonly outline: Float64Array;
  readonly holes: readonly Float64Array[];
}
