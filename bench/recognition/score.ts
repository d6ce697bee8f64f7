import { recognizeProgram, type StitchKind, type StitchObject, type StitchRole } from '@isola/core';
import { Clipper, FillRule } from 'clipper2-ts';
import type { DrawnObject } from '../../demo/Sewing.ts';
import type { KnownProgram } from './stitchSet.ts';

/** What is known of an object that is to be found again: rows inclusive, rings xyxy in mm, outlines with their holes. */
export interface Told extends Rows {
  readonly kind: StitchKind;
  /** Every kind that is right, where that is more than one. */
  readonly kinds?: readonly StitchKind[];
  /** A cover where nothing is said. */
  readonly role?: StitchRole;
  readonly spacing?: number;
  readonly angle?: number;
  readonly rings: readonly (readonly number[])[];
  readonly underlay: readonly (Rows & { readonly kind: string })[];
}

/** How well one known object was found again. */
export interface Match<T extends Told = DrawnObject> {
  readonly program: string;
  readonly drawn: T;
  readonly found: StitchObject | undefined;
  /** Rows in both, by rows in either. */
  readonly overlap: number;
  /** The right kind and at least 0.8 of the rows. */
  readonly isRight: boolean;
  /** Share by which the pitch is off, and degrees by which the angle is; of right ones that have them. */
  readonly spacingError?: number;
  readonly angleError?: number;
  /** Area in both outlines by area in either, of right areas. */
  readonly outline?: number;
  readonly layers: readonly { readonly kind: string; readonly isFound: boolean }[];
}

/** Holds what is recognized in a program against what was drawn. */
export function scoreProgram({ name, program, objects }: Pick<KnownProgram, 'name' | 'program' | 'objects'>): Match[] {
  return matchObjects(
    name,
    objects,
    recognizeProgram(program).objects.filter((o) => o.role === 'cover'),
  );
}

/** Each known object with the one of those found that shares most rows with it. */
export function matchObjects<T extends Told>(program: string, told: readonly T[], found: readonly StitchObject[]): Match<T>[] {
  return told.map((drawn): Match<T> => {
    let nearest: StitchObject | undefined;
    let best = 0;
    for (const object of found) {
      const shared = overlapOf(drawn, object);
      if (shared > best) {
        best = shared;
        nearest = object;
      }
    }
    const isRight = nearest !== undefined && (drawn.kinds ?? [drawn.kind]).includes(nearest.kind) && best >= 0.8;
    const { spacing, angle } = isRight ? nearest! : { spacing: undefined, angle: undefined };
    return {
      program,
      drawn,
      found: nearest,
      overlap: best,
      isRight,
      ...(spacing !== undefined && drawn.spacing !== undefined ? { spacingError: Math.abs(spacing / drawn.spacing - 1) } : {}),
      ...(angle !== undefined && drawn.angle !== undefined ? { angleError: axisDifference(angle, drawn.angle) } : {}),
      ...(isRight && drawn.rings.length > 0 && nearest!.outline.length > 0
        ? { outline: areaOverlap(drawn.rings, [nearest!.outline, ...nearest!.holes]) }
        : {}),
      layers: drawn.underlay.map((layer) => ({
        kind: layer.kind,
        isFound: nearest !== undefined && isLayerFound(layer, nearest),
      })),
    };
  });
}

/** A layer may have been sewn in parts, one for each ring: together they hold at least half of its rows and few others. */
export function isLayerFound(layer: Rows & { readonly kind: string }, found: StitchObject): boolean {
  const parts = found.underlay.filter((u) => u.kind === layer.kind && u.last >= layer.first && u.first <= layer.last);
  if (parts.length === 0) return false;
  const shared = parts.reduce((sum, u) => sum + Math.min(u.last, layer.last) - Math.max(u.first, layer.first) + 1, 0);
  const own = parts.reduce((sum, u) => sum + u.last - u.first + 1, 0);
  return shared >= 0.5 * Math.max(own, layer.last - layer.first + 1);
}

interface Rows {
  readonly first: number;
  readonly last: number;
}

/** Rows in both spans, by rows from the first to the last of either. */
export function overlapOf(a: Rows, b: Rows): number {
  const shared = Math.min(a.last, b.last) - Math.max(a.first, b.first) + 1;
  return shared <= 0 ? 0 : shared / (Math.max(a.last, b.last) - Math.min(a.first, b.first) + 1);
}

function axisDifference(a: number, b: number): number {
  const d = Math.abs(a - b) % 180;
  return Math.min(d, 180 - d);
}

function areaOverlap(drawn: readonly ArrayLike<number>[], found: readonly ArrayLike<number>[]): number {
  const paths = (rings: readonly ArrayLike<number>[]) =>
    rings.map((r) =>
      Array.from({ length: r.length / 2 }, (_, k) => ({ x: Math.round(r[k * 2]! * 1e3), y: Math.round(r[k * 2 + 1]! * 1e3) })),
    );
  const a = Clipper.union(paths(drawn), FillRule.EvenOdd);
  const b = Clipper.union(paths(found), FillRule.EvenOdd);
  const both = Math.abs(Clipper.areaPaths(Clipper.intersect(a, b, FillRule.EvenOdd)));
  return both / (Math.abs(Clipper.areaPaths(a)) + Math.abs(Clipper.areaPaths(b)) - both);
}

/** The figures of many matches, as shares and medians. */
export function summarize(matches: readonly Pick<Match, 'isRight' | 'spacingError' | 'angleError' | 'outline' | 'layers'>[]) {
  const layers = matches.flatMap((m) => m.layers);
  const values = (list: readonly (number | undefined)[]): number[] => list.filter((v) => v !== undefined).sort((a, b) => a - b);
  const at = (list: readonly number[], share: number): number => list[Math.min(list.length - 1, Math.floor(list.length * share))] ?? NaN;
  const spacing = values(matches.map((m) => m.spacingError));
  const angle = values(matches.map((m) => m.angleError));
  const outline = values(matches.map((m) => m.outline));
  return {
    objects: matches.length,
    right: matches.filter((m) => m.isRight).length / matches.length,
    spacingMedian: at(spacing, 0.5),
    spacing90: at(spacing, 0.9),
    angleMedian: at(angle, 0.5),
    angle90: at(angle, 0.9),
    outlineMedian: at(outline, 0.5),
    outline10: at(outline, 0.1),
    layers: layers.length,
    layersFound: layers.length === 0 ? NaN : layers.filter((l) => l.isFound).length / layers.length,
  };
}
