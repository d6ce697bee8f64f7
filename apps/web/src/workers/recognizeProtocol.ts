import type { Layer, ObjectDecision, Program, RebuiltObject, StitchObject } from '@isola/core';

/** The objects of a program as the screens need them. The arrays are the receiver's own. */
export interface RecognizedView {
  readonly objects: readonly StitchObject[];
  /** For each row the index of its object, −1 where it has none. */
  readonly ownerOfRow: Int32Array;
  /** Which cover lies on which, and how many lie under each object. */
  readonly layers: readonly Layer[];
  readonly levels: Int32Array;
}

/** What the recognition worker does: one program at a time; ending the worker is how it is cancelled. */
export interface RecognizeApi {
  recognize(
    program: Program,
    decisions: readonly ObjectDecision[],
    rebuilt: readonly RebuiltObject[],
    progress: (share: number, doing: string) => void,
  ): Promise<RecognizedView>;
}
