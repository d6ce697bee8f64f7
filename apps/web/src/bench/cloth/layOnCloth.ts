import type { PixelBox, Raster } from './raster.ts';

/** How far to the right and down the shadow of a thread falls, mm. */
const RIGHT = 0.12;
const DOWN = 0.18;
/** Of 256 parts: how much of the cloth's light it takes where it is deepest. */
const DEPTH = 84;
/** The shadow is soft, so it is looked up on a coarser raster: a thread's thickness is about so many cells. */
const CELLS = 3;
const FINEST = 2;
/** A thread thinner than this many pixels throws no shadow that could be seen. */
const SHADOW_SEEN = 0.6;
const COARSEST = 8;

/**
 * Puts a layer of thread on the cloth, with the soft shadow that it throws, within a box of `picture`; all three are of one size. `scale` is px a mm.
 * The shadow is the layer's own cover, moved to the side away from the light and blurred. O(pixels of the box).
 */
export function layOnCloth(
  picture: Int32Array,
  cloth: Int32Array,
  { pixels: layer, width, height }: Raster,
  box: PixelBox,
  thickness: number,
  scale: number,
): void {
  if (thickness * scale < SHADOW_SEEN) {
    for (let y = box.top; y < box.bottom; y++)
      for (let at = y * width + box.left, end = y * width + box.right; at < end; at++) picture[at] = over(cloth[at]!, layer[at]!, 256);
    return;
  }
  const cell = Math.min(COARSEST, Math.max(FINEST, Math.floor((thickness * scale) / CELLS)));
  const rightward = RIGHT * scale;
  const downward = DOWN * scale;
  const { cover, columns, rows, left, top } = coverGrid(layer, width, height, box, cell, reachOfShadow(scale));
  // For each column of pixels the cell whose middle lies to its left, and how far (of 256) it is on the way to the next one.
  const cells = new Int32Array(box.right - box.left);
  const beside = new Int32Array(box.right - box.left);
  for (let x = box.left; x < box.right; x++) {
    const u = (x + 0.5 - rightward - left) / cell - 0.5;
    cells[x - box.left] = Math.max(0, Math.min(columns - 2, Math.floor(u)));
    beside[x - box.left] = 256 * Math.max(0, Math.min(1, u - cells[x - box.left]!));
  }
  for (let y = box.top; y < box.bottom; y++) {
    const v = (y + 0.5 - downward - top) / cell - 0.5;
    const row = Math.max(0, Math.min(rows - 2, Math.floor(v)));
    const upper = row * columns;
    const below = (256 * Math.max(0, Math.min(1, v - row))) | 0;
    for (let k = 0, at = y * width + box.left; k < cells.length; k++, at++) {
      const thread = layer[at]!;
      if (thread >>> 24 === 255) {
        picture[at] = thread;
        continue;
      }
      const first = upper + cells[k]!;
      const a = cover[first]!;
      const b = cover[first + 1]!;
      const c = cover[first + columns]!;
      const d = cover[first + columns + 1]!;
      if ((thread | a | b | c | d) === 0) {
        picture[at] = cloth[at]!;
        continue;
      }
      const above = (a << 8) + (b - a) * beside[k]!;
      const shadow = (above << 8) + ((c << 8) + (d - c) * beside[k]! - above) * below;
      // What light the cloth has left, of 256 parts.
      picture[at] = over(cloth[at]!, thread, 256 - (((shadow >> 16) * DEPTH) >> 8));
    }
  }
}

/** A pixel of thread, its color multiplied by its alpha, over one of cloth that has `light` of 256 parts. */
function over(cloth: number, thread: number, light: number): number {
  const alpha = thread >>> 24;
  if (alpha === 255) return thread;
  const share = ((256 - alpha) * light) >> 8;
  return (
    0xff000000 |
    (((((cloth & 0xff00ff) * share) >>> 8) & 0xff00ff) + (thread & 0xff00ff)) |
    (((((cloth & 0xff00) * share) >>> 8) & 0xff00) + (thread & 0xff00))
  );
}

/** So many pixels beyond what changed in a layer its shadow changes too. */
export function reachOfShadow(scale: number): number {
  return Math.ceil(DOWN * scale) + 2 * COARSEST;
}

/** Cover (0…255) of a layer in cells of `cell` px around a box, told from two pixels of each and blurred over three by three of them. */
function coverGrid(layer: Int32Array, width: number, height: number, box: PixelBox, cell: number, around: number) {
  // Cells lie on one net whatever the box, so that a part drawn anew meets what is around it.
  const left = Math.floor((box.left - around) / cell) * cell;
  const top = Math.floor((box.top - around) / cell) * cell;
  const columns = Math.ceil((box.right + around - left) / cell) + 1;
  const rows = Math.ceil((box.bottom + around - top) / cell) + 1;
  const told = new Uint8Array(columns * rows);
  const near = cell >> 2;
  const far = cell - 1 - near;
  for (let row = 0; row < rows; row++) {
    const y = top + row * cell;
    if (y < 0 || y + far >= height) continue;
    const first = Math.max(0, Math.ceil(-left / cell));
    const last = Math.min(columns - 1, Math.floor((width - 1 - far - left) / cell));
    for (let column = first; column <= last; column++) {
      const x = left + column * cell;
      told[row * columns + column] = ((layer[(y + near) * width + x + near]! >>> 24) + (layer[(y + far) * width + x + far]! >>> 24)) >> 1;
    }
  }
  return { cover: blur(blur(told, columns, rows, 1), columns, rows, columns), left, top, columns, rows };
}

/** Mean of each cell and its two neighbours `step` away; cells at the ends of the array stay. */
function blur(of: Uint8Array, columns: number, rows: number, step: number): Uint8Array {
  const out = of.slice();
  for (let k = step; k < columns * rows - step; k++) out[k] = (of[k - step]! + 2 * of[k]! + of[k + step]!) >> 2;
  return out;
}
