import { isSoftCloth } from '../../../materials/specBands.ts';
import { threadThickness } from '../../../model/thread.ts';
import type { Target } from '../../../model/target.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import { areaOf } from '../../../order/areas.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { allOf, faultOf, isOpen, type ObjectFault, priceOfStitches, worstOf } from '../objectFault.ts';

/**
 * Closed layers (K) that underlay may take by itself: tatami at 3 to 4 mm is a tenth, at 2 it adds bulk (common practice); soft cloth wants a
 * denser base. A column's edge runs and zigzag lie closer.
 */
const MOST = { firm: 0.175, soft: 0.22 };
const OF_A_COLUMN = 2;
/** Tatami that lies under a part of its cover alone may be so much denser there: what is beside it is bare. */
const OF_A_PART = 1.25;
/** Smaller areas (mm²) and narrower columns (mm) are all edge: their underlay is judged by its kind. */
const LEAST_AREA = 40;
const LEAST_WIDTH = 2.2;

export const underlayBulk: Rule<ObjectFault> = {
  id: 'underlay-bulk',
  group: 'bulk',
  scope: 'object',
  title: 'Too much underlay',
  measures: 'closed layers of thread (K) in the underlay of a fill; of a column twice that is borne',
  unit: 'K',
  why: 'Underlay is there to hold, not to cover. A tatami at 3 to 4 mm is enough; at 2 mm it only stiffens, and every stitch of it is paid for.',
  source: 'common practice',
  follows: 'cloth',
  limit: mostUnderlay,
  list(context, limit) {
    return context.areas.flatMap((object) => {
      const layers = context.underlay.get(object.id) ?? [];
      if (layers.length === 0 || isOpen(object, context.target) || isSmall(object)) return [];
      const cover = Math.max(coverOf(context, object, layers), densestOf(context, layers, limit));
      return cover > limit ? [faultOf(context, object, cover)] : [];
    });
  },
  say(context, faults, limit) {
    const worst = worstOf(faults);
    const kinds = worst.of.underlay.map(
      ({ kind, spacing }) => `${kind.replace('-', ' ')}${spacing === undefined ? '' : ` at ${spacing.toFixed(1)} mm`}`,
    );
    const saved = faults.reduce((sum, { of, value }) => {
      const own = (context.underlay.get(of.id) ?? []).reduce((stitches, layer) => stitches + layer.stitches, 0);
      return sum + own * (1 - limit / value);
    }, 0);
    return {
      worst,
      severity: worst.value > 1.6 * limit ? 'fix' : 'note',
      ...{ measured: worst.value, limit },
      message: `underlay (${kinds.join(', ')}) as thick as ${worst.value.toFixed(2)} of a closed layer where ${limit.toFixed(2)} hold`,
      reason: 'It stiffens and costs stitches without holding better.',
      cost: priceOfStitches(context, saved),
      fix: `Lighten ${allOf(faults)}`,
    };
  },
  mend: 'underlay as the cloth wants it',
};

function mostUnderlay(target: Target): number {
  return isSoftCloth(target) ? MOST.soft : MOST.firm;
}

function isSmall(object: StitchObject): boolean {
  return object.kind === 'satin' ? (object.width?.mean ?? 0) < LEAST_WIDTH : areaOf(object) < LEAST_AREA;
}

/** K of the densest tatami where it lies itself, if that is more than a part may have; 0 otherwise. Its spacing is that of rows of one direction. */
function densestOf({ target }: AuditContext, layers: readonly StitchObject[], limit: number): number {
  const covers = layers.map((layer) =>
    layer.layer === 'tatami' && layer.spacing !== undefined && areaOf(layer) >= LEAST_AREA
      ? (2 * threadThickness(target.thread)) / layer.spacing
      : 0,
  );
  const densest = Math.max(...covers);
  return densest > OF_A_PART * limit ? densest : 0;
}

/** K of underlay: of fills without runs along the edge, which small shapes have as much of; of columns half of it all. */
function coverOf({ lengths, target }: AuditContext, object: StitchObject, layers: readonly StitchObject[]): number {
  let length = 0;
  for (const { layer, spans } of layers) {
    if (object.kind === 'fill' && (layer === 'edge-run' || layer === 'center-run')) continue;
    for (const { first, last } of spans) for (let i = first; i <= last; i++) length += lengths[i]!;
  }
  const cover = (length * threadThickness(target.thread)) / Math.max(1, areaOf(object));
  return object.kind === 'satin' ? cover / OF_A_COLUMN : cover;
}
