import { defaultTarget, generateFill, generateLock, ProgramBuilder, startDesign, type Design } from '@isola/core';
import type { Shape } from '../recognition/shapes.ts';
import { seededChance } from '../recognition/stitchSet.ts';

// Designs of shapes laid out so that it is known how many of their cuts and thread changes a good order needs, sewn in an order that a hasty hand might leave.

const chance = seededChance(19);
const [GROUND, LEAF, BAND] = ['#3a5a40', '#b8552f', '#24405c'];

interface Piece {
  readonly color: string;
  readonly points: Float64Array;
}

export interface Laid {
  readonly pieces: readonly Piece[];
  /** Cuts and thread changes that a good order needs. */
  readonly cuts: number;
  readonly changes: number;
}

/** A shape moved and scaled so that its longer side is `size` mm and its middle at x, y; its largest area only. */
function placed({ areas }: Shape, size: number, x: number, y: number): Float64Array[] {
  const extent = (rings: readonly Float64Array[]): number[] => {
    const [xs, ys] = [0, 1].map((axis) => rings.flatMap((ring) => [...ring].filter((_, k) => k % 2 === axis)));
    return [Math.min(...xs!), Math.max(...xs!), Math.min(...ys!), Math.max(...ys!)];
  };
  const sized = areas.map((rings) => ({ rings, box: extent(rings) }));
  const { rings, box } = sized.reduce((a, b) =>
    (b.box[1]! - b.box[0]!) * (b.box[3]! - b.box[2]!) > (a.box[1]! - a.box[0]!) * (a.box[3]! - a.box[2]!) ? b : a,
  );
  const scale = size / Math.max(box[1]! - box[0]!, box[3]! - box[2]!);
  const [mx, my] = [(box[0]! + box[1]!) / 2, (box[2]! + box[3]!) / 2];
  return rings.map((ring) => ring.map((v, k) => (v - (k % 2 === 0 ? mx : my)) * scale + (k % 2 === 0 ? x : y)));
}

function filled(rings: readonly Float64Array[], angle: number): Float64Array | undefined {
  const paths = generateFill(rings, { angle, spacing: 0.4, stitchLength: 4, offset: 0.3 }, {});
  return paths.length === 1 && paths[0]!.length > 40 ? paths[0] : undefined;
}

const square = (x: number, y: number, size: number): Float64Array[] => [
  Float64Array.of(x, y, x + size, y, x + size, y + size, x, y + size),
];
const isPiece = (piece: Piece | undefined): piece is Piece => piece !== undefined;

/** Tiles so near that one stitch carries over, each with a shape on it; sewn tile by tile: ground, shape, ground, shape. */
export function pieceByPiece(some: readonly Shape[]): Laid {
  const pairs = some.flatMap((shape, k) => {
    const [x, y] = [(k % 4) * 19.4, Math.floor(k / 4) * 19.4];
    const points = filled(placed(shape, 13, x + 9, y + 9), 45);
    return points === undefined
      ? []
      : [
          [
            { color: GROUND, points: filled(square(x, y, 18), 0)! },
            { color: LEAF, points },
          ],
        ];
  });
  // All grounds carried over, then each shape by itself: its neighbours lie too far.
  return { pieces: pairs.flat(), cuts: 1 + pairs.length, changes: 1 };
}

/** Shapes that reach under a band that is sewn last: paths under it join them all. Sewn in any order. */
export function underBand(some: readonly Shape[]): Laid {
  const leaves = some
    .map((shape, k): Piece | undefined => {
      const points = filled(placed(shape, 14, k * 16, k % 2 === 0 ? 7.5 : -7.5), 30 + 20 * (k % 4));
      return points === undefined ? undefined : { color: LEAF, points };
    })
    .filter(isPiece);
  const band = Float64Array.of(-8, -4, some.length * 16, -4, some.length * 16, 4, -8, 4);
  return { pieces: [...shuffled(leaves), { color: BAND, points: filled([band], 0)! }], cuts: 2, changes: 1 };
}

/** Tiles no farther apart than one stitch carries over, in any order and all cut; in so many colors. */
export function tiles(count: number, colors = 1): Laid {
  const columns = count > 100 ? 20 : 6;
  const all = Array.from({ length: count }, (_, k): Piece => ({
    color: [LEAF, GROUND, BAND][k % colors]!,
    points: filled(square((k % columns) * 9.2, Math.floor(k / columns) * 9.2, 8), 20 * (k % 5))!,
  }));
  return { pieces: shuffled(all), cuts: colors, changes: colors - 1 };
}

function shuffled<T>(list: readonly T[]): T[] {
  return list
    .map((item) => ({ item, at: chance() }))
    .sort((a, b) => a.at - b.at)
    .map(({ item }) => item);
}

/** All pieces one after another, the thread locked and cut between them. */
export function sewn({ pieces }: Laid): Design {
  const builder = new ProgramBuilder();
  const thousandth = (v: number): number => Math.round(v * 1000) / 1000;
  for (const { color, points } of pieces) {
    if (builder.rowCount > 0) builder.trim();
    if (builder.thread !== color) builder.color(color, color);
    const lock = (a: number, b: number): number[] => [...generateLock(points.at(a)!, points.at(a + 1)!, points.at(b)!, points.at(b + 1)!)];
    builder.jump(thousandth(points[0]!), thousandth(points[1]!));
    const all = [points[0]!, points[1]!, ...lock(0, 2), ...points.subarray(2), ...lock(-2, -4)];
    for (let k = 0; k < all.length; k += 2) builder.stitch(thousandth(all[k]!), thousandth(all[k + 1]!));
  }
  return startDesign(builder.trim().end().build(), defaultTarget());
}
