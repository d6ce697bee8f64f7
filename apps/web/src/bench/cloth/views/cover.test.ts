/** @jest-environment node */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type CoverMap, mapCover, ProgramBuilder, threadThickness } from '@isola/core';
import type { FigureScene } from './figurePainter.ts';
import type { Sheet } from '../sheet.ts';
import { NotingContext } from '../testing/NotingContext.ts';
import { coverPainter, coverSteps, paintCover } from './cover.ts';

describe('cover map', () => {
  const globals = globalThis as Record<string, unknown>;
  const made: NotingContext[] = [];

  class Image {
    readonly width: number;
    readonly height: number;
    readonly data: Uint8ClampedArray;
    constructor(width: number, height: number) {
      this.width = width;
      this.height = height;
      this.data = new Uint8ClampedArray(width * height * 4);
    }
    at(column: number, row: number): string {
      const [r, g, b, a] = this.data.subarray((row * this.width + column) * 4, (row * this.width + column) * 4 + 4);
      return a === 0 ? 'none' : `#${[r!, g!, b!].map((v) => v.toString(16).padStart(2, '0')).join('')}`;
    }
  }
  const images: Image[] = [];

  beforeAll(() => {
    globals.ImageData = Image;
    globals.OffscreenCanvas = class {
      readonly width: number;
      readonly height: number;
      constructor(width: number, height: number) {
        this.width = width;
        this.height = height;
      }
      getContext(): unknown {
        const ctx = Object.assign(new NotingContext(), { putImageData: (image: Image) => images.push(image) });
        made.push(ctx);
        return ctx;
      }
    };
  });
  afterAll(() => {
    delete globals.ImageData;
    delete globals.OffscreenCanvas;
  });

  test('has the color of the legend in each cell, up is up, and only what is over the limit is hatched', () => {
    const cover = Float32Array.of(0, 0.2, 0.5, 0.9, 1.2, 1.8, 2.3, 3.5);
    const map = { columns: 4, rows: 2, cell: 0.5, minX: -1, minY: -2, cover } as unknown as CoverMap;
    const ctx = new NotingContext();
    paintCover(ctx as unknown as OffscreenCanvasRenderingContext2D, map, 2.2, { scale: 10, originX: 100, originY: 100 }, 1);
    const [image, mask] = images;
    // The map's first row is its lowest, the picture's first row its highest.
    const row = (y: number): string[] => [0, 1, 2, 3].map((x) => image!.at(x, y));
    const colors = coverSteps(2.2).map((step) => step.color);
    expect(row(1)).toEqual(['none', colors[0], colors[1], colors[2]]);
    expect(row(0)).toEqual([colors[3], colors[4], colors[5], colors[6]]);
    expect([0, 1].map((y) => [0, 1, 2, 3].filter((x) => mask!.data[(y * 4 + x) * 4 + 3]! > 0))).toEqual([[2, 3], []]);
    expect(ctx.images[0]!.slice(1)).toEqual([90, 100 + 20 - 10, 20, 10]);
    expect(ctx.images).toHaveLength(2);
    expect(coverSteps(1.2).map((step) => [step.to, step.isOver])).toEqual([
      [0.3, false],
      [0.6, false],
      [1, false],
      [1.2, false],
      [1.2 * 1.5, true],
      [Infinity, true],
    ]);
  });

  test('shows what is sewn by where a replay stands, and the whole at its end', () => {
    const builder = new ProgramBuilder().color('#aa3322').stitch(0, 0);
    for (let k = 0; k < 80; k++) builder.stitch(k % 2 === 0 ? 6 : 0, 0.2 * k);
    const program = builder.end().build();
    const cover = mapCover(program, { weight: 40, fiber: 'rayon' });
    const painted = (upTo: number): number => {
      images.length = 0;
      const request = { upTo, thickness: threadThickness({ weight: 40, fiber: 'rayon' }), maxCover: 2.2, ratio: 1 };
      const projection = { scale: 10, originX: 100, originY: 100 };
      coverPainter.paintWhole!(
        { cover, program, request, projection } as unknown as FigureScene,
        { ctx: new NotingContext() } as unknown as Sheet,
      );
      return images[0]!.data.filter((value, k) => k % 4 === 3 && value > 0).length;
    };
    const whole = painted(program.rowCount);
    expect(painted(2)).toBeLessThan(0.1 * whole);
    expect(painted(40) / whole).toBeCloseTo(0.5, 1);
    expect(painted(program.rowCount - 1)).toBe(whole);
  });
});
