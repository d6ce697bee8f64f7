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
import type { ClothApi, ClothObjects, PictureRequest, ProgramChange } from './clothProtocol.ts';

/** A thread thinner than this many pixels throws no shadow that can be seen. */
const SHADOW_SEEN = 0.6;
/** So many batches throw one shadow. */
const SHADOW_STEP = 96;
/** After this long a drawing looks whether it was overtaken, ms. */
const SLICE = 24;

interface Known {
  readonly program: Program;
  readonly strokes: Strokes;
  cover: CoverMap | undefined;
  objects: ClothObjects | undefined;
  /** As the cloth will show it. */
  sewn: Program | undefined;
  readonly change: ProgramChange | undefined;
}

/** A canvas that holds what was drawn of a request, so that a replay adds to it instead of starting over. */
interface Channel {
  canvas: OffscreenCanvas;
  /** The request it holds, without its row, and the batches and rows drawn. */
  key: string;
  batches: number;
  upTo: number;
  newest: number;
  /** The program it shows, and how that differs from the one it was made from. */
  program: number;
  rows: number;
  change: ProgramChange | undefined;
}

const programs = new Map<number, Known>();
const channels = new Map<string, Channel>();

const cloth: ClothApi = {
  setProgram(number, program, change) {
    programs.set(number, { program, strokes: planStrokes(program), cover: undefined, objects: undefined, sewn: undefined, change });
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
      channel = { canvas: new OffscreenCanvas(1, 1), key: '', batches: 0, upTo: 0, newest: 0, program: 0, rows: 0, change: undefined };
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
  const key = JSON.stringify({ ...request, upTo: 0, program: 0 });
  const width = Math.max(1, Math.round(size.width * ratio));
  const height = Math.max(1, Math.round(size.height * ratio));
  const projection: Projection = {
    scale: view.scale * ratio,
    originX: (size.width / 2 - view.x * view.scale) * ratio,
    originY: (size.height / 2 + view.y * view.scale) * ratio,
  };
  const batchCount = strokes.starts.length - 1;
  if (channel.key === key && channel.program === request.program && channel.upTo === upTo) return true;
  const changed = channel.key === key && kind === 'thread' && part === 'all' ? changeBetween(channel, request.program, known) : undefined;
  if (changed !== undefined && channel.upTo >= channel.rows && upTo >= program.rowCount) {
    const ctx = channel.canvas.getContext('2d')!;
    ctx.save();
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.beginPath();
    const [x0, y1] = [projection.originX + changed[0] * projection.scale, projection.originY - changed[1] * projection.scale];
    const [x1, y0] = [projection.originX + changed[2] * projection.scale, projection.originY - changed[3] * projection.scale];
    // Whole pixels, so that no seam shows where what is new meets what stays.
    ctx.rect(Math.floor(x0), Math.floor(y0), Math.ceil(x1) - Math.floor(x0), Math.ceil(y1) - Math.floor(y0));
    ctx.clip();
    paintCloth(ctx, view, size, ratio, request.look, request.clothColor);
    const patch: Sheet = { ctx, program, strokes, projection, upTo, box: changed };
    if (request.thickness * projection.scale > SHADOW_SEEN)
      for (let k = 0; k < batchCount; k += SHADOW_STEP) paintShadow(patch, request.thickness, k, Math.min(batchCount, k + SHADOW_STEP));
    paintThread(patch, request.thickness, 0, batchCount);
    ctx.restore();
    settle(channel, request, known, batchCount, key);
    return true;
  }
  const isSame = channel.program === request.program;
  const isGrowing = isSame && channel.key === key && upTo >= channel.upTo && kind !== 'cover' && channel.upTo < program.rowCount;
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
      for (let k = 0; k < batchCount; k += SHADOW_STEP) {
        paintShadow(sheet, request.thickness, k, Math.min(batchCount, k + SHADOW_STEP));
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
  settle(channel, request, known, channel.batches, key);
  return true;
}

/** Notes what a channel shows now. */
function settle(channel: Channel, { program, upTo }: PictureRequest, known: Known, batches: number, key: string): void {
  Object.assign(channel, { key, upTo, batches, program, rows: known.program.rowCount, change: known.change });
}

/** What is drawn reaches so far beyond the stitches that it is drawn of, mm: a thread's thickness and its shadow. */
const REACH = 1;

/** Where the picture of a channel has to change to show another program; not known where neither was made from the other or from the same. */
function changeBetween(shown: Channel, number: number, known: Known): Sheet['box'] | undefined {
  const boxes: ProgramChange['box'][] = [];
  const [a, b] = [shown.change, known.change];
  if (shown.program === number) return undefined;
  if (b?.from === shown.program) boxes.push(b.box);
  else if (a?.from === number) boxes.push(a.box);
  else if (a !== undefined && b !== undefined && a.from === b.from) boxes.push(a.box, b.box);
  if (boxes.length === 0) return undefined;
  return [
    Math.min(...boxes.map((box) => box[0])) - REACH,
    Math.min(...boxes.map((box) => box[1])) - REACH,
    Math.max(...boxes.map((box) => box[2])) + REACH,
    Math.max(...boxes.map((box) => box[3])) + REACH,
  ];
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
