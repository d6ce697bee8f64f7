import type { Block, ObjectId, Plan } from '../../model/plan.ts';
import type { ProgramThread } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { SeenLayer, SeenLayers } from '../../order/seenLayers.ts';
import type { SimpleOperation } from '../operations/registry.ts';
import { printOrder } from '../operations/printOf.ts';

type Blocks = Pick<Plan, 'blocks'>;
type Arranged = Result<SimpleOperation, string>;

/**
 * Sews objects right before another one, or last of all where none is named. They keep their thread: where that is not the one that is on there, the
 * block is parted around them; blocks of one thread that come to follow each other become one, unless they are to be kept apart.
 */
export function sewBefore(plan: Blocks, ids: readonly ObjectId[], before: ObjectId | null): Arranged {
  const moved = new Set(ids);
  if (before !== null && moved.has(before)) return fail('an object cannot be sewn before itself');
  const all = plan.blocks.flatMap((block) => block.objects.map((id) => ({ id, block })));
  const parts = all.filter(({ id }) => moved.has(id));
  if (parts.length < moved.size) return fail('an object is not there any more');
  const left = all.filter(({ id }) => !moved.has(id));
  const at = before === null ? left.length : left.findIndex(({ id }) => id === before);
  if (at < 0) return fail(`there is no object ${before} any more`);
  return arranged(plan, [...left.slice(0, at), ...parts, ...left.slice(at)]);
}

/** Puts another thread on for a block. */
export function recolorBlock(plan: Blocks, block: string, thread: ProgramThread): Arranged {
  if (!plan.blocks.some(({ id }) => id === block)) return fail(`there is no block ${block} any more`);
  return ordered(
    plan,
    plan.blocks.map((b) => (b.id === block ? { ...b, thread } : b)),
  );
}

/** Parts a block so that its second part begins with an object; both are kept apart, with the same thread on. */
export function splitBlockBefore(plan: Blocks, id: ObjectId): Arranged {
  const block = plan.blocks.find(({ objects }) => objects.includes(id));
  const at = block?.objects.indexOf(id) ?? -1;
  if (block === undefined || at < 1) return fail('a block is parted before one of its later objects');
  return ordered(
    plan,
    plan.blocks.flatMap((b) =>
      b === block
        ? [
            { ...b, objects: b.objects.slice(0, at) },
            { id: freshId(plan, `${id}.block`), thread: b.thread, keep: true as const, objects: b.objects.slice(at) },
          ]
        : [b],
    ),
  );
}

/** Keeps a block apart from others of its thread, or lets it be merged with them. */
export function keepBlock(plan: Blocks, block: string, isKept: boolean): Arranged {
  return ordered(
    plan,
    plan.blocks.map(({ keep: _, ...b }) => ({ ...b, ...((b.id === block ? isKept : _ === true) ? { keep: true as const } : {}) })),
  );
}

/** Sews a block's objects at the end of an earlier block or, before its objects, of a later one, with that block's thread. */
export function mergeBlocks(plan: Blocks, block: string, into: string): Arranged {
  const [from, to] = [block, into].map((id) => plan.blocks.findIndex((b) => b.id === id));
  if (from! < 0 || to! < 0 || from === to) return fail('two blocks are merged');
  const objects = plan.blocks[from!]!.objects;
  return ordered(
    plan,
    plan.blocks.flatMap((b, k) =>
      k === from ? [] : k !== to ? [b] : [{ ...b, objects: to < from! ? [...b.objects, ...objects] : [...objects, ...b.objects] }],
    ),
  );
}

/** What is seen on top of something that it would be sewn before in an order: nobody would see it as it is. */
export function brokenBy(seen: SeenLayers, order: readonly ObjectId[]): SeenLayer[] {
  const places = new Map(order.map((id, k) => [id, k]));
  return seen.layers.filter(({ over, under }) => (places.get(seen.ids[over]!) ?? 0) < (places.get(seen.ids[under]!) ?? 0));
}

/** An operation that sews objects in a row, each with the thread of the block that it was in. */
function arranged(plan: Blocks, row: readonly { readonly id: ObjectId; readonly block: Block }[]): Arranged {
  const out: { id: string; thread: ProgramThread | null; keep?: true; objects: ObjectId[]; of: Block }[] = [];
  const used = new Set<string>();
  for (const { id, block } of row) {
    const last = out[out.length - 1];
    const isSame = last !== undefined && (last.of === block || (mayMerge(last.of, block) && isOneThread(last.thread, block.thread)));
    if (isSame) {
      last.objects.push(id);
      continue;
    }
    const name = used.has(block.id) ? freshId(plan, `${id}.block`) : block.id;
    used.add(name);
    out.push({ id: name, thread: block.thread, ...(block.keep === undefined ? {} : { keep: block.keep }), objects: [id], of: block });
  }
  return ordered(
    plan,
    out.map(({ of: _, ...block }) => block),
  );
}

function mayMerge(a: Block, b: Block): boolean {
  return a.keep !== true && b.keep !== true;
}

function isOneThread(a: ProgramThread | null, b: ProgramThread | null): boolean {
  return a?.color === b?.color && a?.name === b?.name;
}

function ordered(plan: Blocks, blocks: readonly Block[]): Arranged {
  return succeed({ id: 'set-order', was: printOrder(plan), blocks: blocks.map((b) => ({ ...b, objects: [...b.objects] })) });
}

function freshId({ blocks }: Blocks, wanted: string): string {
  const taken = new Set(blocks.map(({ id }) => id));
  let name = wanted;
  for (let k = 2; taken.has(name); k++) name = `${wanted}${k}`;
  return name;
}
