import type { FigureScene } from '../figurePicture.ts';
import type { Sheet } from '../sheet.ts';

/** How a view other than thread is drawn on the bare cloth. It has what its view needs ({@link VIEWS}) as far as that is known yet. */
export interface FigurePainter {
  /** Draws batches `from` ≤ batch < `to` of stitches; a replay adds batches to what is there. */
  readonly paintBatches?: (scene: FigureScene, sheet: Sheet, from: number, to: number) => void;
  /** Draws what lies over all batches, once they are there. */
  readonly paintAfter?: (scene: FigureScene, sheet: Sheet) => void;
  /** Draws all at once, for a view that is not made of stitches. */
  readonly paintWhole?: (scene: FigureScene, sheet: Sheet) => void;
}
