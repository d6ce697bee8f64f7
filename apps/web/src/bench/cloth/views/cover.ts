import { mapCoverBefore } from '@isola/core';
import type { ShownCover } from '../../../workers/protocol.ts';
import type { Projection } from '../sheet.ts';
import type { FigurePainter } from './figurePainter.ts';

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

/** Thread on the cloth, by cell: of the whole, or while it is replayed of what is sewn by then. */
export const coverPainter: FigurePainter = {
  paintWhole({ cover, program, request: { upTo, thickness, maxCover, ratio }, projection }, { ctx }) {
    const map = upTo < program.rowCount ? mapCoverBefore(program, upTo, thickness) : cover;
    if (map !== undefined) paintCover(ctx, map, maxCover, projection, ratio);
  },
};

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
