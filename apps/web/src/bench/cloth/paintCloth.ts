import type { ClothLook } from '@isola/core';
import { luminance, shade } from './colors.ts';
import type { Size, Viewport } from './viewport.ts';

type Context = OffscreenCanvasRenderingContext2D;

/** Edge of the square of cloth (mm) that repeats, by look; each is a whole number of its threads or loops. */
const REPEAT: Readonly<Record<ClothLook, number>> = {
  plain: 3.2,
  twill: 3.6,
  canvas: 4.8,
  pique: 5.6,
  knit: 5.4,
  rib: 6.4,
  brushed: 14,
  loops: 14,
  smooth: 12,
  felt: 14,
  leather: 16,
  sheer: 3.2,
};
/** Below this many pixels to a millimetre the texture is finer than the screen. */
const TOO_FINE = 1.6;

/** Paints the cloth over the whole canvas, its texture fixed to the design so that it moves with it. */
export function paintCloth(ctx: Context, view: Viewport, size: Size, ratio: number, look: ClothLook, color: string): void {
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.fillStyle = color;
  ctx.fillRect(0, 0, ctx.canvas.width, ctx.canvas.height);
  if (view.scale < TOO_FINE) return;
  const repeat = REPEAT[look];
  const edge = Math.max(8, Math.min(1024, Math.round(repeat * view.scale * ratio)));
  const tile = paintTile(look, color, edge);
  const pattern = ctx.createPattern(tile, 'repeat');
  if (pattern === null) return;
  // The tile is a whole number of pixels; stretch it to its true size, and hang it at the origin of the design.
  const stretch = (repeat * view.scale * ratio) / edge;
  const originX = (size.width / 2 - view.x * view.scale) * ratio;
  const originY = (size.height / 2 + view.y * view.scale) * ratio;
  pattern.setTransform(new DOMMatrix([stretch, 0, 0, stretch, originX, originY]));
  ctx.fillStyle = pattern;
  ctx.fillRect(0, 0, ctx.canvas.width, ctx.canvas.height);
}

const tiles = new Map<string, OffscreenCanvas>();
const TILES_KEPT = 8;

function paintTile(look: ClothLook, color: string, edge: number): OffscreenCanvas {
  const key = `${look} ${color} ${edge}`;
  const known = tiles.get(key);
  if (known !== undefined) return known;
  const canvas = new OffscreenCanvas(edge, edge);
  const ctx = canvas.getContext('2d')!;
  const isDark = luminance(color) < 0.2;
  const light = shade(color, isDark ? 0.13 : 0.3);
  const dark = shade(color, isDark ? -0.34 : -0.16);
  ctx.fillStyle = color;
  ctx.fillRect(0, 0, edge, edge);
  const mm = edge / REPEAT[look];
  switch (look) {
    case 'plain':
    case 'sheer':
      weave(ctx, edge, 0.4 * mm, light, dark, look === 'sheer' ? 0.3 : 0.55);
      break;
    case 'canvas':
      weave(ctx, edge, 0.8 * mm, light, dark, 0.8);
      break;
    case 'twill':
      twill(ctx, edge, 0.6 * mm, light, dark);
      break;
    case 'pique':
      bumps(ctx, edge, 0.7 * mm, light, dark);
      break;
    case 'knit':
      loopsOfKnit(ctx, edge, 0.9 * mm, light, dark, 1);
      break;
    case 'rib':
      loopsOfKnit(ctx, edge, 0.8 * mm, light, dark, 4);
      break;
    case 'brushed':
      fibers(ctx, edge, light, dark, 900, 1.5 * mm, 0.22 * mm);
      break;
    case 'felt':
      fibers(ctx, edge, light, dark, 1300, 1.1 * mm, 0.13 * mm);
      break;
    case 'loops':
      terryLoops(ctx, edge, mm, light, dark);
      break;
    case 'leather':
      grain(ctx, edge, mm, light, dark);
      break;
    case 'smooth':
      fibers(ctx, edge, light, dark, 260, 0.9 * mm, 0.1 * mm, 0.25);
      break;
  }
  tiles.set(key, canvas);
  if (tiles.size > TILES_KEPT) tiles.delete(tiles.keys().next().value!);
  return canvas;
}

/** Over and under by turns. */
function weave(ctx: Context, edge: number, pitch: number, light: string, dark: string, strength: number): void {
  const count = Math.round(edge / pitch);
  const step = edge / count;
  ctx.globalAlpha = strength;
  for (let row = 0; row < count; row++) {
    for (let column = 0; column < count; column++) {
      const isOver = (row + column) % 2 === 0;
      ctx.fillStyle = isOver ? light : dark;
      const inset = step * 0.12;
      ctx.globalAlpha = strength * (isOver ? 0.5 : 0.4);
      if (isOver) ctx.fillRect(column * step, row * step + inset, step, step - 2 * inset);
      else ctx.fillRect(column * step + inset, row * step, step - 2 * inset, step);
    }
  }
  ctx.globalAlpha = 1;
}

function twill(ctx: Context, edge: number, pitch: number, light: string, dark: string): void {
  const count = Math.round(edge / pitch);
  const step = edge / count;
  ctx.lineWidth = step * 0.34;
  for (const [color, shift, alpha] of [
    [dark, 0, 0.55],
    [light, step * 0.42, 0.5],
  ] as const) {
    ctx.strokeStyle = color;
    ctx.globalAlpha = alpha;
    ctx.beginPath();
    for (let k = -count; k <= count * 2; k++) {
      ctx.moveTo(k * step + shift - edge, edge * 2);
      ctx.lineTo(k * step + shift + edge * 2, -edge);
    }
    ctx.stroke();
  }
  ctx.globalAlpha = 1;
}

/** The small raised cells of pique, every second row shifted. */
function bumps(ctx: Context, edge: number, pitch: number, light: string, dark: string): void {
  const columns = Math.round(edge / pitch);
  const rows = 2 * Math.round(edge / (pitch * 0.86) / 2);
  const w = edge / columns;
  const h = edge / rows;
  for (let row = -1; row <= rows; row++) {
    for (let column = -1; column <= columns; column++) {
      const x = (column + (row % 2 === 0 ? 0.25 : 0.75)) * w;
      const y = (row + 0.5) * h;
      ctx.globalAlpha = 0.55;
      ctx.fillStyle = dark;
      ctx.beginPath();
      ctx.ellipse(x, y + h * 0.14, w * 0.4, h * 0.36, 0, 0, 7);
      ctx.fill();
      ctx.globalAlpha = 0.6;
      ctx.fillStyle = light;
      ctx.beginPath();
      ctx.ellipse(x, y - h * 0.06, w * 0.34, h * 0.28, 0, 0, 7);
      ctx.fill();
    }
  }
  ctx.globalAlpha = 1;
}

/** Columns of V; with `group` > 1 every group of columns stands out from the next, as ribs do. */
function loopsOfKnit(ctx: Context, edge: number, pitch: number, light: string, dark: string, group: number): void {
  const columns = Math.max(group * 2, Math.round(edge / pitch / (group * 2)) * group * 2);
  const rows = Math.round(edge / (pitch * 0.75));
  const w = edge / columns;
  const h = edge / rows;
  if (group > 1) {
    ctx.fillStyle = dark;
    ctx.globalAlpha = 0.5;
    for (let k = 0; k < columns; k += group * 2) ctx.fillRect(k * w, 0, group * w, edge);
  }
  ctx.lineCap = 'round';
  ctx.lineWidth = w * 0.3;
  for (const [color, dy, alpha] of [
    [dark, h * 0.16, 0.5],
    [light, 0, 0.5],
  ] as const) {
    ctx.strokeStyle = color;
    ctx.globalAlpha = alpha;
    ctx.beginPath();
    for (let row = -1; row <= rows; row++) {
      for (let column = 0; column < columns; column++) {
        const x = (column + 0.5) * w;
        const y = row * h + dy;
        ctx.moveTo(x - w * 0.34, y);
        ctx.lineTo(x - w * 0.04, y + h * 0.8);
        ctx.moveTo(x + w * 0.34, y);
        ctx.lineTo(x + w * 0.04, y + h * 0.8);
      }
    }
    ctx.stroke();
  }
  ctx.globalAlpha = 1;
}

function fibers(
  ctx: Context,
  edge: number,
  light: string,
  dark: string,
  count: number,
  length: number,
  width: number,
  strength = 0.4,
): void {
  const random = seededRandom(7);
  ctx.lineCap = 'round';
  ctx.lineWidth = Math.max(0.7, width);
  for (let k = 0; k < count; k++) {
    const x = random() * edge;
    const y = random() * edge;
    const a = random() * Math.PI * 2;
    const bend = (random() - 0.5) * length;
    const reach = length * (0.4 + 0.6 * random());
    ctx.strokeStyle = k % 2 === 0 ? light : dark;
    ctx.globalAlpha = strength * (0.3 + 0.7 * random());
    repeatAtEdges(edge, (ox, oy) => {
      ctx.beginPath();
      ctx.moveTo(x + ox, y + oy);
      ctx.quadraticCurveTo(
        x + ox + (Math.cos(a) * reach) / 2 - Math.sin(a) * bend,
        y + oy + (Math.sin(a) * reach) / 2 + Math.cos(a) * bend,
        x + ox + Math.cos(a) * reach,
        y + oy + Math.sin(a) * reach,
      );
      ctx.stroke();
    });
  }
  ctx.globalAlpha = 1;
}

function terryLoops(ctx: Context, edge: number, mm: number, light: string, dark: string): void {
  const random = seededRandom(11);
  ctx.lineCap = 'round';
  for (let k = 0; k < 240; k++) {
    const x = random() * edge;
    const y = random() * edge;
    const r = (0.38 + 0.22 * random()) * mm;
    const a = random() * 6.3;
    repeatAtEdges(edge, (ox, oy) => {
      ctx.globalAlpha = 0.5;
      ctx.lineWidth = 0.46 * mm;
      ctx.strokeStyle = dark;
      ctx.beginPath();
      ctx.arc(x + ox + 0.08 * mm, y + oy + 0.14 * mm, r, a, a + 4.4);
      ctx.stroke();
      ctx.globalAlpha = 0.85;
      ctx.lineWidth = 0.32 * mm;
      ctx.strokeStyle = light;
      ctx.beginPath();
      ctx.arc(x + ox, y + oy, r, a, a + 4.4);
      ctx.stroke();
    });
  }
  ctx.globalAlpha = 1;
}

function grain(ctx: Context, edge: number, mm: number, light: string, dark: string): void {
  const random = seededRandom(23);
  for (let k = 0; k < 420; k++) {
    const x = random() * edge;
    const y = random() * edge;
    const r = (0.24 + 0.4 * random()) * mm;
    const turn = random() * 3.2;
    repeatAtEdges(edge, (ox, oy) => {
      ctx.globalAlpha = 0.35;
      ctx.fillStyle = dark;
      ctx.beginPath();
      ctx.ellipse(x + ox, y + oy + r * 0.2, r, r * 0.7, turn, 0, 7);
      ctx.fill();
      ctx.globalAlpha = 0.4;
      ctx.fillStyle = light;
      ctx.beginPath();
      ctx.ellipse(x + ox, y + oy - r * 0.1, r * 0.8, r * 0.5, turn, 0, 7);
      ctx.fill();
    });
  }
  ctx.globalAlpha = 1;
}

/** Draws again one tile to each side, so that what hangs over an edge comes in at the other. */
function repeatAtEdges(edge: number, draw: (ox: number, oy: number) => void): void {
  for (const ox of [-edge, 0, edge]) for (const oy of [-edge, 0, edge]) draw(ox, oy);
}

/** Mulberry32: the same cloth every time. */
function seededRandom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
