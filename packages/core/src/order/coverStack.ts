import type { Point, StitchObject } from '../model/stitchObject.ts';
import { CELL, cellAt, type Cells, isClosedCover, solidCells } from './cells.ts';

/** A path lies so far inside the edge of what hides it, mm. Common practice. */
const INSIDE = 0.3;
/** Ways are looked for in steps of so many cells. */
export const STEP = 2;
/** Cells around all covers, so that no search needs to look for an edge. */
const FRAME = 4;
/** From an end, the first or last so many mm may lie on what the thread just sewed or is about to sew, nearer to its edge. */
export const AT_ENDS = 1.2;

/** An object as far as it hides others: where in the order it is sewn, with which color, and what it covers. */
export interface Hider {
  readonly object: StitchObject;
  readonly color: string;
}

/** No object covers a cell. */
export const NOBODY = -1;

/**
 * Which closed covers lie on which cells of 0.2 mm, in the order in which they are sewn; so it is known where a path shows that is sewn between two of
 * them. Times are places in that order. O(cells) to make.
 */
export class CoverStack {
  readonly hiders: readonly Hider[];
  private readonly minColumn: number;
  private readonly minRow: number;
  readonly columns: number;
  private readonly rows: number;
  /** The last object of the order that covers a cell; and the earliest of those last ones around it. */
  readonly last: Int32Array;
  private readonly lastAround: Int32Array;
  /** Cells in the steps that searches take that any object covers, and the latest of those that hide a path on them. */
  private readonly covered: readonly number[];
  private readonly latest: number;
  /** All objects that cover each cell, in order: from `starts[cell]` to `starts[cell + 1]` in `stack`. */
  private readonly starts: Int32Array;
  private readonly stack: Int32Array;

  /** `hiders` in sewing order; `thickness` of the thread in mm. */
  constructor(hiders: readonly Hider[], thickness: number) {
    this.hiders = hiders;
    const solid = hiders.map(({ object }): Cells => (isClosedCover(object, thickness) ? solidCells(object) : new Int32Array(0)));
    let [minColumn, minRow, maxColumn, maxRow] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const cells of solid)
      for (const cell of cells) {
        const [column, row] = [cell >> 14, cell & 0x3fff];
        if (column < minColumn) minColumn = column;
        if (column > maxColumn) maxColumn = column;
        if (row < minRow) minRow = row;
        if (row > maxRow) maxRow = row;
      }
    const isEmpty = maxColumn < minColumn;
    this.minColumn = isEmpty ? 0 : minColumn - FRAME;
    this.minRow = isEmpty ? 0 : minRow - FRAME;
    this.columns = isEmpty ? 1 : STEP * Math.ceil((maxColumn - minColumn + 1 + 2 * FRAME) / STEP);
    this.rows = isEmpty ? 1 : maxRow - minRow + 1 + 2 * FRAME;
    const count = this.columns * this.rows;
    // A stack is made for every order that is weighed: its loops know nothing but arrays.
    const { columns, minColumn: left, minRow: top } = this;
    const last = new Int32Array(count).fill(NOBODY);
    const starts = new Int32Array(count + 1);
    for (const cells of solid)
      for (let n = 0; n < cells.length; n++) starts[((cells[n]! & 0x3fff) - top) * columns + (cells[n]! >> 14) - left + 1]!++;
    for (let k = 0; k < count; k++) starts[k + 1]! += starts[k]!;
    const next = starts.slice();
    const stack = new Int32Array(starts[count]!);
    for (let k = 0; k < solid.length; k++) {
      const cells = solid[k]!;
      for (let n = 0; n < cells.length; n++) {
        const at = ((cells[n]! & 0x3fff) - top) * columns + (cells[n]! >> 14) - left;
        last[at] = k;
        stack[next[at]!++] = k;
      }
    }
    [this.last, this.starts, this.stack] = [last, starts, stack];
    this.lastAround = this.leastAround(last);
    const covered: number[] = [];
    for (let row = 0; row < this.rows; row += STEP)
      for (let k = row * columns; k < (row + 1) * columns; k += STEP) if (this.lastAround[k] !== NOBODY) covered.push(k);
    this.covered = covered;
    this.latest = covered.reduce((latest, k) => Math.max(latest, this.lastAround[k]!), NOBODY);
  }

  /** How many cells there are. */
  get size(): number {
    return this.last.length;
  }

  /** The number of a cell here on the grid of all designs. */
  global(at: number): number {
    return (((at % this.columns) + this.minColumn) << 14) | (Math.floor(at / this.columns) + this.minRow);
  }

  /** The cell that a place lies in; none beside all covers. */
  cellOf({ x, y }: Point): number | undefined {
    const cell = cellAt(x, y);
    const [column, row] = [(cell >> 14) - this.minColumn, (cell & 0x3fff) - this.minRow];
    return column < 0 || row < 0 || column >= this.columns || row >= this.rows ? undefined : row * this.columns + column;
  }

  /** The least value within {@link INSIDE} and half a thread around each cell. */
  private leastAround(values: Int32Array): Int32Array {
    const out = values.slice();
    const { columns } = this;
    const reach = Math.ceil((INSIDE + CELL / 2) / CELL);
    const around: number[] = [];
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) if (Math.hypot(dx, dy) * CELL <= INSIDE + CELL / 2) around.push(dy * columns + dx);
    for (let row = FRAME; row < this.rows - FRAME; row++)
      for (let column = FRAME; column < columns - FRAME; column++) {
        const at = row * columns + column;
        if (values[at] === NOBODY) continue;
        let least = values[at]!;
        for (let n = 0; n < around.length; n++) {
          const beside = values[at + around[n]!]!;
          if (beside < least) least = beside;
        }
        out[at] = least;
      }
    return out;
  }

  /**
   * Which cells hang together, by numbers, among those that are hidden from a path sewn right after object `time`; 0 where none is. Paths later than
   * that find no others.
   */
  partsFrom(time: number): (place: Point) => number {
    if (this.latest <= time) return () => 0;
    const { lastAround } = this;
    const parts = new Int32Array(lastAround.length);
    let count = 0;
    const waiting: number[] = [];
    const reach = [STEP, -STEP, STEP * this.columns, -STEP * this.columns];
    for (const k of this.covered) {
      if (parts[k] !== 0 || lastAround[k]! <= time) continue;
      parts[k] = ++count;
      waiting.push(k);
      for (let at = waiting.pop(); at !== undefined; at = waiting.pop())
        for (let way = 0; way < 4; way++) {
          const next = at + reach[way]!;
          if (next < 0 || next >= parts.length || parts[next] !== 0 || lastAround[next]! <= time) continue;
          parts[next] = count;
          waiting.push(next);
        }
    }
    const near = Math.ceil(AT_ENDS / CELL);
    return (place) => {
      const at = this.cellOf(place);
      if (at === undefined) return 0;
      // The nearest part within reach of an end, ring after ring.
      for (let r = 0; r <= near; r++)
        for (let dy = -r; dy <= r; dy++)
          for (let dx = -r; dx <= r; dx += Math.abs(dy) === r || r === 0 ? 1 : 2 * r) {
            const part = parts[at + dy * this.columns + dx];
            if (part !== undefined && part > 0) return part;
          }
      return 0;
    };
  }

  /** The last object that covers a cell of those sewn up to `time`. */
  topAt(at: number, time: number): number {
    for (let k = this.starts[at + 1]! - 1; k >= this.starts[at]!; k--) if (this.stack[k]! <= time) return this.stack[k]!;
    return NOBODY;
  }

  /** Whether thread that is laid at a place right after object `time` is covered by what is sewn later. */
  covers(place: Point, time: number): boolean {
    const at = this.cellOf(place);
    return at !== undefined && this.last[at]! > time;
  }

  /** Whether a path that begins or ends at a place right after object `time` can be hidden from there on. */
  mayHide(place: Point, time: number): boolean {
    const at = this.cellOf(place);
    if (at === undefined) return false;
    const reach = Math.ceil(AT_ENDS / CELL);
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) if ((this.lastAround[at + dy * this.columns + dx] ?? NOBODY) > time) return true;
    return false;
  }

  /** Whether a path at this cell, sewn right after object `time`, is hidden by what is sewn later. */
  isHidden(at: number, time: number): boolean {
    return this.lastAround[at]! > time;
  }
}
