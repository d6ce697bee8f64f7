import type { LinePattern, StitchRole, UnderlayKind } from '../../model/kinds.ts';
import type { FillGeometry } from '../fill/fillGeometry.ts';
import type { RunGeometry } from '../line/measureRun.ts';
import type { SatinGeometry } from '../column/measureSatin.ts';
import type { RowSet } from './rows.ts';

/** What rows of a piece were measured to be; a piece of one kind has what that kind has. */
export type Measured =
  | ({ readonly kind: 'fill' } & FillGeometry)
  | ({ readonly kind: 'satin' } & SatinGeometry)
  | ({ readonly kind: 'run' } & RunGeometry)
  | { readonly kind: 'other'; readonly stitchLength: number };

/** An object in the making: the stitches that end at rows `first`…`last`, the first of which starts at the row before. */
export interface Piece {
  readonly first: number;
  readonly last: number;
  readonly thread: number;
  /** The stretch it was cut from, counted from 0; pieces that were joined keep the first. */
  readonly stretch: number;
  readonly measured: Measured;
  readonly rows: RowSet | undefined;
  readonly confidence: number;
  /** It was put together from sections, as only a fill is. */
  readonly isJoined?: true;
  pattern: LinePattern | undefined;
  role: StitchRole;
  underlayKind: UnderlayKind | undefined;
  /** The piece that this one lies under or belongs to. */
  parent: Piece | undefined;
}
