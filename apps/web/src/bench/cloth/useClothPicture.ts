import { threadThickness } from '@isola/core';
import { onBeforeUnmount, type Ref, watch } from 'vue';
import type { ShownDesign } from '../../stores/trials.ts';
import type { Picture, PictureRequest, ShownPart, ShownPiece } from '../../workers/clothProtocol.ts';
import { type ClothViewKind, isFigureView } from './views/views.ts';
import { clothWorker } from '../../workers/startWorkers.ts';
import type { Size, Viewport } from './viewport.ts';

export interface PictureInput {
  readonly shown: ShownDesign | undefined;
  /** The number of a program on its way that is to be shown instead, as soon as it is there. */
  readonly coming: number | undefined;
  readonly view: Viewport;
  readonly size: Size;
  readonly kind: ClothViewKind;
  readonly part: ShownPart;
  readonly upTo: number;
  /** Changes when the picture has to be drawn anew though nothing else did. */
  readonly stamp: number;
  /** Pieces of cloth that are laid by then. */
  readonly pieces?: readonly ShownPiece[];
}

/** The picture is drawn this much larger than the window on each side, so that a short pan shows no bare edge. */
const MARGIN = 0.2;
/** Of more rows than this the strokes are shown first: their thread takes long enough to be waited for. */
const MANY_ROWS = 150_000;
/** A picture of a moved or zoomed view is asked for when it has been still for this long, ms. */
const STILL = 70;

/**
 * Keeps a canvas showing the cloth. The picture comes from the drawing worker; until it is there, the last one is moved and scaled to where
 * it belongs, which costs a few milliseconds whatever it shows. `onPainted` hears of which program each
 * picture is that arrives.
 */
export function useClothPicture(
  canvas: Ref<HTMLCanvasElement | null>,
  channel: string,
  input: () => PictureInput,
  onPainted: (program: number) => void,
): void {
  let picture: { canvas: OffscreenCanvas; view: Viewport; size: Size } | undefined;
  /** What `picture` was asked for with. */
  let answered = '';
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** What was asked for last and is not there yet. */
  let asked: { readonly wanted: string; readonly coming: number | undefined } | undefined;
  let isStale = false;
  let frame = 0;

  watch([() => input().view, () => input().size], () => {
    scheduleBlit();
    clearTimeout(timer);
    timer = setTimeout(() => void ask(false), picture === undefined ? 0 : STILL);
  });
  watch(
    [
      () => input().coming ?? input().shown?.number,
      () => input().kind,
      () => input().part,
      () => input().upTo,
      () => input().stamp,
      () => input().pieces,
      () => input().shown?.view.target,
    ],
    () => void ask(),
    { immediate: true },
  );
  onBeforeUnmount(() => {
    clearTimeout(timer);
    cancelAnimationFrame(frame);
    picture = undefined;
    isStale = false;
  });

  /**
   * One request at a time: while one runs, a newer wish is noted and asked for when it is back. Only a program that is still on its way can take
   * long: where the view moves meanwhile, `isForComing` is false and what is there already is asked for in that view.
   */
  async function ask(isForComing = true): Promise<void> {
    const { shown, view, size, kind, part, upTo, stamp, pieces = [], ...later } = input();
    if (shown === undefined || size.width === 0) return;
    const coming = isForComing ? later.coming : undefined;
    const { fabric, clothColor, thread } = shown.view.target;
    // By whole pixels, so that the picture of a view that rests is shown pixel by pixel.
    const large = { width: size.width + 2 * Math.round(size.width * MARGIN), height: size.height + 2 * Math.round(size.height * MARGIN) };
    let request: PictureRequest = {
      program: coming ?? shown.number,
      view: { x: view.x, y: view.y, scale: view.scale },
      size: large,
      ratio: window.devicePixelRatio,
      kind,
      part: typeof part === 'string' ? part : [...part],
      upTo,
      look: fabric.look,
      clothColor,
      pieces: [...pieces],
      thickness: threadThickness(thread),
      maxCover: fabric.maxCover,
    };
    const isPreview = picture === undefined && !isFigureView(kind) && shown.view.program.rowCount > MANY_ROWS;
    if (isPreview) request = { ...request, kind: 'paths' };
    const wanted = JSON.stringify([request, stamp]);
    if (wanted === answered || wanted === asked?.wanted) return;
    const isHeldUp = asked?.coming !== undefined && asked.coming === later.coming;
    if (asked !== undefined) isStale = true;
    if (asked !== undefined && !isHeldUp) return;
    const mine = { wanted, coming };
    asked = mine;
    const start = performance.now();
    try {
      const painted = await clothWorker().paint(channel, request, { holdsLast: picture !== undefined, isComing: coming !== undefined });
      if (painted !== undefined) {
        take(painted, view, large);
        answered = wanted;
        blit();
        performance.measure('isola picture', { start });
        if (isPreview) isStale = true;
        else onPainted(request.program);
      }
    } finally {
      if (asked === mine) asked = undefined;
    }
    if (isStale && asked === undefined) {
      isStale = false;
      void ask();
    }
  }

  /** Takes over a picture, or puts a part of one into the picture that is there. */
  function take({ image, left, top, isPart }: Picture, view: Viewport, size: Size): void {
    let canvas = picture?.canvas;
    if (canvas === undefined || (!isPart && (canvas.width !== image.width || canvas.height !== image.height)))
      canvas = new OffscreenCanvas(image.width, image.height);
    const ctx = canvas.getContext('2d')!;
    if (image instanceof ImageData) ctx.putImageData(image, left, top);
    else {
      ctx.drawImage(image, left, top);
      image.close();
    }
    picture = { canvas, view, size };
  }

  function scheduleBlit(): void {
    cancelAnimationFrame(frame);
    frame = requestAnimationFrame(blit);
  }

  function blit(): void {
    const element = canvas.value;
    if (element === null) return;
    const { view, size, shown } = input();
    const ratio = window.devicePixelRatio;
    const width = Math.round(size.width * ratio);
    const height = Math.round(size.height * ratio);
    if (element.width !== width || element.height !== height) {
      element.width = width;
      element.height = height;
    }
    const ctx = element.getContext('2d')!;
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.fillStyle = shown?.view.target.clothColor ?? '#e2ddd1';
    ctx.fillRect(0, 0, width, height);
    if (picture === undefined) return;
    const k = view.scale / picture.view.scale;
    const left = size.width / 2 + (picture.view.x - view.x) * view.scale - (picture.size.width / 2) * k;
    const top = size.height / 2 - (picture.view.y - view.y) * view.scale - (picture.size.height / 2) * k;
    ctx.drawImage(picture.canvas, left * ratio, top * ratio, picture.size.width * k * ratio, picture.size.height * k * ratio);
  }
}
