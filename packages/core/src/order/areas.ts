import { boxOfRing } from '../geometry/ring.ts';
import { remember } from '../model/remember.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { CELL, solidCells } from './cells.ts';

/** How two areas lie to each other: along how many mm their edges meet or lie on the other, and on how much cloth both lie, mm². */
export interface Relation {
  readonly contact: number;
  readonly shared: number;
}

/** Edges no farther apart than so many cells meet. */
const MEETING = 2;

/** The cells of an area as a picture of its box with a frame around it. */
interface Bitmap {
  readonly minColumn: number;
  readonly minRow: number;
  readonly columns: number;
  readonly rows: number;
  readonly bits: Uint8Array;
  /** Its cells that have a neighbour outside. */
  readonly edge: Int32Array;
  readonly count: number;
}

type Area = Pick<StitchObject, 'outline' | 'holes' | 'kind'>;

const BITMAPS = new WeakMap<Float64Array, Bitmap>();

function bitmapOf(area: Area): Bitmap {
  let known = BITMAPS.get(area.outline);
  if (known === undefined) {
    known = draw(solidCells(area));
    BITMAPS.set(area.outline, known);
  }
  return known;
}

function draw(cells: Int32Array): Bitmap {
  let [minColumn, minRow, maxColumn, maxRow] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const cell of cells) {
    const [column, row] = [cell >> 14, cell & 0x3fff];
    if (column < minColumn) minColumn = column;
    if (column > maxColumn) maxColumn = column;
    if (row < minRow) minRow = row;
    if (row > maxRow) maxRow = row;
  }
  if (cells.length === 0)
    return { minColumn: 0, minRow: 0, columns: 0, rows: 0, bits: new Uint8Array(0), edge: new Int32Array(0), count: 0 };
  [minColumn, minRow] = [minColumn - 1, minRow - 1];
  const [columns, rows] = [maxColumn - minColumn + 2, maxRow - minRow + 2];
  const bits = new Uint8Array(columns * rows);
  for (const cell of cells) bits[((cell & 0x3fff) - minRow) * columns + (cell >> 14) - minColumn] = 1;
  const edge: number[] = [];
  for (const cell of cells) {
    const at = ((cell & 0x3fff) - minRow) * columns + (cell >> 14) - minColumn;
    if (bits[at - 1] === 0 || bits[at + 1] === 0 || bits[at - columns] === 0 || bits[at + columns] === 0) edge.push(cell);
  }
  return { minColumn, minRow, columns, rows, bits, edge: Int32Array.from(edge), count: cells.length };
}

function has({ minColumn, minRow, columns, rows, bits }: Bitmap, column: number, row: number): boolean {
  const [c, r] = [column - minColumn, row - minRow];
  return c >= 0 && r >= 0 && c < columns && r < rows && bits[r * columns + c] === 1;
}

/** Area of an object as its cells give it, mm². */
export function areaOf(area: Area): number {
  return bitmapOf(area).count * CELL * CELL;
}

/** Whether a place lies on an area. */
export function liesOn(area: Area, x: number, y: number): boolean {
  return has(bitmapOf(area), Math.floor(x / CELL) + 8192, Math.floor(y / CELL) + 8192);
}

/** The share of an area's edge that lies on another area or beside it. O(edge cells). */
export function shareOfEdgeOn(area: Area, other: Area): number {
  const { edge } = bitmapOf(area);
  return edge.length === 0 ? 0 : countBeside(edge, bitmapOf(other)) / edge.length;
}

function countBeside(edge: Int32Array, other: Bitmap): number {
  let count = 0;
  for (const cell of edge) {
    const [column, row] = [cell >> 14, cell & 0x3fff];
    const isNear =
      has(other, column, row) ||
      has(other, column - MEETING, row) ||
      has(other, column + MEETING, row) ||
      has(other, column, row - MEETING) ||
      has(other, column, row + MEETING);
    if (isNear) count++;
  }
  return count;
}

const RELATIONS = remember((_: Float64Array) => new WeakMap<Float64Array, Relation>());
const NOTHING: Relation = { contact: 0, shared: 0 };

/** How two areas lie to each other; known for as long as their outlines are. O(edge cells + cells of the smaller one). */
export function relate(a: Area, b: Area): Relation {
  const [first, second] = comesFirst(a.outline, b.outline) ? [a, b] : [b, a];
  const known = RELATIONS(first.outline);
  let found = known.get(second.outline);
  if (found === undefined) {
    found = measure(bitmapOf(first), bitmapOf(second), first);
    known.set(second.outline, found);
  }
  return found;
}

/** An order of outlines, so that a pair is measured and known one way round: the shorter first, or the one farther left, or lower. */
function comesFirst(a: Float64Array, b: Float64Array): boolean {
  if (a.length !== b.length) return a.length < b.length;
  return a[0] === b[0] ? a[1]! < b[1]! : a[0]! < b[0]!;
}

function measure(a: Bitmap, b: Bitmap, area: Area): Relation {
  const isApart =
    a.minColumn > b.minColumn + b.columns + MEETING ||
    b.minColumn > a.minColumn + a.columns + MEETING ||
    a.minRow > b.minRow + b.rows + MEETING ||
    b.minRow > a.minRow + a.rows + MEETING;
  if (isApart || a.count === 0 || b.count === 0) return NOTHING;
  const contact = countBeside(a.edge, b) * CELL;
  if (contact === 0 && !contains(b, a)) return NOTHING;
  let shared = 0;
  for (const cell of solidCells(area)) if (has(b, cell >> 14, cell & 0x3fff)) shared++;
  return { contact, shared: shared * CELL * CELL };
}

/** Whether one area lies somewhere inside the other, whose edge it may not meet. */
function contains(outer: Bitmap, inner: Bitmap): boolean {
  const [a, b] = [outer.edge[0], inner.edge[0]];
  return (b !== undefined && has(outer, b >> 14, b & 0x3fff)) || (a !== undefined && has(inner, a >> 14, a & 0x3fff));
}

/** Pairs of areas, by their indices, that meet or share cloth; the earlier first. O(areas × those whose boxes meet). */
export function relatedPairs(areas: readonly Area[]): { readonly a: number; readonly b: number; readonly relation: Relation }[] {
  const boxes = areas.map((area, index) => ({ index, box: boxOfRing(area.outline) })).sort((p, q) => p.box[0] - q.box[0]);
  const out: { a: number; b: number; relation: Relation }[] = [];
  const reach = MEETING * CELL;
  for (let k = 0; k < boxes.length; k++)
    for (let n = k + 1; n < boxes.length && boxes[n]!.box[0] <= boxes[k]!.box[2] + reach; n++) {
      if (boxes[n]!.box[1] > boxes[k]!.box[3] + reach || boxes[k]!.box[1] > boxes[n]!.box[3] + reach) continue;
      const [a, b] = [Math.min(boxes[k]!.index, boxes[n]!.index), Math.max(boxes[k]!.index, boxes[n]!.index)];
      const relation = relate(areas[a]!, areas[b]!);
      if (relation.contact > 0 || relation.shared > 0) out.push({ a, b, relation });
    }
  return out.sort((p, q) => p.a - q.a || p.b - q.b);
}
