import { countProgram, JUMP, type Program, readStitchFile, STITCH } from '@isola/core';
import { expose, transfer } from 'comlink';
import { FigurePicture } from '../bench/cloth/figurePicture.ts';
import { maskOfPart } from '../bench/cloth/maskOfPart.ts';
import { paintCloth } from '../bench/cloth/paintCloth.ts';
import { paintPiece } from '../bench/cloth/paintPiece.ts';
import type { PixelBox } from '../bench/cloth/raster.ts';
import type { Projection } from '../bench/cloth/sheet.ts';
import { planStrokes, type Strokes } from '../bench/cloth/strokes.ts';
import { changeBetween, type ClothBox, type NumberedProgram } from '../bench/cloth/threadChange.ts';
import { ThreadPicture } from '../bench/cloth/threadPicture.ts';
import { isFigureView } from '../bench/cloth/views/views.ts';
import type { ClothObjects, ClothProgramsApi, ClothWorkerApi, PictureRequest, ProgramChange } from './clothProtocol.ts';
import type { ShownCover } from './protocol.ts';

/** After this long a drawing looks whether it was overtaken, ms. */
const SLICE = 24;

interface Known {
  readonly program: Program;
  readonly extents: ClothBox;
  readonly change: ProgramChange | undefined;
  strokes: Strokes | undefined;
  cover: ShownCover | undefined;
  objects: ClothObjects | undefined;
  /** As the cloth will show it. */
  sewn: Program | undefined;
}

/** The pictures of one canvas of the page. */
interface Channel {
  readonly thread: ThreadPicture;
  readonly figures: FigurePicture;
  newest: number;
  /** The program that `thread` shows. */
  shown: NumberedProgram;
  /** Of which the page has the newest picture. */
  last: ThreadPicture | FigurePicture | undefined;
}

const programs = new Map<number, Known>();
const channels = new Map<string, Channel>();
/** Those who wait for a program that is coming, by its number. */
const waiting = new Map<number, (() => void)[]>();
/** Programs that were dropped before they were here. */
const unwanted = new Set<number>();
/** Counts what became known of programs later than their stitches: pictures from before are stale. */
let stamp = 0;

const cloth: ClothWorkerApi = {
  setProgram(number, program, change) {
    if (unwanted.delete(number)) return Promise.resolve();
    const more = { strokes: undefined, cover: undefined, objects: undefined, sewn: undefined };
    programs.set(number, { program, extents: extentsOf(program), change, ...more });
    endWaiting(number);
    return Promise.resolve();
  },
  async readProgram(number, file) {
    const read = readStitchFile(file);
    if (!read.ok) throw new Error(read.error.message);
    await cloth.setProgram(number, read.value.program);
    return countProgram(read.value.program).extents;
  },
  setCover(number, map) {
    learn(number, { cover: map });
    return Promise.resolve();
  },
  setObjects(number, objects) {
    learn(number, { objects });
    return Promise.resolve();
  },
  setSewn(number, x, y) {
    const program = programs.get(number)?.program;
    if (program !== undefined) learn(number, { sewn: { ...program, x, y } });
    return Promise.resolve();
  },
  dropProgram(number) {
    if (!programs.delete(number)) unwanted.add(number);
    endWaiting(number);
    return Promise.resolve();
  },
  serve(port) {
    expose({ setProgram: (...program) => cloth.setProgram(...program) } satisfies ClothProgramsApi, port);
    return Promise.resolve();
  },
  async paint(name, asked, { holdsLast, isComing }) {
    let channel = channels.get(name);
    if (channel === undefined) {
      channel = {
        thread: new ThreadPicture(),
        figures: new FigurePicture(),
        newest: 0,
        shown: { number: 0, change: undefined },
        last: undefined,
      };
      channels.set(name, channel);
    }
    const ticket = ++channel.newest;
    // Requests that wait behind this one are let in first: a drag sends many, and only its last is wanted.
    if (isComing) await arrival(asked.program);
    await breathe();
    const known = programs.get(asked.program);
    if (known === undefined || channel.newest !== ticket) return undefined;
    const of = channel;
    const request = { ...asked, upTo: Math.min(asked.upTo, known.program.rowCount) };
    const isDone = await paintRequest(of, known, request, () => of.newest === ticket);
    if (!isDone) return undefined;
    const isThread = !isFigureView(request.kind);
    const { thread, figures } = channel;
    const { width, height } = pixelSize(request);
    const { left, top, right, bottom } = thread.changed;
    const isPart = holdsLast && isThread && of.last === thread && (right - left < width || bottom - top < height);
    of.last = isThread ? thread : figures;
    if (isPart) {
      if (right === left || bottom === top) return undefined;
      const image = partOf(thread.pixels, width, thread.changed);
      return transfer({ image, left, top, isPart }, [image.data.buffer]);
    }
    const image = await createImageBitmap(isThread ? new ImageData(thread.pixels, width, height) : figures.canvas);
    return transfer({ image, left: 0, top: 0, isPart }, [image]);
  },
};

/** Waits until a program is here, or is dropped. */
function arrival(number: number): Promise<void> {
  if (programs.has(number) || unwanted.has(number)) return Promise.resolve();
  return new Promise((resolve) => {
    waiting.set(number, [...(waiting.get(number) ?? []), resolve]);
  });
}

function endWaiting(number: number): void {
  waiting.get(number)?.forEach((resolve) => resolve());
  waiting.delete(number);
}

/** The pixels of a box of a picture. */
function partOf(pixels: Uint8ClampedArray, width: number, { left, top, right, bottom }: PixelBox): ImageData {
  const part = new ImageData(right - left, bottom - top);
  for (let y = top; y < bottom; y++)
    part.data.set(pixels.subarray((y * width + left) * 4, (y * width + right) * 4), (y - top) * (right - left) * 4);
  return part;
}

function learn(number: number, what: Partial<Known>): void {
  const known = programs.get(number);
  if (known === undefined) return;
  Object.assign(known, what);
  stamp++;
}

async function paintRequest(channel: Channel, known: Known, request: PictureRequest, isWanted: () => boolean): Promise<boolean> {
  const { view, size, ratio, kind, part, upTo } = request;
  const { width, height } = pixelSize(request);
  const projection: Projection = {
    scale: view.scale * ratio,
    originX: (size.width / 2 - view.x * view.scale) * ratio,
    originY: (size.height / 2 + view.y * view.scale) * ratio,
  };
  let started = performance.now();
  const pause = async (): Promise<boolean> => {
    if (performance.now() - started < SLICE) return true;
    await breathe();
    started = performance.now();
    return isWanted();
  };
  const isPlain = kind === 'thread' && part === 'all';
  // Of plain thread nothing but stitches can have become known.
  const key = JSON.stringify({ ...request, upTo: 0, program: 0, stamp: isPlain ? 0 : stamp });
  const strokes = (known.strokes ??= planStrokes(known.program));
  if (isFigureView(kind)) {
    const { program, cover, objects } = known;
    const scene = { request: { ...request, kind }, program, strokes, projection, cover, objects, key };
    return channel.figures.draw(scene, pause);
  }
  const program = kind === 'sewn' ? (known.sewn ?? known.program) : known.program;
  const mask = maskOfPart(program.rowCount, known.objects, part);
  const { extents } = known;
  const next: NumberedProgram = { number: request.program, change: known.change };
  const changed = isPlain ? changeBetween(channel.shown, next) : undefined;
  const scene = { program, strokes, extents, projection, width, height, thickness: request.thickness, mask, upTo, key };
  const isDone = await channel.thread.draw({ ...scene, cloth: () => bareCloth(request, width, height) }, changed, pause);
  if (isDone) channel.shown = next;
  return isDone;
}

function pixelSize({ size, ratio }: PictureRequest): { width: number; height: number } {
  return { width: Math.max(1, Math.round(size.width * ratio)), height: Math.max(1, Math.round(size.height * ratio)) };
}

const bare = new OffscreenCanvas(1, 1);

/** The cloth without a stitch, pixel by pixel. */
function bareCloth({ view, size, ratio, look, clothColor, pieces }: PictureRequest, width: number, height: number): Int32Array {
  [bare.width, bare.height] = [width, height];
  const ctx = bare.getContext('2d', { willReadFrequently: true })!;
  paintCloth(ctx, view, size, ratio, look, clothColor);
  for (const piece of pieces) paintPiece(ctx, view, size, ratio, piece);
  return new Int32Array(ctx.getImageData(0, 0, width, height).data.buffer);
}

/** The box around all places that thread can lie between; a point where there is none. */
function extentsOf({ x, y, command, rowCount }: Program): ClothBox {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < rowCount; i++) {
    if (command[i] !== STITCH && command[i] !== JUMP) continue;
    if (x[i]! < minX) minX = x[i]!;
    if (x[i]! > maxX) maxX = x[i]!;
    if (y[i]! < minY) minY = y[i]!;
    if (y[i]! > maxY) maxY = y[i]!;
  }
  return minX > maxX ? [0, 0, 0, 0] : [minX, minY, maxX, maxY];
}

/** Lets messages in that wait. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(0);
  });
}

expose(cloth);
