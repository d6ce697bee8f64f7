import { countOf, describeRows } from '../../describeRows.ts';
import { type Finding, MAX_PLACES } from '../../finding.ts';
import type { Rule } from '../../rule.ts';
import { findSpots, priceOfExcess } from './coverSpots.ts';

/** From this share over the limit the work is a board, not cloth. */
const SEVERE = 1.5;

export const stackedCover: Rule = {
  id: 'stacked-cover',
  group: 'bulk',
  title: 'Covers stacked',
  measures: 'closed layers of thread (K) where more than one layer lies',
  unit: 'K',
  why: 'Cover on cover on cover gets stiff, breaks needles and puckers light cloth. Where it cannot be seen, the lower layer is carved out or opened.',
  source: 'from memory',
  limit: (target) => target.fabric.maxCover,
  find(context) {
    const { target, cover } = context;
    const limit = target.fabric.maxCover;
    const spots = findSpots(context, cover.cover, limit, (cell) => (cover.layers[cell]! >= 2 ? 1 : 0));
    if (spots.length === 0) return [];
    const worst = spots.reduce((a, b) => (b.worst > a.worst ? b : a));
    const area = spots.reduce((sum, s) => sum + s.area, 0);
    const layers = worst.cells.reduce((most, cell) => Math.max(most, cover.layers[cell]!), 0);
    const rows = spots.map((s) => s.row).sort((a, b) => a - b);
    const finding: Finding = {
      ...describeRows(context, stackedCover.id, rows),
      key: `${stackedCover.id} ${worst.at.x.toFixed(1)} ${worst.at.y.toFixed(1)}`,
      at: worst.at,
      places: spots.slice(0, MAX_PLACES).map((s) => s.at),
      severity: worst.worst > limit * SEVERE ? 'stop' : 'fix',
      measured: worst.worst,
      limit,
      unit: 'K',
      message: `${layers} layers pile up to ${worst.worst.toFixed(1)} K, over the limit on ${Math.round(area).toLocaleString('en')} mm²`,
      reason: `${target.fabric.name} bears ${limit.toFixed(1)} closed layers; above that it gets stiff and puckers. ${countOf(spots.length, 'place')}.`,
      cost: priceOfExcess(context, spots),
      advice: 'Carve out or open the layer below, or open the one on top.',
    };
    return [finding];
  },
};
