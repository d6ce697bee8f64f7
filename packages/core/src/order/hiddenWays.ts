import FlatQueue from 'flatqueue';
import type { Point, StitchObject } from '../model/stitchObject.ts';
import { CELL, cellAt, type Cells, isClosedCover, middleOf, solidCells } from './cells.ts';

/** A path lies so far inside the edge of what hides it, mm. Common practice. */
export const INSIDE = 0.3;
/** Ways are looked for in steps of so many cells. */
const STEP = 2;
/** A path runs so much dearer square to the rows of what hides it than along them, where it sinks in. From memory. */
const ACROSS = 0.35;
/** On top of what its own thread covers a path counts so many times as long, and goes no farther than this (mm): it is hidden by color alone. */
const ON_TOP = 2.5;
const MOST_ON_TOP = 14;
/** Hidden paths take steps of this length, mm. Common practice. */
export const HIDDEN_STITCH = 4;
/** From an end, the first or last so many mm may lie on what the thread just sewed or is about to sew, nearer to its edge. */
const AT_ENDS = 1.2;

/** An object as far as it hides others: where in the order it is sewn, with which color, and what it covers. */
export interface Hider {
  readonly object: StitchObject;
  readonly color: string;
}

/** A path that stitching hides, and by what. */
export interface HiddenWay {
  /** Penetrations between both ends, xyxy, mm. */
  readonly points: Float64Array;
  /** Length with both ends, mm; and how much of it lies on top of what its own thread covers. */
  readonly length: number;
  readonly onTop: number;
  /** Indices of the objects that hide it. */
  readonly under: readonly number[];
}

const NOBODY = -1;

/**
 * Where paths can hide in a design that is sewn in some order: cells that a closed cover hides which is sewn later, 0.3 mm inside its edge, and cells
 * that the thread itself has covered already. O(cells) to make; a search is O(cells in reach · log).
 */
export class HiddenWays {
  private readonly hiders: readonly Hider[];
  private readonly minColumn: number;
  private readonly minRow: number;
  private readonly columns: number;
  private readonly rows: number;
  /** The last object of the order that covers a cell; and the earliest of those last ones around it. */
  private readonly last: Int32Array;
  private readonly lastAround: Int32Array;
  /** All objects that cover each cell, in order: from `starts[cell]` to `starts[cell + 1]` in `stack`. */
  private readonly starts: Int32Array;
  private readonly stack: Int32Array;
  private readonly cost: Float64Array;
  private readonly from: Int32Array;
  private readonly stamp: Int32Array;
  private search = 0;

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
    this.last = new Int32Array(count).fill(NOBODY);
    this.starts = new Int32Array(count + 1);
    for (const cells of solid) for (const cell of cells) this.starts[this.local(cell) + 1]!++;
    for (let k = 0; k < count; k++) this.starts[k + 1]! += this.starts[k]!;
    const next = this.starts.slice();
    this.stack = new Int32Array(this.starts[count]!);
    solid.forEach((cells, k) => {
      for (const cell of cells) {
        const at = this.local(cell);
        this.last[at] = k;
        this.stack[next[at]!++] = k;
      }
    });
    this.lastAround = this.leastAround(this.last);
    this.cost = new Float64Array(count);
    this.from = new Int32Array(count);
    this.stamp = new Int32Array(count);
  }

  private local(cell: number): number {
    return ((cell & 0x3fff) - this.minRow) * this.columns + (cell >> 14) - this.minColumn;
  }

  private global(at: number): number {
    return (((at % this.columns) + this.minColumn) << 14) | (Math.floor(at / this.columns) + this.minRow);
  }

  /** The cell that a place lies in; none beside all covers. */
  private cellOf({ x, y }: Point): number | undefined {
    const cell = cellAt(x, y);
    const [column, row] = [(cell >> 14) - this.minColumn, (cell & 0x3fff) - this.minRow];
    return column < 0 || row < 0 || column >= this.columns || row >= this.rows ? undefined : row * this.columns + column;
  }

  /** The least value within {@link INSIDE} and half a thread around each cell. */
  private leastAround(values: Int32Array): Int32Array {
    const out = values.slice();
    const reach = Math.ceil((INSIDE + CELL / 2) / CELL);
    const around: number[] = [];
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) if (Math.hypot(dx, dy) * CELL <= INSIDE + CELL / 2) around.push(dy * this.columns + dx);
    for (let row = FRAME; row < this.rows - FRAME; row++)
      for (let column = FRAME; column < this.columns - FRAME; column++) {
        const at = row * this.columns + column;
        if (values[at] === NOBODY) continue;
        let least = values[at]!;
        for (const d of around) if (values[at + d]! < least) least = values[at + d]!;
        out[at] = least;
      }
    return out;
  }

  /**
   * Which cells hang together, by numbers, among those that are hidden from a path sewn right after object `time`; 0 where none is. Paths later than
   * that find no others.
   */
  partsFrom(time: number): (place: Point) => number {
    let latest = NOBODY;
    for (const last of this.lastAround) if (last > latest) latest = last;
    if (latest <= time) return () => 0;
    // Looked at in the steps that searches take.
    const parts = new Int32Array(this.lastAround.length);
    let count = 0;
    const waiting: number[] = [];
    const reach = [STEP, -STEP, STEP * this.columns, -STEP * this.columns];
    for (let row = 0; row < this.rows; row += STEP)
      for (let k = row * this.columns; k < (row + 1) * this.columns; k += STEP) {
        if (parts[k] !== 0 || this.lastAround[k]! <= time) continue;
        parts[k] = ++count;
        waiting.push(k);
        for (let at = waiting.pop(); at !== undefined; at = waiting.pop())
          for (const d of reach) {
            const next = at + d;
            if (next < 0 || next >= parts.length || parts[next] !== 0 || this.lastAround[next]! <= time) continue;
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
  private topAt(at: number, time: number): number {
    for (let k = this.starts[at + 1]! - 1; k >= this.starts[at]!; k--) if (this.stack[k]! <= time) return this.stack[k]!;
    return NOBODY;
  }

  /** Whether thread that is laid at a place right after object `time` is covered by what is sewn later. */
  covers(place: Point, time: number): boolean {
    const at = this.cellOf(place);
    return at !== undefined && this.last[at]! > time;
  }

  /** Whether a path at this cell, sewn right after object `time`, is hidden by what is sewn later. */
  isHidden(at: number, time: number): boolean {
    return this.lastAround[at]! > time;
  }

  private isOwn(at: number, time: number, color: string): boolean {
    const top = this.topAt(at, time);
    if (top === NOBODY || this.hiders[top]!.color !== color) return false;
    for (const d of [-STEP, STEP, -STEP * this.columns, STEP * this.columns]) {
      const beside = this.topAt(at + d, time);
      if (beside === NOBODY || this.hiders[beside]!.color !== color) return false;
    }
    return true;
  }

  /**
   * The cheapest path from where object `time` ends to where the next one begins that shows nowhere, or why there is none. It lies under what is sewn
   * later, or for a short way on what its own thread covers; near its ends also on the two objects that it joins.
   */
  find(from: Point, to: Point, time: number): HiddenWay | string {
    const [start, goal] = [this.cellOf(from), this.cellOf(to)];
    if (start === undefined || goal === undefined) return 'an end lies beside all that could hide a path';
    const { color } = this.hiders[time]!;
    const id = ++this.search;
    const queue = new FlatQueue<number>();
    const { columns, cost, stamp } = this;
    const goalX = goal % columns;
    const goalY = Math.floor(goal / columns);
    const left = (at: number): number => Math.hypot((at % columns) - goalX, Math.floor(at / columns) - goalY) * CELL;
    const lengthAt = (at: number): number =>
      Math.hypot((at % columns) - (start % columns), Math.floor(at / columns) - Math.floor(start / columns)) * CELL;
    const set = (at: number, value: number, before: number): void => {
      cost[at] = value;
      stamp[at] = id;
      this.from[at] = before;
      queue.push(at, value + left(at));
    };
    set(start, 0, -1);
    for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
      if (left(at) <= STEP * CELL * 1.5) return this.pathOf(at, from, to, time, color);
      const here = cost[at]!;
      for (const [dx, dy] of WAYS) {
        const next = at + (dy * columns + dx) * STEP;
        if (next < 0 || next >= cost.length) continue;
        const weight = this.weightAt(next, time, color, dx, dy, Math.min(lengthAt(next), left(next)));
        if (weight === Infinity) continue;
        const value = here + Math.hypot(dx, dy) * STEP * CELL * weight;
        if (stamp[next] === id && cost[next]! <= value + 1e-9) continue;
        set(next, value, at);
      }
    }
    return 'what is sewn later does not lead from one to the other';
  }

  /** How many times its length a step to a cell counts; not to be taken where it would show. `toEnd`: how near (mm) an end of the path is. */
  private weightAt(at: number, time: number, color: string, dx: number, dy: number, toEnd: number): number {
    if (this.isHidden(at, time)) {
      const { angle } = this.hiders[this.last[at]!]!.object;
      return angle === undefined ? 1 : 1 + ACROSS * Math.abs(Math.sin(Math.atan2(dy, dx) - (angle * Math.PI) / 180));
    }
    if (toEnd <= AT_ENDS && (this.last[at]! > time || this.isTopOf(at, time, color))) return 1.5;
    return this.isOwn(at, time, color) ? ON_TOP : Infinity;
  }

  private isTopOf(at: number, time: number, color: string): boolean {
    const top = this.topAt(at, time);
    return top !== NOBODY && this.hiders[top]!.color === color;
  }

  private pathOf(end: number, from: Point, to: Point, time: number, color: string): HiddenWay | string {
    const cells: number[] = [];
    for (let at = end; at >= 0; at = this.from[at]!) cells.push(at);
    cells.reverse();
    const places = [from, ...cells.slice(1).map((at) => middleOf(this.global(at))), to];
    const bends = this.tighten(places, from, to, time, color);
    const points = steps(bends);
    let [length, onTop] = [0, 0];
    const under = new Set<number>();
    for (let k = 1; k < bends.length; k++) {
      const [a, b] = [bends[k - 1]!, bends[k]!];
      const way = Math.hypot(b.x - a.x, b.y - a.y);
      length += way;
      const looks = Math.max(1, Math.ceil(way / CELL));
      for (let n = 0; n < looks; n++) {
        const t = (n + 0.5) / looks;
        const at = this.cellOf({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
        if (at !== undefined && this.last[at]! > time) under.add(this.last[at]!);
        else onTop += way / looks;
      }
    }
    if (onTop > MOST_ON_TOP) return `it would lie on top of what its own thread covers for ${onTop.toFixed(0)} mm`;
    return { points, length, onTop, under: [...under].sort((a, b) => a - b) };
  }

  /** The corners that stay when the path is pulled tight where it shows nowhere. */
  private tighten(places: readonly Point[], from: Point, to: Point, time: number, color: string): Point[] {
    const out = [places[0]!];
    for (let at = 0; at < places.length - 1;) {
      let next = Math.min(places.length - 1, at + FARTHEST);
      while (next > at + 1 && !this.isClear(places[at]!, places[next]!, from, to, time, color)) next--;
      out.push(places[next]!);
      at = next;
    }
    return out;
  }

  private isClear(a: Point, b: Point, from: Point, to: Point, time: number, color: string): boolean {
    const way = Math.hypot(b.x - a.x, b.y - a.y);
    const looks = Math.ceil(way / (CELL / 2));
    for (let k = 1; k < looks; k++) {
      const [x, y] = [a.x + ((b.x - a.x) * k) / looks, a.y + ((b.y - a.y) * k) / looks];
      const at = this.cellOf({ x, y });
      if (at === undefined) return false;
      const toEnd = Math.min(Math.hypot(x - from.x, y - from.y), Math.hypot(x - to.x, y - to.y));
      if (this.weightAt(at, time, color, 1, 0, toEnd) === Infinity) return false;
    }
    return true;
  }
}

/** Cells around all covers, so that no search needs to look for an edge. */
const FRAME = 4;
/** So many cells ahead it is tried whether a path can go straight. */
const FARTHEST = 90;
const WAYS = [
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
  [-1, -1],
  [0, -1],
  [1, -1],
] as const;

/** Penetrations along corners, both ends left out, none farther apart than {@link HIDDEN_STITCH}. */
function steps(corners: readonly Point[]): Float64Array {
  const out: number[] = [];
  for (let k = 1; k < corners.length; k++) {
    const [a, b] = [corners[k - 1]!, corners[k]!];
    const count = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y) / HIDDEN_STITCH - 1e-6));
    for (let n = 1; n <= count; n++) out.push(a.x + ((b.x - a.x) * n) / count, a.y + ((b.y - a.y) * n) / count);
  }
  return Float64Array.from(out.slice(0, -2));
}
