import { type Program, STITCH } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';
import { type ThreadType, threadThickness } from '../model/thread.ts';
import { boxOfMarks, cellAt, eachCell, type Field, findField, meets, walkSegment } from './coverField.ts';

/** Thread that comes back to a cell after more rows than this is another layer: more than a pass over a broad fill's row takes. */
const LAYER_GAP = 160;
/** A layer counts from this cover on; less is underlay or travel. */
const LAYER_COVER = 0.45;
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
  /** What {@link updateCover} goes on from. */
  readonly laid: Laid;
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
  const laid = layNothing(field.columns * field.rows);
  lay(program, lengths, field, threadThickness(thread) / (field.cell * field.cell), laid, undefined);
  return smoothed(field, laid);
}

/** The same of a program's rows before `upTo` only, on the cells of the whole of it; `thickness` of the thread in mm. */
export function mapCoverBefore(program: Program, upTo: number, thickness: number): CoverMap {
  const field = findField(program);
  const laid = layNothing(field.columns * field.rows);
  lay(program, layLengths(program), field, thickness / (field.cell * field.cell), laid, undefined, upTo);
  return smoothed(field, laid);
}

/** More than this share of its rows anew is measured from scratch. */
const MOST_CHANGED = 0.25;

/**
 * The map of a program that came from another one, whose map it is given, by rows in one place: the same as from scratch, but only what lies near
 * those rows is measured. The thread has to be the same. O(rows) by comparing them, and the rest by what changed.
 */
export function updateCover(
  map: CoverMap,
  before: Program,
  after: Program,
  thread: Pick<ThreadType, 'weight' | 'fiber'>,
  lengths: Float64Array = layLengths(after),
): CoverMap {
  const field = findField(after);
  const change = findChange(before, after);
  const isSameField = (['columns', 'rows', 'minX', 'minY', 'cell'] as const).every((name) => field[name] === map[name]);
  if (
    !isSameField ||
    change.end - change.first > MOST_CHANGED * after.rowCount ||
    change.endBefore - change.first > MOST_CHANGED * after.rowCount
  )
    return mapCover(after, thread, lengths);
  const { columns } = field;
  // Whether thread that comes back is another layer depends on how many rows lie between: so far behind the change it may be told otherwise.
  const isTouched = new Uint8Array(columns * field.rows);
  const mark = (at: number): void => void (isTouched[at] = 1);
  eachCell(before, layLengths(before), field, change.first, change.endBefore + LAYER_GAP + 1, mark);
  eachCell(after, lengths, field, change.first, change.end + LAYER_GAP + 1, mark);
  const laid = copyOf(map.laid);
  const shift = after.rowCount - before.rowCount;
  for (let at = 0; at < isTouched.length; at++) {
    if (isTouched[at] === 1) {
      laid.total[at] = laid.densest[at] = laid.layers[at] = laid.penetrations[at] = 0;
      laid.densestRow[at] = -1;
    } else if (laid.densestRow[at]! >= change.endBefore) laid.densestRow[at]! += shift;
  }
  lay(after, lengths, field, threadThickness(thread) / (field.cell * field.cell), laid, isTouched);
  return smoothed(field, laid, { map, isTouched });
}

/** Thread by cell before it is smoothed: K of all layers and of the densest one, and what is told of it. */
interface Laid {
  readonly total: Float32Array;
  readonly densest: Float32Array;
  readonly densestRow: Int32Array;
  readonly layers: Uint8Array;
  readonly penetrations: Uint16Array;
}

function layNothing(cells: number): Laid {
  return {
    total: new Float32Array(cells),
    densest: new Float32Array(cells),
    densestRow: new Int32Array(cells).fill(-1),
    layers: new Uint8Array(cells),
    penetrations: new Uint16Array(cells),
  };
}

function copyOf({ total, densest, densestRow, layers, penetrations }: Laid): Laid {
  return {
    ...{ total: total.slice(), densest: densest.slice(), densestRow: densestRow.slice(), layers: layers.slice() },
    penetrations: penetrations.slice(),
  };
}

/** Smoothed maps of what is laid; where only some cells were touched, from the map before and anew around those. */
function smoothed(field: Field, laid: Laid, known?: { readonly map: CoverMap; readonly isTouched: Uint8Array }): CoverMap {
  const { columns, rows } = field;
  const range = known === undefined ? { first: 0, end: rows } : rowsOfMarks(known.isTouched, columns);
  const cover = smooth(laid.total, columns, rows, range, known?.map.cover);
  let maxCover = 0;
  for (const k of cover) if (k > maxCover) maxCover = k;
  const { densestRow, layers, penetrations } = laid;
  const densestLayer = smooth(laid.densest, columns, rows, range, known?.map.densestLayer);
  return { ...field, cover, densestLayer, densestRow, layers, penetrations, maxCover, laid };
}

/** The rows of cells on which marks have an effect once they are smoothed. */
function rowsOfMarks(isMarked: Uint8Array, columns: number): { first: number; end: number } {
  const low = isMarked.indexOf(1);
  const high = isMarked.lastIndexOf(1);
  return low < 0 ? { first: 0, end: 0 } : { first: Math.floor(low / columns) - 1, end: Math.floor(high / columns) + 2 };
}

/** The rows that are not the same in two programs: from `first` to before `endBefore` of one, to before `end` of the other. */
function findChange(before: Program, after: Program): { first: number; endBefore: number; end: number } {
  const isSame = (i: number, k: number): boolean =>
    before.command[i] === after.command[k] && before.x[i] === after.x[k] && before.y[i] === after.y[k];
  const least = Math.min(before.rowCount, after.rowCount);
  let first = 0;
  while (first < least && isSame(first, first)) first++;
  let [endBefore, end] = [before.rowCount, after.rowCount];
  while (endBefore > first && end > first && isSame(endBefore - 1, end - 1)) [endBefore, end] = [endBefore - 1, end - 1];
  return { first, endBefore, end };
}

/** Lays the thread of a program's rows before `upTo`, on marked cells only where some are marked. */
function lay(
  program: Program,
  lengths: Float64Array,
  field: Field,
  perLength: number,
  laid: Laid,
  isMarked: Uint8Array | undefined,
  upTo = program.rowCount,
): void {
  const { total, densest, densestRow, layers, penetrations } = laid;
  const cells = total.length;
  const current = new Float32Array(cells);
  const lastRow = new Int32Array(cells).fill(-LAYER_GAP - 1);
  const within = isMarked === undefined ? undefined : boxOfMarks(isMarked, field);
  let stretchStart = 0;
  let isStitching = false;
  let row = 0;
  const put = (at: number, length: number): void => {
    if (isMarked !== undefined && isMarked[at] !== 1) return;
    const k = length * perLength;
    if (row - lastRow[at]! > LAYER_GAP || lastRow[at]! < stretchStart) closeLayer(at);
    total[at]! += k;
    current[at]! += k;
    lastRow[at] = row;
  };
  for (; row < upTo; row++) {
    if (program.command[row] !== STITCH) {
      isStitching = false;
      continue;
    }
    if (!isStitching) stretchStart = row;
    isStitching = true;
    if (within !== undefined && !meets(program, row, within)) continue;
    const at = cellAt(field, program.x[row]!, program.y[row]!);
    if ((isMarked === undefined || isMarked[at] === 1) && penetrations[at]! < 65535) penetrations[at]!++;
    if (lengths[row]! > 0 && row > 0) walkSegment(program, lengths, field, row, put);
  }
  for (let at = 0; at < cells; at++) closeLayer(at);

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

/**
 * Weights ¼ ½ ¼ across and along: a bell 1 mm wide at half its height with cells of 0.5 mm. Keeps the sum inside the frame. Only rows of cells in
 * `range` are worked out; the others are those of `known`.
 */
function smooth(
  values: Float32Array,
  columns: number,
  rows: number,
  range: { readonly first: number; readonly end: number },
  known?: Float32Array,
): Float32Array {
  const [first, end] = [Math.max(0, range.first), Math.min(rows, range.end)];
  const across = new Float32Array(values.length);
  for (let row = Math.max(0, first - 1); row < Math.min(rows, end + 1); row++) {
    for (let column = 1; column < columns - 1; column++) {
      const at = row * columns + column;
      across[at] = 0.25 * values[at - 1]! + 0.5 * values[at]! + 0.25 * values[at + 1]!;
    }
  }
  const out = known?.slice() ?? new Float32Array(values.length);
  for (let at = Math.max(1, first) * columns; at < Math.min(rows - 1, end) * columns; at++) {
    out[at] = 0.25 * across[at - columns]! + 0.5 * across[at]! + 0.25 * across[at + columns]!;
  }
  return out;
}
