import { describe, expect, test } from '@jest/globals';
import { ProgramBuilder } from '@isola/core';
import { drawMoved, drawPoints } from './drawPoints.ts';

/** A canvas that notes what is drawn on it: dots with their middle, size and color, and lines. */
function notingCanvas() {
  const dots: { x: number; y: number; radius: number; fill: string }[] = [];
  const lines: string[] = [];
  let from = '';
  const ctx = {
    fillStyle: '',
    strokeStyle: '',
    lineWidth: 0,
    clearRect: () => undefined,
    beginPath: () => undefined,
    stroke: () => undefined,
    fill: () => undefined,
    arc(x: number, y: number, radius: number) {
      dots.push({ x, y, radius, fill: this.fillStyle });
    },
    moveTo: (x: number, y: number) => (from = `${x},${y}`),
    lineTo: (x: number, y: number) => lines.push(`${from} ${x},${y}`),
  };
  return { ctx: ctx as unknown as CanvasRenderingContext2D, dots, lines };
}

const program = new ProgramBuilder()
  .color('#1f4e5f')
  .jump(0, 0)
  .stitch(0, 0)
  .stitch(5, 0)
  .stitch(10, 0)
  .trim()
  .jump(90, 90)
  .stitch(90, 90)
  .build();
const size = { width: 200, height: 100 };
const near = { x: 5, y: 0, scale: 10 };

describe('penetrations over the cloth', () => {
  test('are dots where they may be picked and are in sight, y up; picked ones are larger and have a color of their own', () => {
    const { ctx, dots } = notingCanvas();
    drawPoints(ctx, program, { view: near, size, mayPick: (row) => row !== 4, picked: new Set([3]), upTo: program.rowCount });
    expect(dots.map(({ x, y }) => [x, y])).toEqual([
      [50, 50],
      [100, 50],
    ]);
    expect(dots[1]!.radius).toBeGreaterThan(dots[0]!.radius);
    expect(dots[1]!.fill).not.toBe(dots[0]!.fill);
  });

  test('are none where they would be a haze, but for those that are picked', () => {
    const { ctx, dots } = notingCanvas();
    drawPoints(ctx, program, { view: { ...near, scale: 1 }, size, mayPick: () => true, picked: new Set([2, 99]), upTo: program.rowCount });
    expect(dots).toHaveLength(1);
  });

  test('that are not sewn yet are faint lines, stitch by stitch, none across a jump', () => {
    const { ctx, lines } = notingCanvas();
    drawPoints(ctx, program, { view: near, size, mayPick: () => false, picked: new Set(), upTo: 3 });
    expect(lines).toEqual(['50,50 100,50', '100,50 150,50']);
    const all = notingCanvas();
    drawPoints(all.ctx, program, { view: near, size, mayPick: () => false, picked: new Set(), upTo: program.rowCount });
    expect(all.lines).toEqual([]);
  });

  test('that are moved take the stitches to them and on from them along, each once', () => {
    const { ctx, dots, lines } = notingCanvas();
    drawMoved(ctx, program, { view: near, size, picked: new Set([3]), dx: 0, dy: 2 });
    expect(lines).toEqual(['50,50 100,30', '100,30 150,50']);
    expect(dots.map(({ x, y }) => [x, y])).toEqual([[100, 30]]);
    const two = notingCanvas();
    drawMoved(two.ctx, program, { view: near, size, picked: new Set([3, 4]), dx: 1, dy: 0 });
    expect(two.lines).toEqual(['50,50 110,50', '110,50 160,50']);
  });
});
