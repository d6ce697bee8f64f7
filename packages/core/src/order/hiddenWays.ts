import FlatQueue from 'flatqueue';
import type { Point } from '../model/stitchObject.ts';
import { CELL, middleOf } from './cells.ts';
import { AT_ENDS, type CoverStack, NOBODY, STEP } from './coverStack.ts';

/** A path runs so much dearer square to the rows of what hides it than along them, where it sinks in. From memory. */
const ACROSS = 0.35;
/** On top of what its own thread covers a path counts so many times as long, and goes no farther than this (mm): it is hidden by color alone. */
const ON_TOP = 2.5;
export const MOST_ON_TOP = 14;
/** Hidden paths take steps of this length, mm. Common practice. */
export const HIDDEN_STITCH = 4;
/** So near to the penetration that a path begins or ends with (mm) half of its thread lies where that object's own does. */
const IN_THE_HOLE = 0.4;

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

/**
 * Looks for paths that hide in a design which is sewn in some order: on cells that a closed cover hides which is sewn later, 0.3 mm inside its edge, and
 * on those that the thread itself has covered already. A search is O(cells in reach · log).
 */
export class HiddenWays {
  readonly stack: CoverStack;
  private readonly cost: Float64Array;
  private readonly from: Int32Array;
  private readonly stamp: Int32Array;
  /** How a cell can be taken in the search of its mark, see {@link mannerAt}. */
  private readonly manner: Uint8Array;
  private readonly marked: Int32Array;
  private search = 0;

  constructor(stack: CoverStack) {
    this.stack = stack;
    this.cost = new Float64Array(stack.size);
    this.from = new Int32Array(stack.size);
    this.stamp = new Int32Array(stack.size);
    this.manner = new Uint8Array(stack.size);
    this.marked = new Int32Array(stack.size);
  }

  private isOwn(at: number, time: number, color: string): boolean {
    const top = this.stack.topAt(at, time);
    if (top === NOBODY || this.stack.hiders[top]!.color !== color) return false;
    for (const d of [-STEP, STEP, -STEP * this.stack.columns, STEP * this.stack.columns]) {
      const beside = this.stack.topAt(at + d, time);
      if (beside === NOBODY || this.stack.hiders[beside]!.color !== color) return false;
    }
    return true;
  }

  /**
   * The cheapest path from where object `time` ends to where the next one begins that shows nowhere, or why there is none. It lies under what is sewn
   * later, or for a short way on what its own thread covers; near its ends also on the two objects that it joins.
   */
  find(from: Point, to: Point, time: number): HiddenWay | string {
    const [start, goal] = [this.stack.cellOf(from), this.stack.cellOf(to)];
    if (start === undefined || goal === undefined) return 'an end lies beside all that could hide a path';
    const { color } = this.stack.hiders[time]!;
    const id = ++this.search;
    const queue = new FlatQueue<number>();
    const { cost, stamp, manner, marked } = this;
    const { columns } = this.stack;
    const [startX, startY] = [start % columns, Math.floor(start / columns)];
    const [goalX, goalY] = [goal % columns, Math.floor(goal / columns)];
    const left = (at: number): number => distance((at % columns) - goalX, Math.floor(at / columns) - goalY) * CELL;
    const lengthAt = (at: number): number => distance((at % columns) - startX, Math.floor(at / columns) - startY) * CELL;
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
      for (let way = 0; way < WAYS.length; way++) {
        const [dx, dy] = WAYS[way]!;
        const next = at + (dy * columns + dx) * STEP;
        if (next < 0 || next >= cost.length) continue;
        // A cell is met from up to eight sides: what it is like is looked at once.
        if (marked[next] !== id) {
          marked[next] = id;
          manner[next] = this.mannerAt(next, time, color, Math.min(lengthAt(next), left(next)));
        }
        if (manner[next] === SHOWS) continue;
        const value = here + STEPS_OF[way]! * this.weightOf(next, manner[next]!, dx, dy);
        if (stamp[next] === id && cost[next]! <= value + 1e-9) continue;
        set(next, value, at);
      }
    }
    return 'what is sewn later does not lead from one to the other';
  }

  /** How a path can lie on a cell, if it can. `toEnd`: how near (mm) an end of the path is. */
  private mannerAt(at: number, time: number, color: string, toEnd: number): number {
    if (this.stack.isHidden(at, time)) return HIDES;
    if (toEnd <= AT_ENDS && this.isLaidOver(at, time, color, toEnd > IN_THE_HOLE)) return AT_AN_END;
    return this.isOwn(at, time, color) ? ITS_OWN : SHOWS;
  }

  /** How many times its length a step to a cell counts. */
  private weightOf(at: number, manner: number, dx: number, dy: number): number {
    if (manner !== HIDES) return manner === AT_AN_END ? 1.5 : ON_TOP;
    const { angle } = this.stack.hiders[this.stack.last[at]!]!.object;
    return angle === undefined ? 1 : 1 + ACROSS * Math.abs(Math.sin(Math.atan2(dy, dx) - (angle * Math.PI) / 180));
  }

  /** Whether thread at a cell is covered later, or lies on its own color; with as much of it as is beside the cell, where `isWhole`. */
  private isLaidOver(at: number, time: number, color: string, isWhole: boolean): boolean {
    const around = isWhole ? [0, 1, -1, this.stack.columns, -this.stack.columns] : [0];
    return around.every((d) => this.stack.last[at + d]! > time || this.isTopOf(at + d, time, color));
  }

  private isTopOf(at: number, time: number, color: string): boolean {
    const top = this.stack.topAt(at, time);
    return top !== NOBODY && this.stack.hiders[top]!.color === color;
  }

  private pathOf(end: number, from: Point, to: Point, time: number, color: string): HiddenWay | string {
    const cells: number[] = [];
    for (let at = end; at >= 0; at = this.from[at]!) cells.push(at);
    cells.reverse();
    const places = [from, ...cells.slice(1).map((at) => middleOf(this.stack.global(at))), to];
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
        const at = this.stack.cellOf({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
        if (at !== undefined && this.stack.last[at]! > time) under.add(this.stack.last[at]!);
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
      const at = this.stack.cellOf({ x, y });
      if (at === undefined) return false;
      const toEnd = Math.min(distance(x - from.x, y - from.y), distance(x - to.x, y - to.y));
      if (this.mannerAt(at, time, color, toEnd) === SHOWS) return false;
    }
    return true;
  }
}

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
/** How far (mm) a step of each of them is. */
const STEPS_OF = WAYS.map(([dx, dy]) => distance(dx, dy) * STEP * CELL);

/** Manners in which a path can lie on a cell: not without being seen, under what is sewn later, at its ends, on its own thread. */
const [SHOWS, HIDES, AT_AN_END, ITS_OWN] = [0, 1, 2, 3] as const;

/** Math.hypot takes several times as long, and these are called for every cell. */
function distance(dx: number, dy: number): number {
  return Math.sqrt(dx * dx + dy * dy);
}

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
