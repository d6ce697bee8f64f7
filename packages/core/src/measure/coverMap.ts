import { type Program, STITCH } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';
import { type ThreadType, threadThickness } from '../model/thread.ts';

/** Edge of a cell, mm. */
export const COVER_CELL = 0.5;
/** Thread that comes back to a cell after more rows than this is another layer: more than a pass over a broad fill's row takes. */
const LAYER_GAP = 160;
/** A layer counts from this cover on; less is underlay or travel. */
const LAYER_COVER = 0.45;
/** The most cells that are made: 1000 × 1000 mm. A larger field gets larger cells. */
const MAX_CELLS = 4_000_000;
/** An empty frame around the penetrations, in cells, so that smoothing and outlines need no edge cases. */
const FRAME = 2;

/**
 * Thread on the cloth, by cell, row by row from the lowest y up. K = length × thickness / area: 1 is one closed layer.
 */
export interface CoverMap {
  /** Edge of a cell, mm. */
  readonly cell: number;
  readonly columns: number;
  readonly rows: number;
  /** Lower left corner of the first cell, mm. */
  readonly minX: number;
  readonly minY: number;
  /** K of all layers, smoothed over 1 mm. */
  readonly cover: Float32Array;
  /** K of the densest single layer, smoothed alike, and the last program row that laid it; −1 where there is none. */
  readonly densestLayer: Float32Array;
  readonly densestRow: Int32Array;
  /** How many layers of cover lie here. */
  readonly layers: Uint8Array;
  /** Needle penetrations. */
  readonly penetrations: Uint16Array;
  readonly maxCover: number;
}

/**
 * Measures where how much thread lies. A layer is what is laid on a cell without the needle going elsewhere for long: another stretch, or
 * {@link LAYER_GAP} rows later, is another layer. O(rows + length laid / cell).
 */
export function mapCover(
  program: Program,
  thread: Pick<ThreadType, 'weight' | 'fiber'>,
  lengths: Float64Array = layLengths(program),
): CoverMap {
  const field = findField(program);
  const { columns, rows, minX, minY, cell } = field;
  const cells = columns * rows;
  const total = new Float32Array(cells);
  const densest = new Float32Array(cells);
  const densestRow = new Int32Array(cells).fill(-1);
  const current = new Float32Array(cells);
  const lastRow = new Int32Array(cells).fill(-LAYER_GAP - 1);
  const layers = new Uint8Array(cells);
  const penetrations = new Uint16Array(cells);
  const perLength = threadThickness(thread) / (cell * cell);
  let stretchStart = 0;

  let isStitching = false;
  for (let i = 0; i < program.rowCount; i++) {
    if (program.command[i] !== STITCH) {
      isStitching = false;
      continue;
    }
    if (!isStitching) stretchStart = i;
    isStitching = true;
    const at = cellAt(program.x[i]!, program.y[i]!);
    if (penetrations[at]! < 65535) penetrations[at]!++;
    if (lengths[i]! > 0 && i > 0) laySegment(i);
  }
  for (let at = 0; at < cells; at++) closeLayer(at);

  const cover = smooth(total, columns, rows);
  let maxCover = 0;
  for (const k of cover) if (k > maxCover) maxCover = k;
  return {
    cell,
    columns,
    rows,
    minX,
    minY,
    cover,
    densestLayer: smooth(densest, columns, rows),
    densestRow,
    layers,
    penetrations,
    maxCover,
  };

  function cellAt(x: number, y: number): number {
    return Math.floor((y - minY) / cell) * columns + Math.floor((x - minX) / cell);
  }

  /** Walks the cells that the stitch ending at row i crosses, adding to each the length inside it. */
  function laySegment(i: number): void {
    const x0 = (program.x[i - 1]! - minX) / cell;
    const y0 = (program.y[i - 1]! - minY) / cell;
    const dx = (program.x[i]! - minX) / cell - x0;
    const dy = (program.y[i]! - minY) / cell - y0;
    const length = lengths[i]!;
    const stepX = dx > 0 ? 1 : -1;
    const stepY = dy > 0 ? 1 : -1;
    let column = Math.floor(x0);
    let row = Math.floor(y0);
    const perX = dx === 0 ? Infinity : Math.abs(1 / dx);
    const perY = dy === 0 ? Infinity : Math.abs(1 / dy);
    let nextX = dx === 0 ? Infinity : (dx > 0 ? column + 1 - x0 : x0 - column) * perX;
    let nextY = dy === 0 ? Infinity : (dy > 0 ? row + 1 - y0 : y0 - row) * perY;
    let t = 0;
    while (t < 1) {
      const until = Math.min(1, nextX, nextY);
      lay(row * columns + column, (until - t) * length * perLength, i);
      t = until;
      if (t >= 1) break;
      if (nextX <= nextY) {
        column += stepX;
        nextX += perX;
      } else {
        row += stepY;
        nextY += perY;
      }
    }
  }

  function lay(at: number, k: number, i: number): void {
    if (i - lastRow[at]! > LAYER_GAP || lastRow[at]! < stretchStart) closeLayer(at);
    total[at]! += k;
    current[at]! += k;
    lastRow[at] = i;
  }

  function closeLayer(at: number): void {
    const k = current[at]!;
    if (k === 0) return;
    if (k >= LAYER_COVER && layers[at]! < 255) layers[at]!++;
    if (k > densest[at]!) {
      densest[at] = k;
      densestRow[at] = lastRow[at]!;
    }
    current[at] = 0;
  }
}

function findField(program: Program): { columns: number; rows: number; minX: number; minY: number; cell: number } {
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i]!;
    // Floats end at jumps, and what lies between two stitches is laid from the row before.
    if (command > 1) continue;
    minX = Math.min(minX, program.x[i]!);
    maxX = Math.max(maxX, program.x[i]!);
    minY = Math.min(minY, program.y[i]!);
    maxY = Math.max(maxY, program.y[i]!);
  }
  if (minX > maxX) return { columns: 1, rows: 1, minX: 0, minY: 0, cell: COVER_CELL };
  let cell = COVER_CELL;
  for (;;) {
    const left = Math.floor(minX / cell) - FRAME;
    const low = Math.floor(minY / cell) - FRAME;
    const columns = Math.floor(maxX / cell) + 1 + FRAME - left;
    const rows = Math.floor(maxY / cell) + 1 + FRAME - low;
    if (columns * rows <= MAX_CELLS) return { columns, rows, minX: left * cell, minY: low * cell, cell };
    cell *= 2;
  }
}

/** Weights ¼ ½ ¼ across and along: a bell 1 mm wide at half its height with cells of 0.5 mm. Keeps the sum inside the frame. */
function smooth(values: Float32Array, columns: number, rows: number): Float32Array {
  const across = new Float32Array(values.length);
  for (let row = 0; row < rows; row++) {
    for (let column = 1; column < columns - 1; column++) {
      const at = row * columns + column;
      across[at] = 0.25 * values[at - 1]! + 0.5 * values[at]! + 0.25 * values[at + 1]!;
    }
  }
  const out = new Float32Array(values.length);
  for (let at = columns; at < values.length - columns; at++) {
    out[at] = 0.25 * across[at - columns]! + 0.5 * across[at]! + 0.25 * across[at + columns]!;
  }
  return out;
}
