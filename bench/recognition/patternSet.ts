import { lengthOfPath, type ObjectSpec, signedArea, USUAL_SPEC } from '@isola/core';
import { Sewing } from '../../demo/Sewing.ts';
import { column } from '../../demo/shapes.ts';
import { type Part, readShapes, type Shape } from './shapes.ts';
import { BROAD, breadthOf, disturb, type KnownProgram, partOfRing, seededChance, smoothed } from './stitchSet.ts';

/** What a program of this set holds, in this order: its drawn objects follow suit, an applique as its three. */
export const PATTERNS = ['contour', 'meander', 'edge-stitch', 'registration-mark', 'applique'] as const;
export type PatternName = (typeof PATTERNS)[number];

/** A program with one pattern of each kind that its shape is broad enough for. */
export interface PatternProgram extends KnownProgram {
  /** What each drawn object is; of an applique which of its parts. */
  readonly names: readonly (PatternName | 'placement' | 'tackdown' | 'cover')[];
}

/** The shapes of the score as contour and meander fills, their edges as edge stitch and applique, and marks beside them: `rounds` programs a shape. */
export function patternSet(rounds: number, part: Part): PatternProgram[] {
  return readShapes().flatMap((shape, index) =>
    shape.part === part ? Array.from({ length: rounds }, (_, round) => sewPatterns(shape, index * 1000 + 500 + round)) : [],
  );
}

/** A line shorter than this (mm) fills nothing that anybody would call an area. */
const LEAST_LINE = 140;

/** Patterns of a shape in manners drawn by chance from a seed. */
export function sewPatterns(shape: Shape, seed: number): PatternProgram {
  const chance = seededChance(seed);
  const between = (from: number, to: number): number => from + chance() * (to - from);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)]!;
  const sewing = new Sewing().thread('#1f4e5f', 'Test thread');
  const names: PatternProgram['names'][number][] = [];
  const approach = (): 'best' | 'trim' => pick(['best', 'trim']);

  const widest = shape.areas.reduce((a, b) => (Math.abs(signedArea(a[0]!)) >= Math.abs(signedArea(b[0]!)) ? a : b));
  const rings = widest.map((ring) => Array.from(ring));
  if (breadthOf({ ...shape, areas: [widest] }) >= BROAD) {
    for (const kind of ['contour', 'meander'] as const) {
      const spacing = kind === 'contour' ? between(0.45, 2) : between(1, 3);
      const underlay = spacing > 1.3 ? 'none' : pick(['none', 'edge', 'tatami', 'both'] as const);
      const layers: ObjectSpec['underlay'] = [
        ...(underlay === 'tatami' || underlay === 'both' ? [{ kind: 'tatami' as const, angle: between(0, 180) }] : []),
        ...(underlay === 'edge' || underlay === 'both' ? [{ kind: 'edge-run' as const }] : []),
      ];
      const spec = { ...USUAL_SPEC, kind, spacing, stitchLength: between(1.8, 3), underlay: layers };
      const to = { kind: 'area' as const, rings: moved(rings, kind === 'contour' ? 0 : 60) };
      if (Math.abs(widest.reduce((sum, ring) => sum + signedArea(ring), 0)) < LEAST_LINE * spacing) continue;
      sewing.object(to, spec, kind, { approach: approach() });
      names.push(kind);
    }
  }

  const ring = widest[0]!;
  const edge = smoothed(partOfRing(ring, chance(), between(30, 70)), 120);
  sewing.object(
    { kind: 'line', path: Array.from(edge) },
    { ...USUAL_SPEC, kind: 'edge-stitch', spacing: between(1.5, 4), width: between(1.5, 4), stitchLength: 2.5 },
    'edge-stitch',
    { approach: 'trim' },
  );
  names.push('edge-stitch');

  const arm = between(2, 6);
  const [cx, cy] = [170 + arm, between(-10, 10)];
  sewing.run(Float64Array.of(cx - arm, cy, cx + arm, cy, cx, cy, cx, cy + arm, cx, cy - arm), pick([1, 1, 2]), between(1.5, 2.5), {
    approach: 'trim',
  });
  names.push('registration-mark');

  // The fabric's edge is rounder than a shape's: scissors follow no coast.
  const around = roundedRing(ring, 220);
  sewing.run(around, pick([1, 2]), between(2, 3.5), { approach: 'trim' });
  sewing.stop('lay the fabric');
  if (chance() < 0.5) sewing.run(around, 1, between(2, 3.5), { approach: 'trim' });
  else sewing.satin(column(around, between(1.5, 2.5)), { spacing: between(1.5, 3), pull: 0, underlay: 'none', approach: 'trim' });
  if (chance() < 0.5) sewing.stop('cut the fabric');
  else sewing.thread('#b8552f', 'Border');
  sewing.satin(column(around, between(2.5, 4.5)), { spacing: between(0.35, 0.5), underlay: pick(['none', 'zigzag']), approach: 'trim' });
  names.push('placement', 'tackdown', 'cover');
  return { name: `${shape.name} ${seed % 1000}`, part: shape.part, names, ...disturb(sewing.finish(), sewing.drawn, chance) };
}

function moved(rings: readonly (readonly number[])[], dx: number): number[][] {
  return rings.map((ring) => ring.map((v, k) => (k % 2 === 0 ? v + dx : v)));
}

/** A ring closed and without its corners, moved aside by `dx`. */
function roundedRing(ring: Float64Array, dx: number): Float64Array {
  const n = ring.length;
  let at = ring;
  const passes = Math.round(lengthOfPath(ring) * 6);
  for (let pass = 0; pass < passes; pass++) at = at.map((v, k) => (at[(k + n - 2) % n]! + 2 * v + at[(k + 2) % n]!) / 4);
  return Float64Array.from([...at, at[0]!, at[1]!], (v, k) => (k % 2 === 0 ? v + dx : v));
}
