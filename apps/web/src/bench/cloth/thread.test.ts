/** @jest-environment node */
import { describe, expect, test } from '@jest/globals';
import { type Program, ProgramBuilder, type Row, threadThickness } from '@isola/core';
import fc from 'fast-check';
import { layOnCloth } from './layOnCloth.ts';
import { paintThread, startWalk } from './paintThread.ts';
import { ACROSS, ALONG, layStitch, OWN, type Raster } from './raster.ts';
import { lookOf, paletteOf, stepOf } from './threadPaint.ts';
import { planStrokes } from './strokes.ts';
import { changeBetween, type ClothBox, type NumberedProgram, type ThreadChange } from './threadChange.ts';
import { ThreadPicture, type ThreadScene } from './threadPicture.ts';
import { firstOfTop } from './topLayer.ts';
import { runs } from '../../../../../packages/core/src/testing/runs.ts';

const [WIDTH, HEIGHT] = [96, 72];
/** 40-weight rayon. */
const THICKNESS = threadThickness({ weight: 40, fiber: 'rayon' });
const CLOTH = 0xff8090a0 | 0;

function rasterOf(width = WIDTH, height = HEIGHT): Raster {
  return { pixels: new Int32Array(width * height), width, height, clip: { left: 0, top: 0, right: width, bottom: height }, isUnder: false };
}

const alphaAt = ({ pixels, width }: Raster, x: number, y: number): number => pixels[y * width + x]! >>> 24;
const lightOf = (pixel: number): number => (pixel & 255) + ((pixel >> 8) & 255) + ((pixel >> 16) & 255);

/** Share of a pixel that lies in a capsule; where its edge is near, told by 8 × 8 places in it. */
function coveredShare(x: number, y: number, [ax, ay, bx, by]: readonly [number, number, number, number], half: number): number {
  const [dx, dy] = [bx - ax, by - ay];
  const square = dx * dx + dy * dy;
  const depth = (u: number, v: number): number => {
    const [px, py] = [x + u - ax, y + v - ay];
    const t = square > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / square)) : 0;
    return half - Math.hypot(px - t * dx, py - t * dy);
  };
  const middle = depth(0.5, 0.5);
  if (Math.abs(middle) > 0.75) return middle > 0 ? 1 : 0;
  let inside = 0;
  for (let k = 0; k < 64; k++) if (depth(((k % 8) + 0.5) / 8, (Math.floor(k / 8) + 0.5) / 8) > 0) inside++;
  return inside / 64;
}

const spot = fc.integer({ min: -200, max: 1100 }).map((v) => v / 10);
const stitch = fc.tuple(spot, spot, spot, spot);
/** As thick as thread is drawn, px: thinner than 1 a pixel is no part of a straight edge any more. */
const thick = fc.integer({ min: 10, max: 300 }).map((v) => v / 10);

describe('a stitch', () => {
  test('covers of each pixel what a capsule covers of it, and leaves all others alone', () => {
    fc.assert(
      fc.property(stitch, thick, (line, width) => {
        const raster = rasterOf();
        layStitch(raster, { palette: paletteOf('#aa3322'), look: lookOf(width, 10) }, OWN, ...line);
        // The edge is taken as straight: that is off by a tenth at most. Thin thread is painted along its way only: at its round ends by a third.
        const allowed = width < 1.8 ? 0.36 : 0.13;
        for (let y = 0; y < HEIGHT; y++) {
          for (let x = 0; x < WIDTH; x++) {
            const share = coveredShare(x, y, line, width / 2);
            if (Math.abs(alphaAt(raster, x, y) / 255 - share) > allowed)
              throw new Error(`${x}, ${y}: ${alphaAt(raster, x, y) / 255}, not ${share}`);
          }
        }
      }),
      runs(60, 23),
    );
  });

  test('is painted within the clip only, and there as without one', () => {
    fc.assert(
      fc.property(stitch, thick, fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 50 }), (line, width, left, top) => {
        const [raster, part] = [rasterOf(), rasterOf()];
        const clip = { left, top, right: left + 20, bottom: top + 15 };
        const paint = { palette: paletteOf('#aa3322'), look: lookOf(width, 40) };
        layStitch(raster, paint, OWN, ...line);
        layStitch({ ...part, clip }, paint, OWN, ...line);
        for (let y = 0; y < HEIGHT; y++)
          for (let x = 0; x < WIDTH; x++) {
            const isIn = x >= left && x < left + 20 && y >= top && y < top + 15;
            const [got, whole] = [part.pixels[y * WIDTH + x]!, isIn ? raster.pixels[y * WIDTH + x]! : 0];
            if (got !== whole) throw new Error(`${x}, ${y}`);
          }
      }),
      runs(60, 23),
    );
  });

  test('is lightest on the side of the light, darkest at the edge away from it, and glossier in its upper half', () => {
    const raster = rasterOf();
    layStitch(raster, { palette: paletteOf('#3366aa'), look: lookOf(16, 10) }, OWN, 10, 36, 86, 36);
    const light = (x: number, y: number): number => lightOf(raster.pixels[y * WIDTH + x]!);
    expect(light(48, 30)).toBeGreaterThan(light(48, 42));
    expect(light(48, 43)).toBeLessThan(light(48, 36));
    const upright = rasterOf();
    layStitch(upright, { palette: paletteOf('#3366aa'), look: lookOf(7, 10) }, OWN, 48, 66, 48, 6);
    expect(lightOf(upright.pixels[25 * WIDTH + 47]!)).toBeGreaterThan(lightOf(upright.pixels[50 * WIDTH + 47]!));
  });

  test('shines when it runs across the light, shows its plies when close, and stays in the palette whatever its color', () => {
    const [lightX, lightY] = [0.6, 0.8];
    expect(stepOf(-0.8, 0.6, lightX, lightY)).toBeGreaterThan(stepOf(0.6, 0.8, lightX, lightY));
    expect(stepOf(3, 4, lightX, lightY)).toBe(stepOf(-3, -4, lightX, lightY));
    expect(lookOf(6, 12).twist).toBeUndefined();
    const close = lookOf(24, 48);
    expect(close.ply).toBeCloseTo(0.7 * 48, 9);
    const deepest = (values: Int8Array | undefined): number[] => [Math.min(...values!), Math.max(...values!)];
    const [low, high] = [deepest(close.profile), deepest(close.twist)].map(([a, b]) => [a!, b!]) as [number[], number[]];
    expect(close.profile).toHaveLength(ACROSS * ALONG);
    expect(stepOf(1, 0, 1, 0) + low[0]! + high[0]!).toBeGreaterThanOrEqual(0);
    expect(stepOf(0, 1, 1, 0) + low[1]! + high[1]!).toBeLessThan(256);
    const palette = paletteOf('#102030');
    expect([palette[0]! >>> 0, palette[OWN]! >>> 0]).toEqual([0xff000000, 0xff302010]);
    expect(lightOf(palette[255]!)).toBeGreaterThan(750);
  });
});

function programOf(rows: readonly Row[]): Program {
  const builder = new ProgramBuilder();
  for (const row of rows) builder.row(row);
  return builder.end().build();
}

/** A closed square of rows 0.4 mm apart, 10 mm wide, from `x`, `y`. */
function square(x: number, y: number, color: string): Row[] {
  const rows: Row[] = [
    { command: 'color', color },
    { command: 'jump', x, y },
  ];
  for (let k = 0; k <= 25; k++)
    for (const u of k % 2 === 0 ? [0, 5, 10] : [10, 5, 0]) rows.push({ command: 'stitch', x: x + u, y: y + k * 0.4 });
  return [...rows, { command: 'trim' }];
}

const SCALE = 3;
const projection = { scale: SCALE, originX: 6, originY: HEIGHT - 6 };
const extents: ClothBox = [0, 0, 28, 20];

function sceneOf(program: Program, more: Partial<ThreadScene> = {}): ThreadScene {
  const cloth = (): Int32Array => new Int32Array(WIDTH * HEIGHT).fill(CLOTH);
  const view = {
    program,
    strokes: planStrokes(program),
    extents,
    projection,
    width: WIDTH,
    height: HEIGHT,
    thickness: THICKNESS,
    mask: undefined,
  };
  return { ...view, upTo: program.rowCount, key: 'view', cloth, ...more };
}

const goOn = (): Promise<boolean> => Promise.resolve(true);

async function pictureOf(...scenes: readonly (readonly [ThreadScene, ThreadChange?])[]): Promise<Int32Array> {
  const picture = new ThreadPicture();
  for (const [scene, changed] of scenes) await picture.draw(scene, changed, goOn);
  return new Int32Array(picture.pixels.buffer);
}

/** The greatest difference in light of a pixel of two pictures, all channels together. */
function farthestOff(a: Int32Array, b: Int32Array): number {
  return a.reduce(
    (most, pixel, k) => Math.max(most, Math.abs((pixel & 255) - (b[k]! & 255)) + Math.abs(lightOf(pixel) - lightOf(b[k]!))),
    0,
  );
}

describe('a picture of thread', () => {
  const first = programOf([...square(1, 1, '#aa3322'), ...square(14, 4, '#2244aa')]);
  const second = programOf([...square(1, 1, '#aa3322'), ...square(16, 6, '#22aa44')]);
  const changed: ThreadChange = { box: [1, 1, 26, 16], top: { key: '', rows: 0 } };

  test('lets next to no cloth through rows 0.4 mm apart, however far away they are seen: common practice for 40-weight thread', () => {
    for (const scale of [1.5, 2.4, 4, 8]) {
      const raster = rasterOf();
      paintThread(
        { raster, program: first, projection: { scale, originX: 0, originY: HEIGHT }, thickness: THICKNESS },
        startWalk(),
        first.rowCount,
      );
      const alphas: number[] = [];
      for (let y = Math.ceil(HEIGHT - 8.5 * scale); y < HEIGHT - 2.5 * scale && y < HEIGHT; y++)
        if (y >= 0) for (let x = Math.ceil(2.5 * scale); x < 8 * scale && x < WIDTH; x++) alphas.push(alphaAt(raster, x, y));
      expect(alphas.length).toBeGreaterThan(30);
      expect(alphas.reduce((sum, a) => sum + a, 0) / alphas.length / 255).toBeGreaterThan(0.88);
    }
  });

  test('is the same whether drawn at once, row by row as in a replay, or in the part alone in which two programs differ', async () => {
    const whole = await pictureOf([sceneOf(second)]);
    const rows = [...[4, 5, 40, 90, second.rowCount].map((upTo) => [sceneOf(second, { upTo })] as const)];
    // Thread put over what is there, not under it, is rounded the other way.
    expect(farthestOff(await pictureOf(...rows), whole)).toBeLessThan(16);
    expect(farthestOff(await pictureOf([sceneOf(first)], [sceneOf(second), changed]), whole)).toBe(0);
    // Without a word on where they differ all of it is drawn anew, and nothing of the first is left.
    expect(farthestOff(await pictureOf([sceneOf(first)], [sceneOf(second)]), whole)).toBe(0);
    expect(farthestOff(await pictureOf([sceneOf(second)], [sceneOf(first)], [sceneOf(second)]), whole)).toBe(0);
    expect(farthestOff(await pictureOf([sceneOf(first)]), whole)).toBeGreaterThan(100);
  });

  test('is the same when what lies on top of a change is painted once and kept', async () => {
    const top = square(9, 3, '#dddd22');
    const middle = (x: number, y: number): Program => programOf([...square(2, 2, '#aa3322'), ...square(x, y, '#2244aa'), ...top]);
    const base = middle(6, 4);
    const steps = [middle(7, 5), middle(11, 4), middle(6, 6)].map((program, k): NumberedProgram & { program: Program } => ({
      ...{ number: k + 1, program },
      change: { from: 0, box: k === 1 ? [6, 4, 21, 14] : [6, 4, 17, 16], kept: top.length + 1 },
    }));
    let shown: NumberedProgram = { number: 0, change: undefined };
    const scenes: (readonly [ThreadScene, ThreadChange?])[] = [[sceneOf(base)]];
    for (const { program, ...next } of [...steps, { program: base, number: 0, change: undefined }, steps[1]!]) {
      scenes.push([sceneOf(program), changeBetween(shown, next)]);
      expect(farthestOff(await pictureOf(...scenes), await pictureOf([sceneOf(program)]))).toBe(0);
      shown = next;
    }
    for (const [, change] of scenes.slice(1)) expect(change?.top).toEqual({ key: `0 ${top.length + 1}`, rows: top.length + 1 });
    expect(changeBetween(shown, { number: 9, change: { from: 5, box: [0, 0, 1, 1], kept: 3 } })).toBeUndefined();
    expect(changeBetween(shown, shown)).toBeUndefined();
    // A stitch that begins in a row before is not one of the top.
    expect([firstOfTop(base, 1), firstOfTop(base, top.length + 1)]).toEqual([base.rowCount, base.rowCount - top.length]);
  });

  test('that was given up half way is whole the next time', async () => {
    const picture = new ThreadPicture();
    let asked = 0;
    expect(await picture.draw(sceneOf(first), undefined, () => Promise.resolve(++asked < 1))).toBe(false);
    await picture.draw(sceneOf(second), changed, goOn);
    expect(farthestOff(new Int32Array(picture.pixels.buffer), await pictureOf([sceneOf(second)]))).toBe(0);
  });

  test('has the cloth as it is where neither thread nor its shadow lies, and a shadow to the right and below', async () => {
    const scale = 8;
    const at = { scale, originX: 16, originY: 56 };
    const dot = programOf([
      { command: 'color', color: '#ffffff' },
      { command: 'stitch', x: 1, y: 1 },
      { command: 'stitch', x: 4, y: 1 },
    ]);
    const pixels = await pictureOf([sceneOf(dot, { projection: at, extents: [1, 1, 4, 1], key: 'near' })]);
    const place = (x: number, y: number): number => pixels[Math.round(56 - y * scale) * WIDTH + Math.round(16 + x * scale)]!;
    expect(lightOf(place(2.5, 1))).toBeGreaterThan(600);
    expect(lightOf(place(2.5, 1 - 0.4))).toBeLessThan(lightOf(CLOTH) - 20);
    expect(lightOf(place(2.5, 1 + 0.5))).toBeGreaterThan(lightOf(place(2.5, 1 - 0.4)));
    expect(place(2.5, 4)).toBe(CLOTH);
    expect(place(7, 1)).toBe(CLOTH);
  });

  test('of a part shows the rows of its mask and no others', async () => {
    const mask = new Uint8Array(first.rowCount).fill(1, 0, 80);
    const pixels = await pictureOf([sceneOf(first, { mask })]);
    const at = (x: number, y: number): number => pixels[Math.round(HEIGHT - 6 - y * SCALE) * WIDTH + Math.round(6 + x * SCALE)]!;
    expect(at(5, 5)).not.toBe(CLOTH);
    expect(at(20, 8)).toBe(CLOTH);
  });

  test('without a stitch is bare cloth', () => {
    const picture = new Int32Array(WIDTH * HEIGHT);
    const cloth = new Int32Array(WIDTH * HEIGHT).fill(CLOTH);
    layOnCloth(picture, cloth, rasterOf(), { left: 0, top: 0, right: WIDTH, bottom: HEIGHT }, THICKNESS, 5);
    expect(farthestOff(picture, cloth)).toBe(0);
  });
});
