import { COLOR, type Program, STITCH, TRIM } from '@isola/core';
import type { PixelBox, Raster } from './raster.ts';

/** Wider by so many pixels than what was asked for, since the next change is seldom quite where the last one was. */
const AROUND = 24;

/** The thread that lies on top of what is changed again and again, painted once and kept. */
export class TopLayer {
  private key = '';
  private width = 0;
  private pixels = new Int32Array(0);
  private box: PixelBox = { left: 0, top: 0, right: 0, bottom: 0 };

  /**
   * Puts what lies on top into a part of an empty layer of the same size. What is not known yet is painted by `paint`, which says whether it was
   * finished; false where it was not.
   */
  async put(key: string, layer: Raster, part: PixelBox, paint: (raster: Raster) => Promise<boolean>): Promise<boolean> {
    const { width, height } = layer;
    const isOwn = this.key === key && this.width === width && this.pixels.length === width * height;
    if (!isOwn || !isWithin(part, this.box)) {
      const box = isOwn ? around(this.box, part) : part;
      this.box = {
        left: Math.max(0, box.left - AROUND),
        top: Math.max(0, box.top - AROUND),
        right: Math.min(width, box.right + AROUND),
        bottom: Math.min(height, box.bottom + AROUND),
      };
      this.key = '';
      if (this.pixels.length === width * height) this.pixels.fill(0);
      else this.pixels = new Int32Array(width * height);
      this.width = width;
      if (!(await paint({ ...layer, pixels: this.pixels, clip: this.box, isUnder: true }))) return false;
      this.key = key;
    }
    for (let y = part.top; y < part.bottom; y++) {
      const from = y * width + part.left;
      layer.pixels.set(this.pixels.subarray(from, from - part.left + part.right), from);
    }
    return true;
  }
}

/**
 * The row from which on the last `rows` rows of a program lay the same thread whatever comes before them: a stitch that begins in other rows is left
 * out, and so are jumps before the needle is known to hold the cloth or not.
 */
export function firstOfTop({ command, rowCount }: Program, rows: number): number {
  for (let row = Math.max(0, rowCount - rows); row < rowCount; row++)
    if (command[row] === STITCH || command[row] === TRIM || command[row] === COLOR) return row + 1;
  return rowCount;
}

function isWithin(part: PixelBox, box: PixelBox): boolean {
  return part.left >= box.left && part.top >= box.top && part.right <= box.right && part.bottom <= box.bottom;
}

function around(a: PixelBox, b: PixelBox): PixelBox {
  return {
    left: Math.min(a.left, b.left),
    top: Math.min(a.top, b.top),
    right: Math.max(a.right, b.right),
    bottom: Math.max(a.bottom, b.bottom),
  };
}
