import { type Extents, type Target, threadThickness } from '@isola/core';
import type { PictureRequest } from '../workers/clothProtocol.ts';
import { clothWorker } from '../workers/startWorkers.ts';
import { fitViewport, type Size } from './cloth/viewport.ts';

/**
 * Paints all of a program that the drawing worker knows by a number on a small canvas, on its cloth, and forgets it. Gives whether there is a picture: one that
 * was overtaken on its channel has none.
 */
export async function paintSmall(
  canvas: () => HTMLCanvasElement | null,
  channel: string,
  { program, extents, target, size }: { program: number; extents: Extents; target: Target; size: Size },
): Promise<boolean> {
  const request: PictureRequest = {
    program,
    view: fitViewport(extents, size, 0.06),
    size,
    ratio: window.devicePixelRatio,
    kind: 'thread',
    part: 'all',
    upTo: Infinity,
    look: target.fabric.look,
    pieces: [],
    clothColor: target.clothColor,
    thickness: threadThickness(target.thread),
    maxCover: target.fabric.maxCover,
  };
  const painted = await clothWorker().paint(channel, structuredClone(request), { holdsLast: false, isComing: false });
  const element = canvas();
  if (painted === undefined || element === null || painted.image instanceof ImageData) return false;
  const bitmap = painted.image;
  element.width = bitmap.width;
  element.height = bitmap.height;
  element.getContext('2d')!.drawImage(bitmap, 0, 0);
  bitmap.close();
  return true;
}
