/** Places that a line may pass, on a grid that lies turned over a shape. An even number of columns and of rows. */
export interface MeanderGrid {
  readonly columns: number;
  readonly rows: number;
  /** 1 for places in the shape. */
  readonly inside: Uint8Array;
  /** 1 where the way from a place to the one to its right, or above it, lies in the shape as a whole. */
  readonly right: Uint8Array;
  readonly up: Uint8Array;
  /** Of the first place, in turned coordinates, and the step from place to place, mm. */
  readonly left: number;
  readonly low: number;
  readonly step: number;
  /** How far the grid is turned, as a direction. */
  readonly cos: number;
  readonly sin: number;
}

/** How a grid lies: turned counter-clockwise (degrees), and moved to the left and down by so many steps. */
export interface GridLay {
  readonly angle: number;
  readonly dx: number;
  readonly dy: number;
}

/** A shape with more places for the line than this asks for a wider spacing. */
const MOST_PLACES = 400_000;

/**
 * The grid of `step` mm over a shape (rings xyxy, mm). Undefined where the shape has no size.
 *
 * @throws RangeError when it would have too many places.
 */
export function findPlaces(rings: readonly Float64Array[], step: number, { angle, dx, dy }: GridLay): MeanderGrid | undefined {
  const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const turned = rings.map((ring) => ring.map((v, k) => (k % 2 === 0 ? v * cos + ring[k + 1]! * sin : v * cos - ring[k - 1]! * sin)));
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of turned) {
    for (let k = 0; k < ring.length; k += 2) {
      [minX, maxX] = [Math.min(minX, ring[k]!), Math.max(maxX, ring[k]!)];
      [minY, maxY] = [Math.min(minY, ring[k + 1]!), Math.max(maxY, ring[k + 1]!)];
    }
  }
  if (!(minX < maxX)) return undefined;
  const even = (n: number): number => n + (n % 2);
  const columns = even(Math.max(2, Math.floor((maxX - minX) / step + dx) + 1));
  const rows = even(Math.max(2, Math.floor((maxY - minY) / step + dy) + 1));
  if (columns * rows > MOST_PLACES) throw new RangeError(`the shape is too large for a meander at ${step} mm; take a wider spacing`);
  const [left, low] = [minX - dx * step, minY - dy * step];
  const [inside, right, up] = [new Uint8Array(columns * rows), new Uint8Array(columns * rows), new Uint8Array(columns * rows)];
  for (let r = 0; r < rows; r++) {
    forSpans(crossings(turned, 1, low + r * step), left, step, columns, (c, goesOn) => {
      inside[r * columns + c] = 1;
      if (goesOn) right[r * columns + c] = 1;
    });
  }
  for (let c = 0; c < columns; c++) {
    forSpans(crossings(turned, 0, left + c * step), low, step, rows, (r, goesOn) => {
      if (goesOn) up[r * columns + c] = 1;
    });
  }
  return { columns, rows, inside, right, up, left, low, step, cos, sin };
}

/** Calls back for each place of a line between an odd crossing and the next, and says whether the place after it lies there too. */
function forSpans(
  crossed: readonly number[],
  first: number,
  step: number,
  count: number,
  found: (place: number, goesOn: boolean) => void,
): void {
  for (let k = 0; k + 1 < crossed.length; k += 2) {
    const to = Math.min(count - 1, Math.floor((crossed[k + 1]! - first) / step));
    for (let p = Math.max(0, Math.ceil((crossed[k]! - first) / step)); p <= to; p++) found(p, p < to);
  }
}

/** Where a line on which one coordinate (0 x, 1 y) has a value crosses rings: the other coordinate, ascending. */
function crossings(rings: readonly Float64Array[], coordinate: 0 | 1, value: number): number[] {
  const found: number[] = [];
  for (const ring of rings) {
    const n = ring.length / 2;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      const [a, b] = [ring[i * 2 + coordinate]!, ring[j * 2 + coordinate]!];
      if (a > value === b > value) continue;
      const [ofA, ofB] = [ring[i * 2 + 1 - coordinate]!, ring[j * 2 + 1 - coordinate]!];
      found.push(ofA + ((ofB - ofA) * (value - a)) / (b - a));
    }
  }
  return found.sort((p, q) => p - q);
}

/** The sides of a place or a block in turn: right, up, left, down. */
export const SIDES = [0, 1, 2, 3] as const;

/** The place to a side of another; −1 beyond the grid. */
export function besideIn(columns: number, rows: number, at: number, side: number): number {
  const [c, r] = [at % columns, Math.floor(at / columns)];
  if (side === 0) return c + 1 < columns ? at + 1 : -1;
  if (side === 1) return r + 1 < rows ? at + columns : -1;
  if (side === 2) return c > 0 ? at - 1 : -1;
  return r > 0 ? at - columns : -1;
}

/** The place to a side of another to which a way leads inside the shape, −1 where there is none. */
export function openBeside(grid: MeanderGrid, at: number, side: number): number {
  const to = besideIn(grid.columns, grid.rows, at, side);
  if (to < 0) return -1;
  const isOpen = side === 0 ? grid.right[at] : side === 1 ? grid.up[at] : side === 2 ? grid.right[to] : grid.up[to];
  return isOpen === 1 ? to : -1;
}

/** Where a place lies, mm. */
export function placeAt({ columns, left, low, step, cos, sin }: MeanderGrid, at: number): [x: number, y: number] {
  const [u, v] = [left + (at % columns) * step, low + Math.floor(at / columns) * step];
  return [u * cos - v * sin, u * sin + v * cos];
}
