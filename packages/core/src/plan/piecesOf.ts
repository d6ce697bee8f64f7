import type { StitchObject } from '../model/stitchObject.ts';

/** A piece of cloth on the cloth: its edge (xyxy, mm, closed), what it looks like, and after which row it lies there. */
export interface LaidPiece {
  readonly name: string;
  readonly edge: Float64Array;
  readonly color: string;
  readonly look: NonNullable<StitchObject['piece']>['look'];
  readonly after: number;
}

/** The pieces of cloth that are laid on placement lines of which somebody said what is laid there. */
export function piecesOf(objects: readonly StitchObject[]): LaidPiece[] {
  return objects.flatMap(({ name, piece, path, last }) =>
    piece === undefined || path === undefined || path.length < 6
      ? []
      : [{ name: name.replace(PREFIX, ''), edge: path, color: piece.color, look: piece.look, after: last }],
  );
}

const PREFIX = /^Placement line of /;
