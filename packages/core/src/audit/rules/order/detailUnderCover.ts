import { threadThickness } from '../../../model/thread.ts';
import { areaOf } from '../../../order/areas.ts';
import { isClosedCover } from '../../../order/cells.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, isOpen, type PairFault, worstOf } from '../objectFault.ts';

/** So much of a detail (percent) under another color is no overlap any more. */
const HIDDEN = 65;
/** A detail is smaller than this share of what hides it, and no crumb (mm²). */
const DETAIL = 0.5;
const LEAST_AREA = 1.5;

export const detailUnderCover: Rule<PairFault> = {
  id: 'detail-under-cover',
  group: 'order',
  scope: 'pair',
  title: 'Detail sewn over',
  measures: 'how much of a detail a cover of another color hides that is sewn after it',
  unit: '%',
  why: 'A detail belongs on top: sewn before its ground it is paid for and never seen, and makes a bump.',
  source: 'common practice',
  limit: () => HIDDEN,
  list(context, limit) {
    const { areas, pairs, target } = context;
    const thickness = threadThickness(target.thread);
    const out = new Map<string, PairFault>();
    for (const { a, b, relation } of pairs) {
      const [detail, cover] = [areas[a]!, areas[b]!];
      const area = areaOf(detail);
      const hidden = (100 * relation.shared) / Math.max(0.5, area);
      const isDetail = area >= LEAST_AREA && area < DETAIL * areaOf(cover) && detail.color !== cover.color && !isOpen(detail, target);
      if (!isDetail || hidden < limit || !isClosedCover(cover, thickness) || (out.get(detail.id)?.value ?? 0) >= hidden) continue;
      out.set(detail.id, { ...faultOf(context, detail, hidden), other: cover.id, against: cover });
    }
    return [...out.values()].sort((p, q) => p.row - q.row);
  },
  say(_, faults, limit) {
    const worst = worstOf(faults);
    return {
      worst,
      severity: 'fix',
      ...{ measured: Math.min(100, worst.value), limit },
      message: `${Math.round(Math.min(100, worst.value))} % of it is under ${worst.against.name}, which is sewn after it`,
      reason: 'It is sewn and not seen. Sewn after what hides it, it lies on top.',
      cost: { seconds: 0, stitches: 0 },
      fix: `Sew ${faults.length === 1 ? 'it' : 'them'} on top`,
    };
  },
  mend: 'sewn after what hid it',
};
