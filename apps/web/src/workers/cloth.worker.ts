import type { CoverMap, Program } from '@isola/core';
import { expose, transfer } from 'comlink';
import { luminance } from '../bench/cloth/colors.ts';
import { paintCloth } from '../bench/cloth/paintCloth.ts';
import { paintConnectors, paintCover, paintPaths, paintPenetrations } from '../bench/cloth/paintFigures.ts';
import { paintShadow, paintThread } from '../bench/cloth/paintThread.ts';
import type { Projection, Sheet } from '../bench/cloth/sheet.ts';
import { planStrokes, type Strokes } from '../bench/cloth/strokes.ts';
import { maskOfPart } from '../bench/cloth/maskOfPart.ts';
import { paintDirections, paintLayers } from '../bench/cloth/paintObjects.ts';
import type { ClothApi, ClothObjects, PictureRequest } from './clothProtocol.ts';

/** A thread thinner than this many pixels throws no shadow that can be seen. */
const SHADOW_SEEN = 0.6;
/** After this long a drawing looks whether it was overtaken, ms. */
const SLICE = 24;

interface Known {
  readonly program: Program;
  readonly strokes: Strokes;
  cover: CoverMap | undefined;
  objects: ClothObjects | undefined;
  /** As the cloth will show it. */
  sewn: Program | undefined;
}

/** A canvas that holds what was drawn of a request, so that a replay adds to it instead of starting over. */
interface Channel {
  canvas: OffscreenCanvas;
  /** The request it holds, without its row, and the batches and rows drawn. */
  key: string;
  batches: number;
  upTo: number;
  newest: number;
}

const programs = new Map<number, Known>();
const channels = new Map<string, Channel>();

const cloth: ClothApi = {
  setProgram(number, program) {
    programs.set(number, { program, strokes: planStrokes(program), cover: undefined, objects: undefined, sewn: undefined });
    return Promise.resolve();
  },
  setCover(number, map) {
    const known = programs.get(number);
    if (known !== undefined) known.cover = map;
    for (const channel of channels.values()) channel.key = '';
    return Promise.resolve();
  },
  setObjects(number, objects) {
    const known = programs.get(number);
    if (known !== undefined) known.objects = objects;
    for (const channel of channels.values()) channel.key = '';
    return Promise.resolve();
  },
  setSewn(number, x, y) {
    const known = programs.get(number);
    if (known !== undefined) known.sewn = { ...known.program, x, y };
    for (const channel of channels.values()) channel.key = '';
    return Promise.resolve();
  },
  dropProgram(number) {
    programs.delete(number);
    return Promise.resolve();
  },
  async paint(name, request) {
    let channel = channels.get(name);
    if (channel === undefined) {
      channel = { canvas: new OffscreenCanvas(1, 1), key: '', batches: 0, upTo: 0, newest: 0 };
      channels.set(name, channel);
    }
    const ticket = ++channel.newest;
    // Requests that wait behind this one are let in first: a drag sends many, and only its last is wanted.
    await breathe();
    const known = programs.get(request.program);
    if (known === undefined || channel.newest !== ticket) return undefined;
    const isDone = await paintRequest(channel, known, request, () => channel.newest === ticket);
    if (!isDone) return undefined;
    const bitmap = await createImageBitmap(channel.canvas);
    return transfer(bitmap, [bitmap]);
  },
};

async function paintRequest(channel: Channel, known: Known, request: PictureRequest, isWanted: () => boolean): Promise<boolean> {
  const { strokes } = known;
  const { view, size, ratio, kind, part, upTo } = request;
  const isThread = kind === 'thread' || kind === 'sewn';
  const program = kind === 'sewn' ? (known.sewn ?? known.program) : known.program;
  const key = JSON.stringify({ ...request, upTo: 0 });
  const width = Math.max(1, Math.round(size.width * ratio));
  const height = Math.max(1, Math.round(size.height * ratio));
  const projection: Projection = {
    scale: view.scale * ratio,
    originX: (size.width / 2 - view.x * view.scale) * ratio,
    originY: (size.height / 2 + view.y * view.scale) * ratio,
  };
  const batchCount = strokes.starts.length - 1;
  const isGrowing = channel.key === key && upTo >= channel.upTo && kind !== 'cover' && channel.upTo < program.rowCount;
  if (!isGrowing) {
    if (channel.canvas.width !== width || channel.canvas.height !== height) channel.canvas = new OffscreenCanvas(width, height);
    channel.key = '';
    channel.batches = 0;
  }
  const ctx = channel.canvas.getContext('2d')!;
  if (!isGrowing) paintCloth(ctx, view, size, ratio, request.look, request.clothColor);
  const mask = maskOfPart(program.rowCount, known.objects, part);
  const sheet: Sheet = { ctx, program, strokes, projection, upTo, box: visibleBox(request), ...(mask === undefined ? {} : { mask }) };
  const isWhole = upTo >= program.rowCount;

  let started = performance.now();
  const pause = async (): Promise<boolean> => {
    if (performance.now() - started < SLICE) return true;
    await breathe();
    started = performance.now();
    return isWanted();
  };

  if (kind === 'cover') {
    if (known.cover !== undefined) paintCover(ctx, known.cover, request.maxCover, projection, ratio);
  } else {
    const last = batchesUpTo(strokes, upTo);
    const step = 24;
    if (isThread && isWhole && !isGrowing && request.thickness * projection.scale > SHADOW_SEEN) {
      for (let k = 0; k < batchCount; k += step * 4) {
        paintShadow(sheet, request.thickness, k, Math.min(batchCount, k + step * 4));
        if (!(await pause())) return false;
      }
    }
    // The batch where the last drawing stopped may have been drawn in part only.
    for (let k = isGrowing ? Math.max(0, channel.batches - 1) : 0; k < last; k += step) {
      const to = Math.min(last, k + step);
      if (isThread) paintThread(sheet, request.thickness, k, to);
      else if (kind === 'penetrations') paintPenetrations(sheet, k, to);
      else if (kind === 'directions') paintDirections(sheet, k, to);
      else if (kind === 'layers') paintLayers(sheet, known.objects, k, to);
      else paintPaths(sheet, k, to);
      if (!(await pause())) {
        channel.key = '';
        return false;
      }
    }
    if (kind === 'paths') paintConnectors(sheet, ratio, luminance(request.clothColor) > 0.25 ? '#14262b' : '#fffdf8');
    channel.batches = last;
  }
  channel.key = key;
  channel.upTo = upTo;
  return true;
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

function visibleBox({ view, size }: PictureRequest): readonly [number, number, number, number] {
  const halfWidth = size.width / 2 / view.scale + 1;
  const halfHeight = size.height / 2 / view.scale + 1;
  return [view.x - halfWidth, view.y - halfHeight, view.x + halfWidth, view.y + halfHeight];
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
