import { type ObjectSpec, SHORTEST, type UnderlaySpec } from '../model/objectSpec.ts';
import { type SpecKind } from '../model/kinds.ts';
import type { Target } from '../model/target.ts';
import { splitFrom, stillCovers } from './shopLimits.ts';
import { threadThickness } from '../model/thread.ts';
import { pitchFactor } from './pitchFactor.ts';
import { sayPull } from './sayLearned.ts';

/** What is right for a value on a cloth with a thread: from `low` to `high`, best at `best`, and why in a sentence. */
export interface Band {
  readonly low: number;
  readonly high: number;
  readonly best: number;
  readonly why: string;
}

/** Values of a spec that have a band. */
export type BandedValue = 'spacing' | 'stitchLength' | 'pull' | 'splitLength' | 'shortest';

/** A pitch may be so much closer than the best one; open fills run in a band of their own, mm. Common practice. */
const SPACING_SLACK = { low: 0.88 };
const OPEN = { low: 1, high: 2, best: 1.5 };
/** From this pitch on (mm) a fill is meant to be open. */
export const OPEN_FROM = 0.9;
/** Whether a fill is meant to be open: as somebody said, or by its spacing. */
export function isOpenFill({ kind, spacing, isOpen }: Pick<ObjectSpec, 'kind' | 'spacing' | 'isOpen'>, factor = 1): boolean {
  return kind === 'fill' && (isOpen ?? spacing >= OPEN_FROM * factor);
}

/** Stitches of each kind, mm. Common practice: fills step at 3.5 to 4.5, runs in the open at 2 to 2.5. */
const STITCHES: Readonly<Record<SpecKind, readonly [low: number, high: number, best: number]>> = {
  run: [1.8, 3, 2.5],
  satin: [1, 7, 4],
  fill: [3.2, 4.6, 4],
  contour: [2, 3.5, 2.5],
  meander: [2, 3, 2.5],
  'edge-stitch': [2, 4, 2.5],
};
/** Compensation around the cloth's pull that is still right, as shares of it. */
const PULL_SLACK = { low: 0.6, high: 1.4 };
/** Single-line fills and edge stitches, mm from line to line. From memory. */
const LINES = { low: 1, high: 3, best: 1.8 };
const PRONGS = { low: 1.5, high: 4, best: 2.5 };
/** Throws are split at this or later, mm. From memory. */
const SPLIT_EARLIEST = 5;
/** Below 0.4 mm or a little less a needle strikes thread that it has just laid; from the high end on shapes lose their corners. From memory. */
const SHORT: Band = { low: SHORTEST, high: 0.8, best: SHORTEST, why: 'closer, the needle strikes thread that it has just laid' };
/** Satins up to this width (mm) take a center run only, from the second on a zigzag too. Common practice. */
export const NARROW = 2;
export const BROAD = 4.5;
/** Cloth that gives this much (percent) or stands this high (mm) wants a denser base. */
const STRETCHY = 25;
const PILE = 0.8;
/** Whether a cloth gives way under stitches or lets them sink in, so that it wants a denser base. */
export function isSoftCloth({ fabric }: Pick<Target, 'fabric'>): boolean {
  return fabric.stretch >= STRETCHY || fabric.pile >= PILE;
}

/**
 * The band of each value of a spec, for what it is sewn on and with. Values without a right or wrong on any cloth have none. What is added as
 * compensation has one only where it is known how much (`heldPull`, mm) the outline holds already: stitches do not tell that.
 */
export function bandsOf(spec: ObjectSpec, target: Target, heldPull?: number): Partial<Record<BandedValue, Band>> {
  const { fabric } = target;
  const pull: { pull?: Band } =
    heldPull === undefined
      ? {}
      : {
          pull: {
            low: PULL_SLACK.low * fabric.pull - heldPull,
            high: PULL_SLACK.high * fabric.pull - heldPull,
            best: fabric.pull - heldPull,
            why: `${fabric.name} draws an edge in by about ${sayPull(fabric)} on each side`,
          },
        };
  const [low, high, best] = STITCHES[spec.kind];
  const stitchLength: Band = { low, high, best, why: STITCH_REASONS[spec.kind] };
  switch (spec.kind) {
    case 'run':
      return { stitchLength };
    case 'satin':
      return { spacing: spacingBand(target, spec), ...pull, splitLength: splitBand(target), shortest: SHORT };
    case 'fill':
      return { spacing: spacingBand(target, spec), stitchLength, ...pull, shortest: SHORT };
    case 'contour':
    case 'meander':
      return {
        spacing: { ...LINES, why: 'lines closer than 1 mm stiffen the cloth, wider than 3 mm they no longer read as an area' },
        stitchLength,
      };
    case 'edge-stitch':
      return { spacing: { ...PRONGS, why: 'prongs 2 to 3 mm apart hold an edge and still lie flat' } };
  }
}

const STITCH_REASONS: Readonly<Record<SpecKind, string>> = {
  run: 'in the open 2 to 2.5 mm lie flat and do not snag',
  satin: 'a throw goes from edge to edge',
  fill: 'most fills step at 3.5 to 4.5 mm: shorter ones stiffen, longer ones snag',
  contour: 'shorter stitches follow the bends',
  meander: 'shorter stitches follow the bends',
  'edge-stitch': 'the way along the edge',
};

/** Where throws are split: up to what lies flat in the shop's eyes, while a machine makes 12 mm at most. */
function splitBand(target: Target): Band {
  const high = splitFrom(target);
  return { low: Math.min(SPLIT_EARLIEST, high), high, best: high, why: `a throw over ${high} mm snags and slackens: split it` };
}

/** What spacing is right for a satin or fill on a cloth with a thread. */
export function spacingBand({ fabric, thread, rules }: Target, spec: Pick<ObjectSpec, 'kind' | 'spacing' | 'isOpen'>): Band {
  const { kind } = spec;
  const factor = pitchFactor(thread, rules);
  if (isOpenFill(spec, factor))
    return {
      low: OPEN.low * factor,
      high: OPEN.high * factor,
      best: OPEN.best * factor,
      why: 'open fills run at 1 to 2 mm and want no underlay',
    };
  const usual = (kind === 'fill' ? fabric.fillSpacing : fabric.satinSpacing) * factor;
  // K of one layer is 2 · thickness / spacing: the cloth bears only so many.
  const closest = (2 * threadThickness(thread)) / (SHARE_OF_ONE_LAYER * fabric.maxCover);
  const best = Math.max(usual, closest);
  const what = kind === 'fill' ? 'a closed fill' : 'a satin';
  const bound = closest > usual ? `; closer, one layer would be more than ${fabric.name} bears` : '';
  return {
    low: Math.max(SPACING_SLACK.low * usual, closest),
    high: Math.max(stillCovers({ rules }) * usual, closest),
    best,
    why: `${what} on ${fabric.name} with ${thread.weight}-weight thread covers at ${best.toFixed(2)} mm${bound}`,
  };
}

/** One layer may take so much of what a cloth bears, so that underlay and a second object fit beside it. */
const SHARE_OF_ONE_LAYER = 0.75;

/** What else is known of an object when its underlay is chosen. */
export interface UnderlayNeeds {
  /** Mean width of a satin, mm. */
  readonly width?: number;
  /** Compensation that its outline holds already, mm on each side, where that is known. */
  readonly heldPull?: number;
  /** Its edge will be covered by an outline: it needs no edge run. */
  readonly isOutlined?: boolean;
}

/** The underlay that a cover wants on a cloth, in sewing order, and why. Common practice; see the rules in words. */
export function usualUnderlay(
  spec: ObjectSpec,
  { fabric, rules }: Pick<Target, 'fabric' | 'rules'>,
  needs: UnderlayNeeds = {},
): { readonly layers: UnderlaySpec[]; readonly why: string } {
  const isSoft = isSoftCloth({ fabric });
  if (spec.kind === 'satin') {
    const width = needs.width ?? spec.width;
    if (width <= NARROW) return { layers: [{ kind: 'center-run' }], why: 'a satin up to 2 mm takes a center run only' };
    if (width < BROAD && !isSoft) return { layers: [{ kind: 'edge-run' }], why: 'a satin over 2 mm takes an edge run' };
    return {
      layers: [{ kind: 'edge-run' }, { kind: 'zigzag', spacing: isSoft ? 1.6 : 2 }],
      why: isSoft
        ? `${fabric.name} gives way: a zigzag over the edge run carries the satin`
        : 'a broad satin takes a zigzag over its edge run',
    };
  }
  if (spec.kind !== 'fill') return { layers: [], why: 'lines take no underlay' };
  if (isOpenFill(spec)) return { layers: [], why: 'an open fill wants no underlay: it would show' };
  const tatami: UnderlaySpec = { kind: 'tatami', spacing: isSoft ? 2.8 : 3.5 };
  const base = isSoft ? `${fabric.name} wants a denser base; ` : '';
  if (needs.isOutlined === true) return { layers: [tatami], why: `${base}an outline will cover the edge: tatami alone` };
  if (rules?.schools.underlayOrder === 'edge-first')
    return { layers: [{ kind: 'edge-run' }, tatami], why: `${base}edge run first, then tatami, as the shop does it` };
  return { layers: [tatami, { kind: 'edge-run' }], why: `${base}tatami first, then the edge run: less pull than the other way round` };
}
