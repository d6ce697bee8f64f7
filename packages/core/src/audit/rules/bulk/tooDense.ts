import { spacingBand } from '../../../materials/specBands.ts';
import { threadThickness } from '../../../model/thread.ts';
import type { Target } from '../../../model/target.ts';
import { type Box, meets, walkSegment } from '../../../measure/coverField.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { findSpots, priceOfExcess, type Spot } from './coverSpots.ts';
import { sayCount } from '../../../words/sayCount.ts';

/** What underlay adds to a layer of cover at most (K), where it is as the cloth wants it. */
const WITH_UNDERLAY = 0.36;
/** From this share over the limit needles deflect and thread breaks. */
const SEVERE = 1.35;
/** A smaller spot (mm²) is no more than untidy, however dense. */
const SEVERE_AREA = 20;

export const tooDense: Rule<Spot> = {
  id: 'too-dense',
  group: 'bulk',
  scope: 'object',
  title: 'Too dense',
  measures: 'same-direction pitch of the densest single layer, from the thread laid on each square millimetre',
  unit: 'mm',
  why: 'Thread that does not fit beside its neighbor piles up: the cloth puckers, edges push out, needles deflect and break, and all of it costs stitches.',
  source: 'from memory',
  follows: 'cloth',
  limit: (target) => pitchOfCover(target, densestCover(target)),
  list(context) {
    const { target, cover } = context;
    const spots = findSpots(context, cover.densestLayer, densestCover(target), (cell) => {
      const row = cover.densestRow[cell]!;
      return row < 0 ? 0 : context.threadOfRow[row]! + 2;
    });
    const own = context.objects === undefined ? spots : spots.flatMap((spot) => ofOneObject(context, spot, densestCover(target)));
    return own.sort((a, b) => a.row - b.row);
  },
  say(context, faults) {
    const { target } = context;
    const limit = densestCover(target);
    const worst = faults.reduce((a, b) => (b.worst > a.worst ? b : a));
    const area = faults.reduce((sum, s) => sum + s.area, 0);
    const excess = faults.reduce((sum, s) => sum + s.excess, 0);
    const pitch = pitchOfCover(target, limit + excess / area);
    const tightest = pitchOfCover(target, worst.worst).toFixed(2);
    return {
      worst,
      severity: worst.worst > limit * SEVERE && area >= SEVERE_AREA ? 'stop' : 'fix',
      measured: pitch,
      limit: pitchOfCover(target, limit),
      message: `rows lie as if spaced ${pitch.toFixed(2)} mm on ${sayCount(area)} mm², ${tightest} at worst`,
      reason: `${target.fabric.name} wants ${target.fabric.fillSpacing.toFixed(2)} mm with ${target.thread.name}; under ${pitchOfCover(target, limit).toFixed(2)} thread piles up, the cloth puckers and needles deflect.`,
      cost: priceOfExcess(context, faults),
      fix: faults.length === 1 ? 'Open it where it lies too close' : 'Open them where they lie too close',
    };
  },
  mend: 'opened, and drawn in where it crowds',
};

/**
 * A spot with as much of its thread as the object laid that is densest there: what others laid on it in one go is judged as a stack. None where
 * that object alone does not lie too closely.
 */
function ofOneObject(context: AuditContext, spot: Spot, limit: number): Spot[] {
  const { cover, program, lengths, target } = context;
  const id = context.objectAt(spot.row);
  if (id === undefined) return [spot];
  const cells = new Set(spot.cells);
  const [x, y] = [spot.cells.map((cell) => cell % cover.columns), spot.cells.map((cell) => Math.floor(cell / cover.columns))];
  const box = [
    ...[cover.minX + least(x) * cover.cell, cover.minY + least(y) * cover.cell],
    ...[cover.minX + (most(x) + 1) * cover.cell, cover.minY + (most(y) + 1) * cover.cell],
  ] as unknown as Box;
  let own = 0;
  for (const { spans } of context.families.get(id) ?? [])
    for (const { first, last } of spans)
      for (let row = Math.max(1, first); row <= last; row++)
        if (lengths[row]! > 0 && meets(program, row, box))
          walkSegment(program, lengths, cover, row, (at, length) => {
            if (cells.has(at)) own += length;
          });
  const all = spot.cells.reduce((sum, cell) => sum + cover.laid.densest[cell]!, 0);
  const share = Math.min(1, (own * threadThickness(target.thread)) / (cover.cell * cover.cell) / Math.max(1e-9, all));
  const worst = spot.worst * share;
  return worst > limit ? [{ ...spot, worst, excess: Math.max(0, spot.excess - (1 - share) * (spot.excess + limit * spot.area)) }] : [];
}

const least = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);
const most = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity);

/**
 * The cover (K) of a single layer that this cloth takes: rows as close as a spec's band goes for a satin, on their underlay. Thick thread reaches it at a
 * wider pitch than thin.
 */
function densestCover(target: Target): number {
  const { low } = spacingBand(target, { kind: 'satin', spacing: target.fabric.satinSpacing, isOpen: false });
  return Math.min(target.fabric.maxCover, (2 * threadThickness(target.thread)) / low + WITH_UNDERLAY);
}

/** The same-direction pitch (mm) at which this thread would give a cover of `k`. */
function pitchOfCover(target: Target, k: number): number {
  return (2 * threadThickness(target.thread)) / k;
}
