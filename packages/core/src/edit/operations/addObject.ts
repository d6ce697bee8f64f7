import { z } from 'zod';
import { type Block, type Link, type ObjectId, orderOf } from '../../model/plan.ts';
import { fail } from '../../model/result.ts';
import { Id, Name, type OperationKind, withPlan } from './kind.ts';
import { MADE_FIELDS, sewnOf } from './madeRows.ts';

const Thread = z.object({ color: z.string().regex(/^#[0-9a-f]{6}$/), name: z.string().max(200) });

export const DRAWN_ROLES = ['cover', 'placement', 'tackdown'] as const;

const schema = z.object({
  id: z.literal('add-object'),
  object: Id,
  name: Name,
  role: z.enum(DRAWN_ROLES),
  thread: Thread,
  /** What it is sewn before; null: it is sewn last. */
  before: Id.nullable(),
  /** Names for the block that it makes where no block of its thread meets that place, and for the rest of a block that it parts. */
  block: Id,
  rest: Id,
  /** It has a color of its own, so that the machine stops: it joins no block by itself. */
  isApart: z.literal(true).optional(),
  /** A block that it is sewn last in, whatever comes after that. */
  into: Id.optional(),
  ...MADE_FIELDS,
});

/** Puts an object into the order that no file had: with those of its thread where it meets them, else as a block of its own. */
export const addObject: OperationKind<typeof schema> = {
  schema,
  apply(design, { object: id, name, role, thread, before, block, rest, isApart, into, id: _, ...made }) {
    const { plan } = design;
    if (id in plan.objects) return fail(`there is an object ${id} already`);
    const order = orderOf(plan);
    if (before !== null && !order.includes(before)) return fail(`there is no object ${before} any more`);
    const names = new Set(plan.blocks.map((one) => one.id));
    if (into !== undefined && !names.has(into)) return fail(`there is no block ${into} any more`);
    if (block === rest || names.has(block) || names.has(rest)) return fail('two blocks would have one name');
    const threadIndex = plan.blocks.length;
    const sewn = sewnOf({ id, name, role, thread: threadIndex, color: thread.color }, made);
    if (!sewn.ok) return sewn;
    const isSame = (one: Block): boolean =>
      one.thread?.color === thread.color && one.thread.name === thread.name && isApart !== true && one.keep !== true;
    // What was found between those that it comes between leads from another one, and holds no more.
    const links: Record<ObjectId, Link> = { ...plan.links, [id]: BARE_LINK };
    const objects = { ...plan.objects, [id]: { id, name, sewn: sewn.value, own: null, isDrawn: true as const } };
    const alone: Block = { id: block, thread, objects: [id], ...(isApart === true ? { keep: true as const } : {}) };
    return withPlan(design, {
      ...plan,
      objects,
      links,
      blocks: into === undefined ? place(plan.blocks, id, before, alone, rest, isSame) : joined(plan.blocks, into, id),
    });
  },
};

const joined = (blocks: readonly Block[], into: string, id: ObjectId): Block[] =>
  blocks.map((block) => (block.id === into ? { ...block, objects: [...block.objects, id] } : block));

const BARE_LINK: Link = { way: 'as-found', found: null, ties: [] };

function place(
  blocks: readonly Block[],
  id: ObjectId,
  before: ObjectId | null,
  alone: Block,
  rest: string,
  isSame: (block: Block) => boolean,
): Block[] {
  const at = before === null ? blocks.length : blocks.findIndex((block) => block.objects.includes(before));
  const block = blocks[at];
  const k = block === undefined ? 0 : block.objects.indexOf(before!);
  if (block !== undefined && isSame(block)) return blocks.with(at, { ...block, objects: block.objects.toSpliced(k, 0, id) });
  const last = blocks[at - 1];
  if (k === 0 && last !== undefined && isSame(last)) return blocks.with(at - 1, { ...last, objects: [...last.objects, id] });
  if (block === undefined || k === 0) return blocks.toSpliced(at, 0, alone);
  const parts = [{ ...block, objects: block.objects.slice(0, k) }, alone, { ...block, id: rest, objects: block.objects.slice(k) }];
  return blocks.toSpliced(at, 1, ...parts);
}
