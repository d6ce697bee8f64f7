import type { Program } from '@isola/core';
import { layOnCloth, reachOfShadow } from './layOnCloth.ts';
import { paintThread, paintThreadUnder, startWalk, type ThreadSheet, type ThreadWalk, walkStitches } from './paintThread.ts';
import type { PixelBox, Raster } from './raster.ts';
import type { Projection } from './sheet.ts';
import type { Strokes } from './strokes.ts';
import type { ClothBox, ThreadChange } from './threadChange.ts';
import { firstOfTop, TopLayer } from './topLayer.ts';

/** What a picture of thread is to show. */
export interface ThreadScene {
  readonly program: Program;
  readonly strokes: Strokes;
  /** The box around its stitches. */
  readonly extents: ClothBox;
  readonly projection: Projection;
  readonly width: number;
  readonly height: number;
  /** mm */
  readonly thickness: number;
  readonly mask: Uint8Array | undefined;
  /** Rows before this one are sewn. */
  readonly upTo: number;
  /** The same for as long as everything but the program and `upTo` is the same. */
  readonly key: string;
  /** Gives the bare cloth, pixel by pixel; asked for when `key` changes. */
  readonly cloth: () => Int32Array;
}

/** What is drawn reaches so far beyond the stitches that it is drawn of, mm: a thread's thickness. */
const REACH = 1;
/** Rows, and batches of them, painted between two looks at the clock. */
const STRIDE = 1500;
const BATCHES = 16;

/**
 * A picture of thread on cloth that is kept, so that another one of the same view costs only what is different: rows that were sewn since, or the
 * part in which two programs differ.
 */
export class ThreadPicture {
  private key = '';
  private width = 0;
  private height = 0;
  private layer: Int32Array = new Int32Array(0);
  private cloth: Int32Array = new Int32Array(0);
  private shown: Program | undefined;
  private walk: ThreadWalk = startWalk();
  private readonly top = new TopLayer();
  /** Red, green, blue, alpha of each pixel. */
  pixels = new Uint8ClampedArray(0);
  /** What the last drawing changed. */
  changed: PixelBox = { left: 0, top: 0, right: 0, bottom: 0 };

  /**
   * Brings the picture to a scene. `changed` is where its program differs from the one that is shown, if that is known. `pause` is asked now and then
   * whether to go on; false where it said no, and the picture is begun anew the next time.
   */
  async draw(scene: ThreadScene, changed: ThreadChange | undefined, pause: () => Promise<boolean>): Promise<boolean> {
    const { program, projection, width, height, upTo } = scene;
    const whole: PixelBox = { left: 0, top: 0, right: width, bottom: height };
    const isKept = this.key === scene.key && this.width === width && this.height === height;
    const isSame = isKept && this.shown === program;
    const isWhole = this.shown !== undefined && this.walk.row >= this.shown.rowCount && upTo >= program.rowCount;
    this.changed = whole;
    if (isSame && this.walk.row === upTo) return true;
    const part = isKept && isWhole && changed !== undefined ? pixelsOf(changed.box, REACH, projection, whole) : undefined;
    const isGrowing = isSame && upTo > this.walk.row;
    if (!isKept) this.begin(scene);
    else if (part !== undefined) clear(this.layer, width, part);
    else if (!isGrowing) {
      this.layer.fill(0);
      new Int32Array(this.pixels.buffer).set(this.cloth);
    }
    if (!isGrowing) this.walk = startWalk();
    this.shown = undefined;
    const clip = part ?? whole;
    const raster: Raster = { pixels: this.layer, width, height, clip, isUnder: !isGrowing };
    const sheet: ThreadSheet = {
      ...{ raster, program, projection, thickness: scene.thickness },
      ...(scene.mask === undefined ? {} : { mask: scene.mask }),
    };
    if (isGrowing) {
      while (this.walk.row < upTo) {
        paintThread(sheet, this.walk, Math.min(upTo, this.walk.row + STRIDE));
        if (!(await pause())) return false;
      }
    } else {
      let rest = upTo;
      if (part !== undefined && changed !== undefined) {
        const { key, rows } = changed.top;
        const first = firstOfTop(program, rows);
        const paint = (onTop: Raster): Promise<boolean> => paintUnder({ ...sheet, raster: onTop }, scene.strokes, first, upTo, pause);
        if (!(await this.top.put(`${scene.key} ${key}`, raster, part, paint))) return false;
        rest = first;
      }
      if (!(await paintUnder(sheet, scene.strokes, 0, rest, pause))) return false;
      walkStitches(sheet, this.walk, upTo, () => undefined);
    }
    const reach = reachOfShadow(projection.scale);
    const touched = pixelsOf(scene.extents, REACH + reach / projection.scale, projection, whole);
    const spread = { left: clip.left - reach, top: clip.top - reach, right: clip.right + reach, bottom: clip.bottom + reach };
    const box = within(spread, part === undefined ? touched : whole);
    layOnCloth(new Int32Array(this.pixels.buffer), this.cloth, raster, box, scene.thickness, projection.scale);
    if (part !== undefined) this.changed = box;
    this.shown = program;
    return true;
  }

  private begin({ key, width, height, cloth }: ThreadScene): void {
    if (this.width !== width || this.height !== height) {
      this.layer = new Int32Array(width * height);
      this.pixels = new Uint8ClampedArray(width * height * 4);
      [this.width, this.height] = [width, height];
    } else this.layer.fill(0);
    this.cloth = cloth();
    new Int32Array(this.pixels.buffer).set(this.cloth);
    this.key = key;
  }
}

/** Paints stitches of rows `from` ≤ row < `to`, last first, each under what is there; false where `pause` said to give up. */
async function paintUnder(sheet: ThreadSheet, strokes: Strokes, from: number, to: number, pause: () => Promise<boolean>): Promise<boolean> {
  for (let last = strokes.threads.length; last > 0; last -= BATCHES) {
    paintThreadUnder(sheet, strokes, Math.max(0, last - BATCHES), last, from, to);
    if (!(await pause())) return false;
  }
  return true;
}

/** The whole pixels of a box of cloth and so many mm around it, as far as they are in sight. */
function pixelsOf([minX, minY, maxX, maxY]: ClothBox, around: number, { scale, originX, originY }: Projection, whole: PixelBox): PixelBox {
  return within(
    {
      left: Math.floor(originX + (minX - around) * scale),
      top: Math.floor(originY - (maxY + around) * scale),
      right: Math.ceil(originX + (maxX + around) * scale),
      bottom: Math.ceil(originY - (minY - around) * scale),
    },
    whole,
  );
}

function within(box: PixelBox, bounds: PixelBox): PixelBox {
  const left = Math.max(box.left, bounds.left);
  const top = Math.max(box.top, bounds.top);
  return {
    left,
    top,
    right: Math.max(left, Math.min(box.right, bounds.right)),
    bottom: Math.max(top, Math.min(box.bottom, bounds.bottom)),
  };
}

function clear(layer: Int32Array, width: number, { left, top, right, bottom }: PixelBox): void {
  for (let y = top; y < bottom; y++) layer.fill(0, y * width + left, y * width + right);
}
