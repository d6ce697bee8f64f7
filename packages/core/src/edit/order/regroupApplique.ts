import type { Design } from '../../model/design.ts';
import { type Block, type ObjectId, orderOf } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { StitchRole } from '../../model/kinds.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { printOrder } from '../operations/printOf.ts';
import { listStops } from '../../plan/stops.ts';
import { proposeOrder } from './proposeOrder.ts';

/** What the operator is told where the file said nothing. Common practice; hands stay out of a machine that runs. */
const LAY = 'Lay all fabrics over their placement lines';
const CUT = 'Stop the machine, then cut the fabrics close to the tack-downs';

export interface RegroupedApplique {
  readonly operations: readonly SimpleOperation[];
  readonly pieces: number;
  /** Times that the machine stops, before and after. */
  readonly stops: readonly [before: number, after: number];
}

/**
 * Sews applique by step: all placement lines, one stop to lay the fabrics, all tack-downs, one stop to cut them, then all covers, by color. Each step
 * is a block of its own that is not merged with others, so that the machine stops between them. Refused where there are fewer than two pieces.
 */
export function regroupApplique(design: Design): Result<RegroupedApplique, string> {
  const { plan } = design;
  const order = orderOf(plan);
  const roleOf = (id: ObjectId): StitchRole => plan.objects[id]!.sewn.reading.role;
  const first = order.findIndex((id) => roleOf(id) === 'placement');
  const placements = order.filter((id) => roleOf(id) === 'placement');
  const tackdowns = order.filter((id) => roleOf(id) === 'tackdown');
  if (placements.length < 2) return fail(placements.length === 0 ? 'there is no applique in it' : 'there is one piece of applique only');
  // What is sewn for a piece ends with its cover; what comes after the last cover is no part of the applique.
  const covers = new Set(placements.map((id) => plan.objects[id]!.sewn.reading.parent));
  const last = order.findLastIndex((id) => covers.has(id));
  const steps = new Set([...placements, ...tackdowns]);
  const rest = order.slice(first, last + 1).filter((id) => !steps.has(id));
  const blockOf = new Map(plan.blocks.flatMap((block) => block.objects.map((id) => [id, block] as const)));
  const used = new Set<string>();
  const blocks: Block[] = [
    ...gather(order.slice(0, first), blockOf, used),
    ...gather(placements, blockOf, used, true),
    ...gather(tackdowns, blockOf, used, true),
    ...gather(rest, blockOf, used),
    ...gather(order.slice(last + 1), blockOf, used),
  ];
  const said = listStops(plan);
  const noteBefore = (ids: readonly ObjectId[], otherwise: string): string =>
    said.find(({ object }) => ids.includes(object))?.note || otherwise;
  const operations: SimpleOperation[] = [
    { id: 'set-order', was: printOrder(plan), blocks: blocks.map((block) => ({ ...block, objects: [...block.objects] })) },
    ...said.filter(({ object }) => order.indexOf(object) > first && order.indexOf(object) <= last).map(({ object }) => noStop(object)),
    { id: 'set-stop', object: tackdowns[0]!, note: noteBefore(tackdowns, LAY) },
    { id: 'set-stop', object: rest[0]!, note: noteBefore(rest, CUT) },
  ];
  const next = applyOperation(design, { id: 'sequence', operations });
  if (!next.ok) return next;
  // The covers in the fewest colors; what lies on what stays.
  const better = proposeOrder(next.value, { parts: ['colors'] });
  const all = [...operations, ...better.operations];
  return succeed({ operations: all, pieces: placements.length, stops: [said.length, listStops(better.design.plan).length] });
}

function noStop(object: ObjectId): SimpleOperation {
  return { id: 'set-stop', object, note: null };
}

/** Objects in blocks of their threads, those of one thread that follow each other in one. */
function gather(ids: readonly ObjectId[], blockOf: ReadonlyMap<ObjectId, Block>, used: Set<string>, isKept = false): Block[] {
  const out: { id: string; thread: Block['thread']; keep?: true; objects: ObjectId[] }[] = [];
  for (const id of ids) {
    const { id: name, thread, keep } = blockOf.get(id)!;
    const last = out[out.length - 1];
    if (last !== undefined && last.thread?.color === thread?.color && last.thread?.name === thread?.name) {
      last.objects.push(id);
      continue;
    }
    const own = used.has(name) ? `${id}.block` : name;
    used.add(own);
    out.push({ id: own, thread, ...(isKept || keep === true ? { keep: true as const } : {}), objects: [id] });
  }
  return out;
}
