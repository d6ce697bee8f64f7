import {
  bandsOf,
  defaultTarget,
  type Design,
  FABRICS,
  generateLock,
  HOOPS,
  type ObjectShape,
  type ObjectSpec,
  ProgramBuilder,
  startDesign,
  type Target,
  usualUnderlay,
  USUAL_SPEC,
} from '@isola/core';
import { boxOfRing } from '../../packages/core/src/geometry/ring.ts';
import { sewObject } from '../../packages/core/src/plan/sewObject.ts';
import type { Shape } from '../recognition/shapes.ts';

// Designs of shapes that nobody here drew, sewn as their cloth wants it: sound ones, to plant faults in.

export interface Piece {
  readonly shape: ObjectShape;
  readonly spec: ObjectSpec;
  readonly color: string;
}

/** A design as a list of what is sewn after what. */
export interface Drawing {
  readonly pieces: readonly Piece[];
  readonly target: Target;
}

const [NAVY, SAND, RUST] = ['#1f3350', '#d8b56a', '#a4452c'];
/** Cloths that differ in what they want: firm, giving, light, heavy. */
export const CLOTHS = ['twill', 'pique-polo', 'poplin', 'softshell', 'canvas', 'jersey'];

export function targetOn(cloth: string): Target {
  const fabric = FABRICS.find(({ id }) => id === cloth)!;
  return { ...defaultTarget(), fabric, clothColor: '#7f8a86', garment: null, hoop: HOOPS[HOOPS.length - 1]! };
}

/** A spec as a cloth wants it for a kind of object. */
export function wanted(kind: 'fill' | 'satin' | 'run', target: Target, width: number, angle = 0, isOutlined = false): ObjectSpec {
  const plain: ObjectSpec = { ...USUAL_SPEC, kind, angle, width };
  const bands = bandsOf(plain, target, 0);
  const spec: ObjectSpec = {
    ...plain,
    spacing: bands.spacing?.best ?? plain.spacing,
    stitchLength: kind === 'run' ? 2.4 : 4,
    pull: kind === 'run' ? 0 : target.fabric.pull,
  };
  return { ...spec, underlay: usualUnderlay(spec, target, { width, isOutlined }).layers };
}

/** The largest area of a shape moved and scaled so that its longer side is `size` mm. */
function placed({ areas }: Shape, size: number, x: number, y: number): number[][] {
  const extent = (ring: Float64Array): number => {
    const [a, b, c, d] = boxOfRing(ring);
    return (c - a) * (d - b);
  };
  const rings = areas.reduce((a, b) => (extent(b[0]!) > extent(a[0]!) ? b : a));
  const [minX, minY, maxX, maxY] = boxOfRing(rings[0]!);
  const scale = size / Math.max(maxX - minX, maxY - minY);
  const [mx, my] = [(minX + maxX) / 2, (minY + maxY) / 2];
  return rings.map((ring) => Array.from(ring, (v, k) => (v - (k % 2 === 0 ? mx : my)) * scale + (k % 2 === 0 ? x : y)));
}

const square = (x: number, y: number, w: number, h: number): number[] => [x, y, x + w, y, x + w, y + h, x, y + h];

/** A drawing with a filled shape, a bordered one, two areas that meet, columns and lines. */
export function drawingOf(some: readonly Shape[], target: Target): Drawing {
  const [one, two] = some as [Shape, Shape];
  const pieces: Piece[] = [];
  const add = (color: string, spec: ObjectSpec, shape: ObjectShape): void => void pieces.push({ color, spec, shape });
  const area = (rings: number[][]): ObjectShape => ({ kind: 'area', rings });
  // Two areas that meet, the second over the edge of the first; then a bordered one and two shapes of others.
  add(NAVY, wanted('fill', target, 0, 45), area([square(0, 0, 26, 22)]));
  add(NAVY, wanted('fill', target, 0, 20, true), area([square(80, 0, 20, 16)]));
  add(NAVY, wanted('fill', target, 0, 30), area(placed(one, 34, 20, -34)));
  add(NAVY, wanted('satin', target, 4), { kind: 'column', left: [120, 0, 120, 24], right: [124, 0, 124, 24] });
  add(SAND, wanted('fill', target, 0, 135), area([square(25.2, 0, 24, 22)]));
  add(SAND, wanted('fill', target, 0, 110), area(placed(two, 30, 76, -34)));
  add(SAND, wanted('satin', target, 6), { kind: 'column', left: [130, 0, 130, 26], right: [136, 2, 136, 28] });
  add(RUST, wanted('satin', target, 1.6), ringColumn(80, 0, 20, 16, 0.8));
  add(RUST, wanted('satin', target, 1.6), { kind: 'column', left: [142, 0, 142, 24], right: [143.6, 0, 143.6, 24] });
  add(RUST, { ...wanted('run', target, 0), passes: 2 }, { kind: 'line', path: [150, 0, 156, 8, 151, 16, 158, 26] });
  return { pieces, target };
}

/** A column around a rectangle, so wide to either side of it. */
function ringColumn(x: number, y: number, w: number, h: number, half: number): ObjectShape {
  const around = (by: number): number[] => {
    const corners = [x - by, y - by, x + w + by, y - by, x + w + by, y + h + by, x - by, y + h + by, x - by, y - by];
    const out: number[] = [];
    for (let k = 0; k + 3 < corners.length; k += 2)
      for (let n = 0; n < 20; n++)
        out.push(
          corners[k]! + ((corners[k + 2]! - corners[k]!) * n) / 20,
          corners[k + 1]! + ((corners[k + 3]! - corners[k + 1]!) * n) / 20,
        );
    return [...out, ...corners.slice(-2)];
  };
  return { kind: 'column', left: around(half), right: around(-half) };
}

/** A drawing sewn to a bare program, locked and cut between its pieces, and read as any file is. */
export function sewn({ pieces, target }: Drawing, tweak: (builder: ProgramBuilder, k: number) => void = () => undefined): Design {
  const builder = new ProgramBuilder();
  for (const [k, { shape, spec, color }] of pieces.entries()) {
    const from = shape.kind === 'area' ? shape.rings[0]! : shape.kind === 'column' ? shape.left : shape.path;
    const made = sewObject(shape, spec, { x: from[0]!, y: from[1]! }, { x: from.at(-2)!, y: from.at(-1)! });
    if (!made.ok) throw new Error(made.error);
    const { rows, start } = made.value;
    if (builder.rowCount > 0) builder.trim();
    if (builder.thread !== color) builder.color(color, color);
    builder.jump(start.x, start.y).stitch(start.x, start.y);
    const lock = (a: { x: number; y: number }, b: { x: number; y: number }): void => {
      const points = generateLock(a.x, a.y, b.x, b.y);
      for (let n = 0; n < points.length; n += 2) builder.stitch(thousandth(points[n]!), thousandth(points[n + 1]!));
    };
    lock(start, { x: rows.x[0]!, y: rows.y[0]! });
    builder.copy(rows, 0, rows.rowCount);
    const last = rows.rowCount - 1;
    lock({ x: rows.x[last]!, y: rows.y[last]! }, { x: rows.x[last - 1]!, y: rows.y[last - 1]! });
    tweak(builder, k);
  }
  return startDesign(builder.trim().end().build(), target);
}

const thousandth = (v: number): number => Math.round(v * 1000) / 1000;
