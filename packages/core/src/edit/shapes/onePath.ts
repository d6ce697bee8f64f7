import type { Design } from '../../model/design.ts';
import { type Block, type ObjectId, orderOf } from '../../model/plan.ts';
import { fail, type Result } from '../../model/result.ts';
import { changedPicture, topPicture } from '../../order/topPicture.ts';
import { proposeOrder } from '../order/proposeOrder.ts';
import { printOrder } from '../operations/printOf.ts';
import { Drawing, type Drawn, type NewId } from './drawing.ts';

/** What lies on top may change on no more than this share of the picture. */
const MOST_CHANGED = 0.002;

/**
 * Sews objects of one thread as one path: one right after another, with the ends that meet, and hidden runs or carried stitches between them, so that
 * the thread is locked at the first and the last of them only. What has to stay cut is said.
 */
export function onePath(design: Design, objects: readonly ObjectId[], newId: NewId): Result<Drawn, string> {
  const { plan } = design;
  const wanted = new Set(objects);
  const ids = orderOf(plan).filter((id) => wanted.has(id));
  if (ids.length < 2) return fail('one path takes two objects or more');
  const blocks = plan.blocks.filter((block) => block.objects.some((id) => wanted.has(id)));
  const threads = new Set(blocks.map(({ thread }) => JSON.stringify([thread?.color, thread?.name])));
  if (threads.size > 1) return fail('they are sewn with different threads');
  let drawing = new Drawing(design, newId);
  // At the place of the last of them, or else of the first: where what lies on top stays what it is.
  for (const at of [ids.at(-1)!, ids[0]!]) {
    const gathered = gather(plan.blocks, ids, wanted, at);
    if (JSON.stringify(gathered) === JSON.stringify(plan.blocks)) break;
    const moved = drawing.perform({
      ...{ id: 'set-order', was: printOrder(plan) },
      blocks: gathered.map((block) => ({ ...block, objects: [...block.objects] })),
    });
    if (!moved.ok) return moved;
    if (changedPicture(topPicture(design.program), topPicture(drawing.design.program), false) <= MOST_CHANGED) break;
    if (at === ids[0])
      return fail('other objects lie between them: sewn one after another, something would come out on top that belongs beneath');
    drawing = new Drawing(design, newId);
  }
  const proposal = proposeOrder(drawing.design, { parts: ['objects', 'connectors'], only: wanted });
  for (const operation of proposal.operations) {
    const next = drawing.perform(operation);
    if (!next.ok) return next;
  }
  const cuts = proposal.connectors.filter(({ from, to, how }) => how === 'trim' && wanted.has(from) && wanted.has(to));
  for (const { why } of cuts) drawing.notes.push(`one cut stays: ${why}`);
  return drawing.operations.length === 0 ? fail('they are sewn as one path already') : drawing.finish();
}

/** Blocks with some objects one after another, at the place of one of them. */
function gather(blocks: readonly Block[], ids: readonly ObjectId[], wanted: ReadonlySet<ObjectId>, at: ObjectId): Block[] {
  return blocks.flatMap((block) => {
    const objects = block.objects.flatMap((id) => (id === at ? ids : wanted.has(id) ? [] : [id]));
    return objects.length === 0 ? [] : [{ ...block, objects }];
  });
}
