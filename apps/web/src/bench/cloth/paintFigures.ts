import { COLOR, JUMP, STITCH, TRIM, UNNAMED_THREAD } from '@isola/core';
import type { ShownCover } from '../../workers/protocol.ts';
import { shade } from './colors.ts';
import { batchesInSight, colorOfBatch, type Projection, rowsOfBatch, type Sheet, strokeBatch } from './sheet.ts';

type Context = OffscreenCanvasRenderingContext2D;

/** A color of the cover map, and the greatest K that it stands for; the last stands for all above. */
export interface CoverStep {
  readonly color: string;
  readonly to: number;
  /** Over the cloth's limit: hatched too. */
  readonly isOver: boolean;
}

/** Less cover than this (K) is left unpainted. */
const BARE = 0.08;
const UNDER_LIMIT = [
  ['#cfe3d8', 0.3],
  ['#9ccbb9', 0.6],
  ['#5fa99a', 1],
  ['#2f8087', 1.5],
  ['#2b6c86', 2.2],
] as const;

/** The steps of the cover map for a cloth with this limit (K), from bare cloth up: what is painted, and what the legend says. */
export function coverSteps(limit: number): CoverStep[] {
  return [
    ...UNDER_LIMIT.filter(([, to]) => to < limit).map(([color, to]) => ({ color, to, isOver: false })),
    { color: '#24476f', to: limit, isOver: false },
    { color: '#d9a23b', to: limit * 1.5, isOver: true },
    { color: '#b0322a', to: Infinity, isOver: true },
  ];
}

/** Paints stitches as faint lines with their penetrations on them. */
export function paintPenetrations(sheet: Sheet, from: number, to: number): void {
  const {
    ctx,
    program,
    projection: { scale, originX, originY },
  } = sheet;
  const radius = Math.max(0.7, Math.min(3.2, 0.09 * scale));
  for (const k of batchesInSight(sheet, from, to)) {
    const color = colorOfBatch(sheet, k);
    ctx.globalAlpha = 0.45;
    strokeBatch(sheet, k, color, Math.max(0.5, 0.05 * scale));
    ctx.globalAlpha = 1;
    ctx.fillStyle = shade(color, -0.35);
    ctx.beginPath();
    for (const row of rowsOfBatch(sheet, k)) {
      if (program.command[row] !== STITCH) continue;
      const px = originX + program.x[row]! * scale;
      const py = originY - program.y[row]! * scale;
      ctx.moveTo(px + radius, py);
      ctx.arc(px, py, radius, 0, 7);
    }
    ctx.fill();
  }
}

/** Paints sewing as thin lines, to be read under the connectors. */
export function paintPaths(sheet: Sheet, from: number, to: number): void {
  sheet.ctx.globalAlpha = 0.75;
  const width = Math.max(0.8, Math.min(1.6, 0.06 * sheet.projection.scale));
  for (const k of batchesInSight(sheet, from, to)) strokeBatch(sheet, k, colorOfBatch(sheet, k), width);
  sheet.ctx.globalAlpha = 1;
}

/** Paints what stands between stretches: moves as broken lines, cuts as hatched squares, entries and exits as brackets. */
export function paintConnectors({ ctx, program, projection, upTo }: Sheet, ratio: number, ink: string): void {
  const { scale, originX, originY } = projection;
  const { command, x, y } = program;
  const cuts: number[] = [];
  ctx.strokeStyle = ink;
  ctx.lineWidth = 1.2 * ratio;
  ctx.setLineDash([4 * ratio, 3 * ratio]);
  ctx.beginPath();
  for (let i = 1; i < Math.min(program.rowCount, upTo); i++) {
    if (command[i] === JUMP) {
      ctx.moveTo(originX + x[i - 1]! * scale, originY - y[i - 1]! * scale);
      ctx.lineTo(originX + x[i]! * scale, originY - y[i]! * scale);
    } else if (command[i] === TRIM) cuts.push(i);
  }
  ctx.stroke();
  ctx.setLineDash([]);

  const half = 4 * ratio;
  for (const i of cuts) {
    const px = originX + x[i]! * scale;
    const py = originY - y[i]! * scale;
    ctx.fillStyle = '#fffdf8';
    ctx.fillRect(px - half, py - half, 2 * half, 2 * half);
    ctx.strokeStyle = '#b0322a';
    ctx.lineWidth = ratio;
    ctx.strokeRect(px - half, py - half, 2 * half, 2 * half);
    ctx.beginPath();
    for (const d of [-half * 0.5, half * 0.5]) {
      ctx.moveTo(px + d - half * 0.5, py + half * 0.8);
      ctx.lineTo(px + d + half * 0.5, py - half * 0.8);
    }
    ctx.stroke();
  }

  // Brackets where the needle enters and leaves: an open one, and a closed one.
  let thread = UNNAMED_THREAD.color;
  let color = -1;
  for (let i = 0; i < Math.min(program.rowCount, upTo); i++) {
    if (command[i] === COLOR) thread = program.threads[++color]!.color;
    if (command[i] !== STITCH) continue;
    const isEntry = i === 0 || command[i - 1] !== STITCH;
    const isExit = command[i + 1] !== STITCH;
    if (!isEntry && !isExit) continue;
    const px = originX + x[i]! * scale;
    const py = originY - y[i]! * scale;
    for (const [style, width] of [
      [ink, 3.4 * ratio],
      [thread, 1.8 * ratio],
    ] as const) {
      ctx.strokeStyle = style;
      ctx.lineWidth = width;
      ctx.beginPath();
      if (isEntry) bracket(ctx, px, py, -half * 1.1, half);
      if (isExit) bracket(ctx, px, py, half * 1.1, half);
      ctx.stroke();
    }
  }
}

function bracket(ctx: Context, px: number, py: number, reach: number, half: number): void {
  ctx.moveTo(px + reach * 0.4, py - half);
  ctx.lineTo(px + reach, py - half);
  ctx.lineTo(px + reach, py + half);
  ctx.lineTo(px + reach * 0.4, py + half);
}

/** Paints K by cell, cells over the cloth's limit hatched so that they are told apart without color. */
export function paintCover(ctx: Context, map: ShownCover, limit: number, projection: Projection, ratio: number): void {
  const { columns, rows, cell, cover, minX, minY } = map;
  const image = new ImageData(columns, rows);
  const mask = new ImageData(columns, rows);
  const steps = coverSteps(limit).map((step) => ({ ...step, rgb: parseInt(step.color.slice(1), 16) }));
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const k = cover[row * columns + column]!;
      const at = ((rows - 1 - row) * columns + column) * 4;
      if (k < BARE) continue;
      const { rgb, isOver } = steps.find((step) => k <= step.to)!;
      image.data[at] = rgb >> 16;
      image.data[at + 1] = (rgb >> 8) & 255;
      image.data[at + 2] = rgb & 255;
      image.data[at + 3] = Math.min(255, 110 + 200 * k);
      if (isOver) mask.data[at + 3] = 255;
    }
  }
  const left = projection.originX + minX * projection.scale;
  const top = projection.originY - (minY + rows * cell) * projection.scale;
  const width = columns * cell * projection.scale;
  const height = rows * cell * projection.scale;
  ctx.imageSmoothingEnabled = cell * projection.scale < 14;
  ctx.drawImage(canvasOf(image), left, top, width, height);

  const hatch = new OffscreenCanvas(ctx.canvas.width, ctx.canvas.height);
  const h = hatch.getContext('2d')!;
  h.imageSmoothingEnabled = false;
  h.drawImage(canvasOf(mask), left, top, width, height);
  h.globalCompositeOperation = 'source-in';
  h.strokeStyle = '#fffdf8';
  h.lineWidth = 1.2 * ratio;
  // Only one drawing operation keeps what the mask lets through, so all lines go into one path.
  h.beginPath();
  for (let d = -hatch.height; d < hatch.width; d += 6 * ratio) {
    h.moveTo(d, hatch.height);
    h.lineTo(d + hatch.height, 0);
  }
  h.stroke();
  ctx.drawImage(hatch, 0, 0);
}

function canvasOf(image: ImageData): OffscreenCanvas {
  const canvas = new OffscreenCanvas(image.width, image.height);
  canvas.getContext('2d')!.putImageData(image, 0, 0);
  return canvas;
}
