import { countProgram } from '../measure/counts.ts';
import { extentsInHoop } from '../measure/inHoop.ts';
import type { Design } from '../model/design.ts';
import { headsOf, productionSheet } from './productionSheet.ts';

export const CHECK_IDS = ['stops', 'threads', 'stock', 'needles', 'hoop', 'cautions'] as const;
export type CheckId = (typeof CHECK_IDS)[number];

/** A line of the list that is gone through before a design is released. What is not settled needs somebody's reason. */
export interface ReleaseCheck {
  readonly id: CheckId;
  readonly title: string;
  readonly isSettled: boolean;
  /** What was found, in words. */
  readonly found: string;
}

/**
 * Goes through what has to be right before a file leaves. `openStops`: what stands against sewing it, in words. That cautions were read nobody
 * can measure: that line is settled only by a signature. O(rows).
 */
export function checkRelease(design: Pick<Design, 'program' | 'target' | 'kept'>, openStops: readonly string[]): ReleaseCheck[] {
  const { target } = design;
  const sheet = productionSheet(design);
  return [
    {
      id: 'stops',
      title: openStops.length === 0 ? 'Nothing stands against sewing it' : 'This stands against sewing it',
      isSettled: openStops.length === 0,
      found: openStops.length === 0 ? 'no finding of severity stop is open' : openStops.join('; '),
    },
    { id: 'threads', title: 'The thread list is complete', ...checkThreads(sheet.threads) },
    { id: 'stock', title: 'There is thread for the order', ...checkStock(sheet.threads, design) },
    {
      id: 'needles',
      title: 'Needles',
      isSettled: sheet.missingNeedles === 0,
      found:
        sheet.missingNeedles === 0
          ? `${sheet.threads.length} of ${target.machine.needles} in use, size ${target.thread.needle}`
          : `${sheet.threads.length} threads for ${target.machine.needles} needles: ${sheet.missingNeedles} put on by hand in each run`,
    },
    { id: 'hoop', title: 'It clears the hoop', ...checkHoop(design) },
    { id: 'cautions', title: 'Cautions are read', isSettled: false, found: 'by who sews it, before the first piece' },
  ];
}

/** Those that nobody settled: neither the design does, nor a reason of three letters and more. */
export function checksLeft(
  checks: readonly ReleaseCheck[],
  signed: Readonly<Partial<Record<CheckId, string | undefined>>>,
): ReleaseCheck[] {
  return checks.filter(({ id, isSettled }) => !isSettled && (signed[id]?.trim() ?? '').length < LEAST_REASON);
}

const LEAST_REASON = 3;

type Found = Pick<ReleaseCheck, 'isSettled' | 'found'>;

function checkThreads(threads: ReturnType<typeof productionSheet>['threads']): Found {
  const unnamed = threads.filter(({ name }) => name.trim() === '');
  if (unnamed.length === 0) return { isSettled: true, found: threads.map(({ name }) => name).join(', ') || 'it needs none' };
  return {
    isSettled: false,
    found: `without a name: needle ${unnamed.map(({ needle, color }) => `${needle} (${color})`).join(', needle ')}`,
  };
}

/** Each head needs a cone of each thread, however little is sewn with it. */
function checkStock(threads: ReturnType<typeof productionSheet>['threads'], { target }: Pick<Design, 'target'>): Found {
  const heads = headsOf(target.machine);
  const needed = threads.reduce((sum, { cones }) => sum + Math.max(heads, Math.ceil(cones)), 0);
  const { cones, name } = target.thread;
  const need = `${needed} ${needed === 1 ? 'cone' : 'cones'} of ${name}, ${heads === 1 ? 'one for each thread' : `one for each thread and head`} at least`;
  if (cones === undefined) return { isSettled: true, found: `${need}; what is in stock is not counted` };
  return { isSettled: cones >= needed, found: `${need}; ${cones} in stock` };
}

function checkHoop({ program, target }: Pick<Design, 'program' | 'target'>): Found {
  const { hoop, place } = target;
  const at = extentsInHoop(program, countProgram(program).extents, place);
  const spare = Math.min(hoop.width / 2 - at.maxX, hoop.width / 2 + at.minX, hoop.height / 2 - at.maxY, hoop.height / 2 + at.minY);
  if (spare >= 0) return { isSettled: true, found: `${spare.toFixed(1)} mm to spare in ${hoop.name}` };
  return { isSettled: false, found: `it runs ${(-spare).toFixed(1)} mm out of the field of ${hoop.name}: the needle would hit the frame` };
}
