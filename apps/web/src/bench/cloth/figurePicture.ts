import type { Program } from '@isola/core';
import type { ShownCover } from '../../workers/protocol.ts';
import type { ClothObjects, PictureRequest } from '../../workers/clothProtocol.ts';
import { luminance } from './colors.ts';
import { maskOfPart } from './maskOfPart.ts';
import { paintCloth } from './paintCloth.ts';
import { paintConnectors, paintCover, paintPaths, paintPenetrations } from './paintFigures.ts';
import { paintDirections, paintLayers } from './paintObjects.ts';
import type { Projection, Sheet } from './sheet.ts';
import type { Strokes } from './strokes.ts';

/** What a picture of figures is drawn from. */
export interface FigureScene {
  readonly request: PictureRequest;
  readonly program: Program;
  readonly strokes: Strokes;
  readonly projection: Projection;
  readonly cover: ShownCover | undefined;
  readonly objects: ClothObjects | undefined;
  /** The same for as long as everything but the program and the rows sewn is the same. */
  readonly key: string;
}

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
    const { request, program, strokes, projection, cover, objects, key } = scene;
    const { view, size, ratio, kind, upTo } = request;
    const isSame = this.key === key && this.shown === program;
    if (isSame && this.upTo === upTo) return true;
    const isGrowing = isSame && upTo > this.upTo && kind !== 'cover';
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
    if (kind === 'cover') {
      if (cover !== undefined) paintCover(ctx, cover, request.maxCover, projection, ratio);
    } else {
      const last = batchesUpTo(strokes, upTo);
      // The batch where the last drawing stopped may have been drawn in part only.
      for (let k = isGrowing ? Math.max(0, this.batches - 1) : 0; k < last; k += STRIDE) {
        const to = Math.min(last, k + STRIDE);
        if (kind === 'penetrations') paintPenetrations(sheet, k, to);
        else if (kind === 'directions') paintDirections(sheet, k, to);
        else if (kind === 'layers') paintLayers(sheet, objects, k, to);
        else paintPaths(sheet, k, to);
        if (!(await pause())) return false;
      }
      if (kind === 'paths') paintConnectors(sheet, ratio, luminance(request.clothColor) > 0.25 ? '#14262b' : '#fffdf8');
      this.batches = last;
    }
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
