import { type ObjectSpec, SHORTEST, type UnderlaySpec } from '../model/objectSpec.ts';
import { type SpecKind } from '../model/kinds.ts';
import type { Target } from '../model/target.ts';
import { fillFrom } from './shopLimits.ts';
import { type BandedValue, bandsOf, type UnderlayNeeds, usualUnderlay } from './specBands.ts';

/** A value that was changed, how it read before and reads now, and why. */
export interface SpecChange {
  readonly value: BandedValue | 'underlay' | 'kind';
  readonly from: string;
  readonly to: string;
  readonly why: string;
}

/** A spec as the cloth wants it, and what that changed. Values inside their band stay as they are. */
export function suggestSpec(
  spec: ObjectSpec,
  target: Target,
  needs: UnderlayNeeds = {},
): { readonly spec: ObjectSpec; readonly changes: readonly SpecChange[] } {
  const changes: SpecChange[] = [];
  let next = spec;
  if (spec.kind === 'satin' && (needs.width ?? 0) > fillFrom(target)) {
    next = { ...next, kind: 'fill', stitchLength: 4, spacing: target.fabric.fillSpacing };
    changes.push({
      value: 'kind',
      from: 'satin',
      to: 'fill',
      why: `a satin ${needs.width!.toFixed(1)} mm wide snags and slackens, split or not`,
    });
  }
  const bands = bandsOf(next, target, needs.heldPull);
  for (const value of ['spacing', 'stitchLength', 'pull', 'splitLength', 'shortest'] as const) {
    const band = bands[value];
    const old = next[value] ?? SHORTEST;
    if (band === undefined || (old >= band.low - SLACK && old <= band.high + SLACK)) continue;
    const best = hundredth(band.best);
    next = { ...next, [value]: best };
    const held = value === 'pull' ? (needs.heldPull ?? 0) : 0;
    changes.push({ value, from: `${(held + old).toFixed(2)} mm`, to: `${(held + best).toFixed(2)} mm`, why: band.why });
  }
  const { layers, why } = usualUnderlay(next, target, needs);
  if (!isSameUnderlay(next.underlay, layers)) {
    changes.push({ value: 'underlay', from: sayUnderlay(next.underlay), to: sayUnderlay(layers), why });
    next = { ...next, underlay: layers };
  }
  return { spec: next, changes };
}

/** The spec of an object that is to be sewn as another kind: what the two share stays, the rest is as the cloth wants it. */
export function asKind(spec: ObjectSpec, kind: SpecKind, target: Target, needs: UnderlayNeeds = {}): ObjectSpec {
  if (kind === spec.kind) return spec;
  const changed: ObjectSpec = { ...spec, kind, ...(kind === 'fill' ? { spacing: target.fabric.fillSpacing } : {}) };
  const bands = bandsOf(changed, target);
  const fitted: ObjectSpec = {
    ...changed,
    ...(bands.spacing === undefined ? {} : { spacing: hundredth(bands.spacing.best) }),
    ...(bands.stitchLength === undefined ? {} : { stitchLength: hundredth(bands.stitchLength.best) }),
    ...(kind === 'edge-stitch' ? { width: PRONG } : {}),
  };
  return { ...fitted, underlay: usualUnderlay(fitted, target, needs).layers };
}

/** How far prongs reach where nobody said, mm. From memory. */
const PRONG = 3;

function hundredth(value: number): number {
  return Math.round(value * 100) / 100;
}

/** Recognition measures to about this, mm. */
const SLACK = 0.015;

/** Underlay is as it should be where its kinds are those asked for, in order, and no tatami is far from its pitch. */
function isSameUnderlay(a: readonly UnderlaySpec[], b: readonly UnderlaySpec[]): boolean {
  if (a.length !== b.length) return false;
  return a.every((layer, k) => {
    const other = b[k]!;
    if (layer.kind !== other.kind) return false;
    if (layer.spacing === undefined || other.spacing === undefined) return true;
    return layer.spacing > 0.75 * other.spacing && layer.spacing < 1.3 * other.spacing;
  });
}

/** Underlay in words: `tatami 3.5, edge run`. */
export function sayUnderlay(layers: readonly UnderlaySpec[]): string {
  if (layers.length === 0) return 'none';
  return layers.map(({ kind, spacing }) => `${kind.replace('-', ' ')}${spacing === undefined ? '' : ` ${spacing.toFixed(1)}`}`).join(', ');
}
