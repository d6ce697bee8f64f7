import { orderOf, type Plan, readRows, type Sewn, type ObjectId } from '../model/plan.ts';
import type { Program } from '../model/program.ts';
import { remember } from '../model/remember.ts';
import type { Point, StitchObject } from '../model/stitchObject.ts';
import { CELL, type Cells, middleOf, threadCells } from './cells.ts';

/** One object that is seen on top of another, so that it has to be sewn after it. Indices into {@link SeenLayers.ids}. */
export interface SeenLayer {
  readonly over: number;
  readonly under: number;
  /** On how much cloth that is seen, mm², and a place in the middle of it. */
  readonly area: number;
  readonly at: Point;
}

/** What has to stay on top of what, for all objects of a plan in its order. */
export interface SeenLayers {
  readonly ids: readonly ObjectId[];
  readonly layers: readonly SeenLayer[];
}

/** Less than this (mm²) is a hair: nobody sees which of the two lies on top. */
const HAIR = 0.3;
/** Of two objects of one color the order is seen by their relief where one lies on the other with this share of its cells… */
const ON_GROUND = 0.35;
/** …and they are of different kinds, or their rows run so differently, degrees. */
const OTHER_WAY = 20;

/**
 * What is seen to lie on what: object A has to be sewn before B where B's thread is on top of A's on more than a hair of cloth, and that can be told
 * there, by color or by relief. An order that cannot be told binds nobody: objects of one color that meet, or what a third one hides. Cells of
 * objects are known for as long as these are sewn so. O(cells of all objects).
 */
export function findSeenLayers(plan: Plan): SeenLayers {
  const ids = orderOf(plan);
  const cells = ids.map((id) => cellsOf(plan, id));
  const colors = colorsOf(plan);
  const readings = ids.map((id) => plan.objects[id]!.sewn.reading);
  const stacks = stackUp(cells);
  const tops = new Map<number, { count: number; x: number; y: number }>();
  stacks.forEach((cell, from, to, order) => {
    const over = order[to - 1]!;
    for (let k = from; k < to - 1; k++) {
      const key = over * ids.length + order[k]!;
      const known = tops.get(key);
      const { x, y } = middleOf(cell);
      if (known === undefined) tops.set(key, { count: 1, x, y });
      else {
        known.count++;
        known.x += x;
        known.y += y;
      }
    }
  });
  const layers: SeenLayer[] = [];
  for (const [key, { count, x, y }] of tops) {
    const [over, under] = [Math.floor(key / ids.length), key % ids.length];
    const area = count * CELL * CELL;
    if (area < HAIR) continue;
    const isSeen = colors[over] !== colors[under] || isRelief(readings[over]!, readings[under]!, count / cells[over]!.length);
    if (isSeen) layers.push({ over, under, area, at: { x: x / count, y: y / count } });
  }
  return { ids, layers: layers.sort((a, b) => a.over - b.over || a.under - b.under) };
}

function isRelief(over: StitchObject, under: StitchObject, share: number): boolean {
  if (share < ON_GROUND) return false;
  const [a, b] = [over.angle ?? 0, under.angle ?? 0];
  const between = Math.abs(((((a - b) % 180) + 270) % 180) - 90);
  return over.kind !== under.kind || between >= OTHER_WAY;
}

/** The color of each object's thread, in sewing order. */
function colorsOf({ blocks }: Plan): string[] {
  return blocks.flatMap(({ thread, objects }) => objects.map(() => thread?.color ?? ''));
}

const CELLS = remember((source: Program) => remember((sewn: Sewn) => cellsOfSewn(source, sewn)));

/** The cells that an object's own rows lie on. */
export function cellsOf(plan: Plan, id: ObjectId): Cells {
  return CELLS(plan.source)(plan.objects[id]!.sewn);
}

function cellsOfSewn(source: Program, { rows, start }: Sewn): Cells {
  const { program, first, end } = readRows(source, rows);
  return threadCells(program, first, end, start);
}

/** All cells that something lies on, each with the objects on it in sewing order. */
function stackUp(cells: readonly Cells[]): { forEach(take: (cell: number, from: number, to: number, order: Int32Array) => void): void } {
  const total = cells.reduce((sum, list) => sum + list.length, 0);
  // Sorted by cell; objects come in order, and stay in it within a cell.
  const keys = new Float64Array(total);
  let at = 0;
  cells.forEach((list, k) => {
    for (const cell of list) keys[at++] = cell * OBJECTS + k;
  });
  keys.sort();
  return {
    forEach(take): void {
      const order = new Int32Array(total);
      let from = 0;
      for (let k = 0; k < total; k++) order[k] = keys[k]! % OBJECTS;
      for (let k = 1; k <= total; k++) {
        const cell = Math.floor(keys[from]! / OBJECTS);
        if (k < total && Math.floor(keys[k]! / OBJECTS) === cell) continue;
        if (k - from > 1) take(cell, from, k, order);
        from = k;
      }
    },
  };
}

/** More objects than a design has. */
const OBJECTS = 2 ** 22;
