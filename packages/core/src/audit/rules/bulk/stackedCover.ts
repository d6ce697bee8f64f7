import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { findSpots, priceOfExcess, type Spot } from './coverSpots.ts';
import { sayCount } from '../../../words/sayCount.ts';

/** From this share over the limit the work is a board, not cloth. */
const SEVERE = 1.5;
/** A smaller spot (mm²) is no more than untidy, however thick. */
const SEVERE_AREA = 12;

export const stackedCover: Rule<Spot> = {
  id: 'stacked-cover',
  group: 'bulk',
  scope: 'pair',
  title: 'Covers stacked',
  measures: 'closed layers of thread (K) where more than one layer lies',
  unit: 'K',
  why: 'Cover on cover on cover gets stiff, breaks needles and puckers light cloth. Where it cannot be seen, the lower layer is carved out or opened.',
  source: 'from memory',
  follows: 'cloth',
  limit: (target) => target.fabric.maxCover,
  list(context) {
    const { target, cover } = context;
    // Edges that lie over each other are meant to: only what is broad is a board.
    return findSpots(context, cover.cover, target.fabric.maxCover, (cell) => (cover.layers[cell]! >= 2 ? 1 : 0))
      .filter((spot) => isBroad(spot, cover.columns))
      .sort((a, b) => a.row - b.row);
  },
  say(context, faults) {
    const { target, cover } = context;
    const limit = target.fabric.maxCover;
    const worst = faults.reduce((a, b) => (b.worst > a.worst ? b : a));
    const area = faults.reduce((sum, s) => sum + s.area, 0);
    const layers = worst.cells.reduce((most, cell) => Math.max(most, cover.layers[cell]!), 0);
    return {
      worst,
      severity: worst.worst > limit * SEVERE && worst.area >= SEVERE_AREA ? 'stop' : 'fix',
      measured: worst.worst,
      limit,
      message: `${layers} layers thick, ${worst.worst.toFixed(1)} closed layers (K) where ${target.fabric.name} takes ${limit.toFixed(1)}, on ${sayCount(area)} mm²`,
      reason: `${target.fabric.name} bears ${limit.toFixed(1)} closed layers; above that it gets stiff and puckers. ${countOf(faults.length, 'place')}.`,
      cost: priceOfExcess(context, faults),
      fix: 'Take away what nobody sees of it',
    };
  },
  mend: 'lightened where nobody sees it',
};

/** Whether a spot is more than a seam: enough of its cells lie within it on all sides. */
function isBroad({ cells }: Spot, columns: number): boolean {
  const own = new Set(cells);
  let inner = 0;
  for (const cell of cells) if (AROUND.every(([dx, dy]) => own.has(cell + dy * columns + dx))) inner++;
  return inner >= LEAST_INNER;
}

const LEAST_INNER = 6;
const AROUND = [-1, 0, 1].flatMap((dy) => [-1, 0, 1].map((dx) => [dx, dy] as const));
