import type { Program } from '@isola/core';
import type { ClothObjects, PictureRequest } from '../../../workers/clothProtocol.ts';
import type { ShownCover } from '../../../workers/protocol.ts';
import type { Projection, Sheet } from '../sheet.ts';
import type { Strokes } from '../strokes.ts';
import type { FigureViewKind } from './views.ts';

/** What a picture of figures is drawn from. */
export interface FigureScene {
  readonly request: PictureRequest & { readonly kind: FigureViewKind };
  readonly program: Program;
  readonly strokes: Strokes;
  readonly projection: Projection;
  readonly cover: ShownCover | undefined;
  readonly objects: ClothObjects | undefined;
  /** The same for as long as everything but the program and the rows sewn is the same. */
  readonly key: string;
}

/** How a view other than thread is drawn on the bare cloth. It has what its view needs ({@link VIEWS}) as far as that is known yet. */
export interface FigurePainter {
  /** Draws batches `from` ≤ batch < `to` of stitches; a replay adds batches to what is there. */
  readonly paintBatches?: (scene: FigureScene, sheet: Sheet, from: number, to: number) => void;
  /** Draws what lies over all batches, once they are there. */
  readonly paintAfter?: (scene: FigureScene, sheet: Sheet) => void;
  /** Draws all at once, for a view that is not made of stitches. */
  readonly paintWhole?: (scene: FigureScene, sheet: Sheet) => void;
}
