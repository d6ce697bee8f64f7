import { recognizeProgram, type StitchObject } from '@isola/core';
import { PATTERNS, type PatternName, type PatternProgram } from './patternSet.ts';
import { isLayerFound, overlapOf } from './score.ts';

/** How well one pattern was found again. */
export interface PatternMatch {
  readonly program: string;
  readonly name: PatternName;
  /** It is called what it is, with at least 0.8 of its rows; of an applique each of its three parts. */
  readonly isRight: boolean;
  /** What was found in its place, in words. */
  readonly found: string;
  readonly spacingError?: number;
  readonly layers: readonly { readonly kind: string; readonly isFound: boolean }[];
}

const ENOUGH = 0.8;

/** Holds the patterns that are recognized in a program against those drawn. */
export function scorePatterns({ name: program, program: rows, objects: drawn, names }: PatternProgram): PatternMatch[] {
  const { objects } = recognizeProgram(rows);
  const best = (k: number): StitchObject | undefined =>
    objects.reduce<StitchObject | undefined>(
      (a, o) => (overlapOf(drawn[k]!, o) > (a === undefined ? 0 : overlapOf(drawn[k]!, a)) ? o : a),
      undefined,
    );
  const out: PatternMatch[] = [];
  names.forEach((name, k) => {
    const found = best(k);
    const isThere = found !== undefined && overlapOf(drawn[k]!, found) >= ENOUGH;
    const said = found === undefined ? 'nothing' : `${found.role} ${found.pattern ?? found.kind} ${overlapOf(drawn[k]!, found).toFixed(2)}`;
    if (name === 'placement')
      out.push({ program, name: 'applique', isRight: isThere && found.role === 'placement', found: said, layers: [] });
    else if (name === 'tackdown' || name === 'cover') {
      const whole = out[out.length - 1]!;
      out[out.length - 1] = { ...whole, isRight: whole.isRight && isThere && found.role === name, found: `${whole.found}, ${said}` };
    } else {
      const isRight = isThere && found.pattern === name;
      const spacing = drawn[k]!.spacing;
      const layers = drawn[k]!.underlay.map((layer) => ({ kind: layer.kind, isFound: found !== undefined && isLayerFound(layer, found) }));
      const spacingError =
        isRight && spacing !== undefined && found.spacing !== undefined ? Math.abs(found.spacing / spacing - 1) : undefined;
      out.push({ program, name, isRight, found: said, ...(spacingError === undefined ? {} : { spacingError }), layers });
    }
  });
  return out;
}

/** A line of figures for each kind of pattern. */
export function sayPatterns(matches: readonly PatternMatch[]): string[] {
  return PATTERNS.map((name) => {
    const own = matches.filter((m) => m.name === name);
    const right = own.filter((m) => m.isRight).length;
    const off = own
      .map((m) => m.spacingError)
      .filter((e) => e !== undefined)
      .sort((a, b) => a - b);
    const layers = own.flatMap((m) => m.layers);
    const lost = layers.filter((l) => l.isFound).length;
    return [
      name.padEnd(18),
      `${right} of ${own.length}`.padStart(10),
      off.length === 0 ? '' : `${(100 * off[off.length >> 1]!).toFixed(1)} %`.padStart(10),
      layers.length === 0 ? '' : `${lost} of ${layers.length}`.padStart(12),
    ].join('  ');
  });
}
