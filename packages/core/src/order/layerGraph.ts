import { Clipper, FillRule, type Paths64 } from 'clipper2-ts';
import { boxOfRing } from '../geometry/ring.ts';
import { thinRing } from '../geometry/smoothPath.ts';
import type { StitchObject } from '../model/stitchObject.ts';

/** One object lying on another that was sewn before it. */
export interface Layer {
  /** Indices into the objects. */
  readonly over: number;
  readonly under: number;
  /** Area that they share, mm². */
  readonly area: number;
}

/** Objects that share less than this (mm²) only touch. */
const HAIR = 0.3;
/** Clipper works on whole numbers: so many to a mm. */
const GRAIN = 1000;

/**
 * Which cover lies on which, by the area that their outlines share, in sewing order of the upper one. Underlay, travel, ties and lines have no
 * area of their own here. O(covers × those whose boxes meet, by their outlines); pairs that were asked about before are known.
 */
export function findLayers(objects: readonly StitchObject[]): Layer[] {
  const covers = objects.flatMap((object, index) =>
    object.role === 'cover' && object.outline.length >= 6 ? [{ index, box: boxOfRing(object.outline) }] : [],
  );
  const layers: Layer[] = [];
  // Swept from left to right, so that only what lies side by side is compared.
  const sorted = [...covers].sort((a, b) => a.box[0] - b.box[0]);
  for (const [k, a] of sorted.entries()) {
    for (let n = k + 1; n < sorted.length && sorted[n]!.box[0] <= a.box[2]; n++) {
      const b = sorted[n]!;
      if (b.box[1] > a.box[3] || a.box[1] > b.box[3]) continue;
      const area = areaShared(objects[a.index]!, objects[b.index]!);
      if (area >= HAIR) layers.push({ over: Math.max(a.index, b.index), under: Math.min(a.index, b.index), area });
    }
  }
  return layers.sort((a, b) => a.over - b.over || a.under - b.under);
}

/** How many covers lie under each object, one on the other: 0 on bare cloth. */
export function countLevels(objects: readonly StitchObject[], layers: readonly Layer[]): Int32Array {
  const level = new Int32Array(objects.length);
  // Layers come in sewing order of the upper one, so what lies under is known before what lies over.
  for (const { over, under } of layers) level[over] = Math.max(level[over]!, level[under]! + 1);
  return level;
}

/** Outlines are made by the ends of rows, which are ragged by about this, mm. */
const RAGGED = 0.05;

/** Paths and shared areas are known for as long as outlines are: an object that only moves in the order keeps them. */
const PATHS = new WeakMap<Float64Array, Paths64>();
const SHARED = new WeakMap<Float64Array, WeakMap<Float64Array, number>>();

function areaShared(a: StitchObject, b: StitchObject): number {
  const [first, second] = a.outline.length < b.outline.length ? [a, b] : [b, a];
  const known = SHARED.get(first.outline) ?? new WeakMap<Float64Array, number>();
  SHARED.set(first.outline, known);
  let area = known.get(second.outline);
  if (area === undefined) {
    area = Math.abs(Clipper.areaPaths(Clipper.intersect(pathsOf(first), pathsOf(second), FillRule.NonZero))) / (GRAIN * GRAIN);
    known.set(second.outline, area);
  }
  return area;
}

function pathsOf({ outline, holes, kind }: StitchObject): Paths64 {
  let paths = PATHS.get(outline);
  if (paths === undefined) {
    const rings = [outline, ...holes].map((ring) => {
      const thin = thinRing(ring, RAGGED);
      return Array.from({ length: thin.length / 2 }, (_, k) => ({
        x: Math.round(thin[k * 2]! * GRAIN),
        y: Math.round(thin[k * 2 + 1]! * GRAIN),
      }));
    });
    // A column's edges may overlap on a tight bend, and run either way round; a fill's holes run against its outline.
    paths = Clipper.union(rings, kind === 'satin' ? FillRule.NonZero : FillRule.EvenOdd);
    PATHS.set(outline, paths);
  }
  return paths;
}
