import { type Program, UNNAMED_THREAD } from '@isola/core';
import { shade } from './colors.ts';
import { type Strokes, SHADES } from './strokes.ts';

type Context = OffscreenCanvasRenderingContext2D;

/** Drawn a little fuller than the thread is thick: fibers bulge where they are not pressed. */
const FULLNESS = 1.3;
/** How much lighter or darker thread looks by the way it runs. */
const SHEEN = 0.24;
/** Thinner than this many pixels, a thread has no edge and no light of its own. */
const HAS_EDGE = 1.5;
const HAS_LIGHT = 3.2;

/** Millimetre to pixel: the transform of the canvas is the identity while strokes are drawn, so that their width is in pixels. */
export interface Projection {
  readonly scale: number;
  readonly originX: number;
  readonly originY: number;
}

/** Paints batches `from` ≤ k < `to` as thread; rows from `upTo` on are left out. Batches outside `box` (mm) are passed over. */
export function paintThread(
  ctx: Context,
  program: Program,
  strokes: Strokes,
  projection: Projection,
  thickness: number,
  from: number,
  to: number,
  upTo: number,
  box: readonly [number, number, number, number],
): void {
  const width = Math.max(0.7, thickness * FULLNESS * projection.scale);
  // On thin thread a full dark edge would draw seams where one batch lies on the next.
  const darkness = Math.round(Math.min(1, Math.max(0.25, (width - HAS_EDGE) / 3)) * 8) / 8;
  ctx.lineCap = 'round';
  ctx.lineJoin = 'round';
  for (let k = from; k < to; k++) {
    if (!isInBox(strokes, k, box)) continue;
    const thread = program.threads[strokes.threads[k]!] ?? UNNAMED_THREAD;
    const base = shadeOf(thread.color, strokes.shades[k]!, darkness);
    if (width >= HAS_EDGE) {
      ctx.strokeStyle = base.edge;
      ctx.lineWidth = width;
      strokeBatch(ctx, program, strokes, k, upTo, projection);
      ctx.strokeStyle = base.body;
      ctx.lineWidth = width * 0.66;
      strokeBatch(ctx, program, strokes, k, upTo, projection);
      if (width >= HAS_LIGHT) {
        ctx.strokeStyle = base.light;
        ctx.lineWidth = width * 0.24;
        strokeLights(ctx, program, strokes, k, upTo, projection);
      }
    } else {
      ctx.strokeStyle = base.body;
      ctx.lineWidth = width;
      strokeBatch(ctx, program, strokes, k, upTo, projection);
    }
  }
}

/** Paints the shadow that the design throws on the cloth: one soft stroke under everything. */
export function paintShadow(
  ctx: Context,
  program: Program,
  strokes: Strokes,
  projection: Projection,
  thickness: number,
  from: number,
  to: number,
  upTo: number,
  box: readonly [number, number, number, number],
): void {
  const drop = 0.14 * projection.scale;
  ctx.strokeStyle = 'rgba(0, 0, 0, 0.3)';
  ctx.lineWidth = Math.max(1, thickness * 2.4 * projection.scale);
  ctx.lineCap = 'round';
  ctx.lineJoin = 'round';
  const shifted = { ...projection, originX: projection.originX + drop, originY: projection.originY + drop * 1.4 };
  ctx.beginPath();
  for (let k = from; k < to; k++) if (isInBox(strokes, k, box)) traceBatch(ctx, program, strokes, k, upTo, shifted);
  ctx.stroke();
}

/** Traces a batch's stitches into the current path, without a break where one goes on from the other. */
export function traceBatch(
  ctx: Context,
  program: Program,
  strokes: Strokes,
  k: number,
  upTo: number,
  { scale, originX, originY }: Projection,
): void {
  const { x, y } = program;
  let last = -2;
  for (let n = strokes.starts[k]!; n < strokes.starts[k + 1]!; n++) {
    const row = strokes.rows[n]!;
    if (row >= upTo) return;
    if (last !== row - 1) ctx.moveTo(originX + x[row - 1]! * scale, originY - y[row - 1]! * scale);
    ctx.lineTo(originX + x[row]! * scale, originY - y[row]! * scale);
    last = row;
  }
}

export function isInBox(strokes: Strokes, k: number, box: readonly [number, number, number, number]): boolean {
  const { boxes } = strokes;
  const b = k * 4;
  return boxes[b]! <= box[2] && boxes[b + 2]! >= box[0] && boxes[b + 1]! <= box[3] && boxes[b + 3]! >= box[1];
}

function strokeBatch(ctx: Context, program: Program, strokes: Strokes, k: number, upTo: number, projection: Projection): void {
  ctx.beginPath();
  traceBatch(ctx, program, strokes, k, upTo, projection);
  ctx.stroke();
}

/** The light that lies on each stitch for itself, on its upper half: it is what makes a satin look like satin. */
function strokeLights(
  ctx: Context,
  program: Program,
  strokes: Strokes,
  k: number,
  upTo: number,
  { scale, originX, originY }: Projection,
): void {
  const { x, y } = program;
  ctx.beginPath();
  for (let n = strokes.starts[k]!; n < strokes.starts[k + 1]!; n++) {
    const row = strokes.rows[n]!;
    if (row >= upTo) break;
    const ax = originX + x[row - 1]! * scale;
    const ay = originY - y[row - 1]! * scale;
    const bx = originX + x[row]! * scale;
    const by = originY - y[row]! * scale;
    const [from, to] = by < ay ? [0.5, 0.86] : [0.14, 0.5];
    ctx.moveTo(ax + (bx - ax) * from, ay + (by - ay) * from);
    ctx.lineTo(ax + (bx - ax) * to, ay + (by - ay) * to);
  }
  ctx.stroke();
}

const shades = new Map<string, { edge: string; body: string; light: string }>();

function shadeOf(color: string, level: number, darkness: number): { edge: string; body: string; light: string } {
  const key = `${color}${level} ${darkness}`;
  let known = shades.get(key);
  if (known === undefined) {
    const lit = (level / (SHADES - 1) - 0.55) * SHEEN;
    const body = shade(color, lit);
    known = { edge: shade(body, -0.34 * darkness), body, light: shade(body, 0.34) };
    shades.set(key, known);
  }
  return known;
}
