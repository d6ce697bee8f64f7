import { lengthOfPath, type Program, resamplePath, signedArea } from '@isola/core';
import { type DrawnObject, type FillOptions, Sewing } from '../../demo/Sewing.ts';
import { column } from '../../demo/shapes.ts';
import { type Part, readShapes, type Shape } from './shapes.ts';

/** A program whose objects are known, to hold recognition against. */
export interface KnownProgram {
  readonly name: string;
  readonly part: Part;
  readonly program: Program;
  readonly objects: readonly DrawnObject[];
}

/** Chance from a seed, the same on every machine: mulberry32 (public domain). */
export function seededChance(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Every shape stitched as a fill, its edge as columns and lines, in manners drawn by chance: `rounds` programs a shape. */
export function stitchSet(rounds: number, part: Part): KnownProgram[] {
  return readShapes().flatMap((shape, index) =>
    shape.part === part ? Array.from({ length: rounds }, (_, round) => stitchShape(shape, index * 1000 + round)) : [],
  );
}

/** A shape in manners drawn by chance from a seed. */
export function stitchShape(shape: Shape, seed: number): KnownProgram {
  const chance = seededChance(seed);
  const between = (from: number, to: number): number => from + chance() * (to - from);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)]!;
  const sewing = new Sewing().thread('#1f4e5f', 'Test thread');
  const approach = (): 'best' | 'trim' => pick(['best', 'trim']);

  const isBroad = breadthOf(shape) >= BROAD;
  const pitch = !isBroad || chance() < 0.75 ? between(0.3, 0.6) : between(0.6, 2);
  const manner: FillOptions = {
    angle: between(0, 180),
    spacing: pitch,
    stitchLength: between(2.5, 5),
    offset: pick([0.25, 0.3, 1 / 3, 0.5, between(0, 1)]),
    rowEnds: pick(['square', 'slanted'] as const),
    // Underlay that is nearly as close as its cover is another fill.
    underlay: pitch > 1.2 ? 'none' : pick(isBroad ? (['none', 'tatami', 'edge', 'tatami+edge'] as const) : (['none', 'edge'] as const)),
    approach: approach(),
  };
  // What does not hang together is as many objects.
  for (const rings of shape.areas) sewing.fill(rings, manner);
  if (chance() < 0.3) sewing.thread('#b8552f', 'Second thread');

  // Parts of the edge as columns and lines, beside the fill.
  const ring = shape.areas.flat().reduce((a, b) => (lengthOfPath(a) >= lengthOfPath(b) ? a : b));
  for (let n = 0; n < 3; n++) {
    const center = smoothed(partOfRing(ring, chance(), between(14, 50)), 60 + n * 45);
    const width = chance() < 0.15 ? between(7.5, 11) : between(1.4, 6);
    const isTapered = chance() < 0.35;
    sewing.satin(column(center, isTapered ? (t) => 0.4 + (width - 0.4) * Math.sin(Math.PI * t) ** 0.8 : width), {
      spacing: between(0.3, 0.7),
      pull: between(0, 0.3),
      splitLength: 7,
      underlay: width < 2.2 ? pick(['none', 'center'] as const) : pick(['none', 'center', 'edge', 'zigzag'] as const),
      approach: approach(),
    });
  }
  for (let n = 0; n < 2; n++) {
    const way = smoothed(partOfRing(ring, chance(), between(20, 70)), 200 + n * 30);
    sewing.run(way, pick([1, 1, 2, 3]), between(1.8, 3), { approach: 'trim' });
  }
  return { name: `${shape.name} ${seed % 1000}`, part: shape.part, ...disturb(sewing.finish(), sewing.drawn, chance) };
}

/** Shapes narrower than this (mm) in the mean get neither open fills nor tatami underlay: nobody would give them any. */
export const BROAD = 5;

export function breadthOf({ areas }: Shape): number {
  const rings = areas.flat();
  const area = rings.reduce((sum, r) => sum + signedArea(r), 0);
  const edge = rings.reduce((sum, r) => sum + lengthOfPath(r), 0);
  return (2 * Math.abs(area)) / edge;
}

export function partOfRing(ring: Float64Array, from: number, length: number): Float64Array {
  const closed = Float64Array.from([...ring, ...ring, ring[0]!, ring[1]!]);
  const around = lengthOfPath(closed) / 2;
  const points = resamplePath(closed, Math.round(around * 4) + 1);
  const step = (around * 2) / (points.length / 2 - 1);
  const start = Math.floor((from * around) / step);
  return points.slice(start * 2, (start + Math.max(8, Math.round(Math.min(length, around * 0.8) / step))) * 2);
}

/** The line with its corners rounded, since no column can follow them, moved aside by `dx`. */
export function smoothed(line: Float64Array, dx: number): Float64Array {
  let at = line;
  for (let pass = 0; pass < 60; pass++) at = at.map((v, k) => (k < 2 || k >= at.length - 2 ? v : (at[k - 2]! + 2 * v + at[k + 2]!) / 4));
  return at.map((v, k) => (k % 2 === 0 ? v + dx : v));
}

/** The program scaled, turned, perhaps mirrored, rounded or jittered, and what was drawn in the same way. */
export function disturb(program: Program, drawn: readonly DrawnObject[], chance: () => number): Pick<KnownProgram, 'program' | 'objects'> {
  const scale = 0.85 + 0.3 * chance();
  const turn = chance() < 0.5 ? 0 : chance() * 360;
  const mirror = chance() < 0.5 ? 1 : -1;
  const grain = chance();
  const [c, s] = [Math.cos((turn * Math.PI) / 180) * scale, Math.sin((turn * Math.PI) / 180) * scale];
  const move = (x: number, y: number): [number, number] => [mirror * x * c - y * s, mirror * x * s + y * c];
  const settle = (v: number): number => {
    if (grain < 0.4) return Math.round(v * 10) / 10;
    return grain < 0.7 ? Math.round((v + (chance() - 0.5) * 0.1) * 1000) / 1000 : Math.round(v * 1000) / 1000;
  };
  const x = new Float64Array(program.rowCount);
  const y = new Float64Array(program.rowCount);
  for (let i = 0; i < program.rowCount; i++) {
    const [px, py] = move(program.x[i]!, program.y[i]!);
    const isOwn = program.command[i]! <= 1 || i === 0;
    x[i] = isOwn ? settle(px) : x[i - 1]!;
    y[i] = isOwn ? settle(py) : y[i - 1]!;
  }
  const angle = (a: number): number => (((mirror * a + turn) % 180) + 180) % 180;
  const objects = drawn.map((o): DrawnObject => ({
    ...o,
    ...(o.spacing === undefined ? {} : { spacing: o.spacing * scale }),
    ...(o.angle === undefined ? {} : { angle: angle(o.angle) }),
    stitchLength: o.stitchLength * scale,
    rings: o.rings.map((ring) => ring.flatMap((_, k) => (k % 2 === 0 ? move(ring[k]!, ring[k + 1]!) : []))),
    underlay: o.underlay.map((u) => ({
      ...u,
      ...(u.spacing === undefined ? {} : { spacing: u.spacing * scale }),
      ...(u.angle === undefined ? {} : { angle: angle(u.angle) }),
    })),
  }));
  return { program: { ...program, x, y }, objects };
}
