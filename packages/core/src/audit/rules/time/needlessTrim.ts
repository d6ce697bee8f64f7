import { orderOf } from '../../../model/plan.ts';
import { type HiddenWays, MOST_ON_TOP } from '../../../order/hiddenWays.ts';
import { waysFor } from '../../../order/waysFor.ts';
import { assemble } from '../../../plan/assemble.ts';
import { hasStop } from '../../../plan/stops.ts';
import type { AuditContext, HiddenPath } from '../../AuditContext.ts';
import type { Price } from '../../finding.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { carryOver, type Connection, listConnections } from './connectGaps.ts';

/** One thread sews on within this distance without a jump, mm. Common practice. */
export const CARRY_OVER = 2;
/** A lock and its like on the other side take so many stitches. */
const LOCKS = 8;
/** A walk over bare cloth of more than this (mm) between parts is seen, however short the whole. From memory. */
const BARE = 1.6;

/** A cut that need not be: one stitch would carry over, or a path hides. */
type Needless = Connection & { readonly path?: HiddenPath };

export const needlessTrim: Rule<Needless> = {
  id: 'needless-trim',
  group: 'time',
  scope: 'link',
  title: 'Needless trim',
  measures: 'distance from a trim to where the same thread goes on',
  unit: 'mm',
  why: 'A trim costs about as much machine time as 120 stitches. Parts of one color that lie no more than 2 mm apart need none: one stitch carries over. Where later stitching hides a path, none is needed either.',
  source: 'common practice',
  limit: () => CARRY_OVER,
  list: listNeedless,
  say(context, faults, limit) {
    const carried = faults.filter(({ path }) => path === undefined);
    const hidden = faults.length - carried.length;
    const widest = (carried.length > 0 ? carried : faults).reduce((most, { distance }) => Math.max(most, distance), 0);
    return {
      severity: 'fix',
      measured: widest,
      limit,
      message:
        hidden === 0
          ? `${countOf(carried.length, 'trim')} between parts that lie ${widest.toFixed(1)} mm apart`
          : faults.length === 1
            ? `a trim over what is sewn later, where a path of ${faults[0]!.path!.length.toFixed(0)} mm would hide`
            : `${countOf(faults.length, 'trim')} that need not be, ${hidden} of them over what is sewn later`,
      reason:
        hidden === 0
          ? 'One color, nothing in between: one stitch carries over, and the locks on either side go too.'
          : `${carried.length > 0 ? `${carried.length} are carried over by one stitch. ` : ''}Under later cover the thread walks on unseen, in steps of 4 mm.`,
      cost: priceOf(context, faults),
      fix:
        hidden === 0
          ? `Carry over ${faults.length === 1 ? 'it' : `all ${faults.length}`}`
          : `Walk on instead of ${countOf(faults.length, 'trim')}`,
    };
  },
  repair: {
    name: 'carry over',
    patches: (context, faults) =>
      carryOver(
        context,
        faults.filter(({ path }) => path === undefined),
      ),
  },
  mend: 'walked under cover',
};

function priceOf(context: AuditContext, faults: readonly Needless[]): Price {
  const carried = faults.filter(({ path }) => path === undefined);
  const { machine } = context.target;
  const price = priceOfPatches(context, carryOver(context, carried));
  let { seconds, stitches } = price;
  for (const { path } of faults) {
    if (path === undefined) continue;
    stitches += LOCKS - path.stitches;
    seconds += machine.trimCycle + ((LOCKS - path.stitches) * 60) / machine.topSpeed;
  }
  return { seconds, stitches };
}

function listNeedless(context: AuditContext, limit: number): Needless[] {
  const cuts = listConnections(context).filter((c) => c.gap.trims > 0);
  const near = cuts.filter((c) => c.distance <= limit && !showsOnCloth(context, c));
  return [
    ...near,
    ...listHidden(
      context,
      cuts.filter((c) => !near.includes(c)),
    ),
  ].sort((a, b) => a.row - b.row);
}

/** Whether the stitch that carries over would lie on bare cloth for long enough to be seen. */
function showsOnCloth({ cover, program }: AuditContext, { from, to, distance }: Connection): boolean {
  if (distance <= BARE) return false;
  const [ax, ay, bx, by] = [program.x[from.last]!, program.y[from.last]!, program.x[to.first]!, program.y[to.first]!];
  let bare = 0;
  for (let k = 0; k < LOOKS; k++) {
    const t = (k + 0.5) / LOOKS;
    const column = Math.floor((ax + (bx - ax) * t - cover.minX) / cover.cell);
    const row = Math.floor((ay + (by - ay) * t - cover.minY) / cover.cell);
    if ((cover.cover[row * cover.columns + column] ?? 0) < COVERED) bare++;
  }
  return (bare / LOOKS) * distance > BARE;
}

const LOOKS = 8;
/** Less thread than this (K) leaves the cloth in sight. */
const COVERED = 0.3;
/** More cuts than this are not searched: whoever has them begins with the order. */
const MOST_SEARCHED = 400;

/** Cuts between objects of one block from which a hidden path leads on. */
function listHidden(context: AuditContext, cuts: readonly Connection[]): Needless[] {
  const { plan, program, target, hiddenPaths } = context;
  if (plan === undefined) return [];
  const order = orderOf(plan);
  const { places } = assemble(plan);
  // Where paths can hide hangs on no limit: what was looked at is known when one changes.
  let ways: HiddenWays | undefined;
  const find = (cut: Connection, k: number): HiddenPath | null => {
    ways ??= waysFor({ plan, target }, plan.blocks);
    const from = { x: program.x[cut.from.last]!, y: program.y[cut.from.last]! };
    const to = { x: cut.x, y: cut.y };
    if (cut.distance > MOST_ON_TOP && !(ways.stack.mayHide(from, k - 1) && ways.stack.mayHide(to, k - 1))) return null;
    const path = ways.find(from, to, k - 1);
    return typeof path === 'string' ? null : { length: path.length, stitches: path.points.length / 2 + 1 };
  };
  return cuts.slice(0, MOST_SEARCHED).flatMap((cut): Needless[] => {
    const k = places.findIndex(({ link, first }) => cut.gap.first >= link && cut.gap.first <= first);
    const id = order[k];
    if (k < 1 || id === undefined || places[k - 1]!.block !== places[k]!.block || hasStop(plan, id) || plan.links[id]!.wish === 'cut')
      return [];
    let path = hiddenPaths.get(cut.row);
    if (path === undefined) hiddenPaths.set(cut.row, (path = find(cut, k)));
    return path === null ? [] : [{ ...cut, object: id, path }];
  });
}
