import type { Program } from '@isola/core';
import type { PictureRequest } from '../../workers/clothProtocol.ts';
import { maskOfPart } from './maskOfPart.ts';
import { paintCloth } from './paintCloth.ts';
import type { Sheet } from './sheet.ts';
import type { Strokes } from './strokes.ts';
import type { FigureScene } from './views/figurePainter.ts';
import { PAINTERS } from './views/painters.ts';

/** Batches drawn between two looks at the clock. */
const STRIDE = 24;

/** A picture of what was measured on the stitches, drawn by a canvas. A replay adds to it instead of starting over. */
export class FigurePicture {
  canvas = new OffscreenCanvas(1, 1);
  private key = '';
  private batches = 0;
  private upTo = 0;
  private shown: Program | undefined;

  /** Brings the picture to a scene. `pause` is asked now and then whether to go on; false where it said no. */
  async draw(scene: FigureScene, pause: () => Promise<boolean>): Promise<boolean> {
    const { request, program, strokes, projection, objects, key } = scene;
    const { view, size, ratio, kind, upTo } = request;
    const isSame = this.key === key && this.shown === program;
    if (isSame && this.upTo === upTo) return true;
    const { paintBatches, paintAfter, paintWhole } = PAINTERS[kind];
    const isGrowing = isSame && upTo > this.upTo && paintWhole === undefined;
    this.key = '';
    if (!isGrowing) {
      const width = Math.max(1, Math.round(size.width * ratio));
      const height = Math.max(1, Math.round(size.height * ratio));
      if (this.canvas.width !== width || this.canvas.height !== height) this.canvas = new OffscreenCanvas(width, height);
      this.batches = 0;
    }
    const ctx = this.canvas.getContext('2d')!;
    if (!isGrowing) paintCloth(ctx, view, size, ratio, request.look, request.clothColor);
    const mask = maskOfPart(program.rowCount, objects, request.part);
    const sheet: Sheet = { ctx, program, strokes, projection, upTo, box: visibleBox(request), ...(mask === undefined ? {} : { mask }) };
    paintWhole?.(scene, sheet);
    if (paintBatches !== undefined) {
      const last = batchesUpTo(strokes, upTo);
      // The batch where the last drawing stopped may have been drawn in part only.
      for (let k = isGrowing ? Math.max(0, this.batches - 1) : 0; k < last; k += STRIDE) {
        paintBatches(scene, sheet, k, Math.min(last, k + STRIDE));
        if (!(await pause())) return false;
      }
      this.batches = last;
    }
    paintAfter?.(scene, sheet);
    Object.assign(this, { key, upTo, shown: program });
    return true;
  }
}

/** How many batches have a row before `upTo`. */
function batchesUpTo(strokes: Strokes, upTo: number): number {
  let low = 0;
  let high = strokes.starts.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (strokes.rows[strokes.starts[middle]!]! < upTo) low = middle + 1;
    else high = middle;
  }
  return low;
}

function visibleBox({ view, size }: PictureRequest): Sheet['box'] {
  const halfWidth = size.width / 2 / view.scale + 1;
  const halfHeight = size.height / 2 / view.scale + 1;
  return [view.x - halfWidth, view.y - halfHeight, view.x + halfWidth, view.y + halfHeight];
}
