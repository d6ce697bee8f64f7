import { type Block, type Link, type ObjectId, orderOf, type Plan, type PlanObject, type Sewn } from '../model/plan.ts';
import { longestRising, type ObjectChange, type ObjectChangeKind } from './changesSinceFile.ts';

/**
 * What differs between two states of one design, object by object: in sewing order of the second, then those that only the first has. Objects are known by
 * their ids; of those that moved, as few as can be are said to have. O(n log n).
 */
export function compareObjects(before: Plan, after: Plan): ObjectChange[] {
  const was = new Map(orderOf(before).map((id, k) => [id, k]));
  const order = orderOf(after);
  const is = new Set(order);
  const common = order.filter((id) => was.has(id));
  // Places among those that both have: one that came or went moves nobody.
  const places = new Map([...common].sort((a, b) => was.get(a)! - was.get(b)!).map((id, k) => [id, k]));
  const stays = new Set(longestRising(common.map((id) => places.get(id)!)).map((k) => common[k]!));
  const [threadsBefore, threadsAfter] = [threadsOf(before.blocks), threadsOf(after.blocks)];
  const changed = order.flatMap((id, to): ObjectChange[] => {
    const object = after.objects[id]!;
    const from = was.get(id) ?? -1;
    const kinds: ObjectChangeKind[] = from < 0 ? ['new'] : kindsOf(before.objects[id]!, object);
    if (from >= 0 && threadsBefore.get(id) !== threadsAfter.get(id)) kinds.push('thread');
    if (from >= 0 && isOtherWay(before.links[id], after.links[id])) kinds.push('way');
    if (from >= 0 && !stays.has(id)) kinds.push('moved');
    return kinds.length === 0 ? [] : [{ object: id, name: object.name, kinds, from, to }];
  });
  const gone = [...was].filter(([id]) => !is.has(id));
  return [
    ...changed,
    ...gone.map(([id, from]): ObjectChange => ({ object: id, name: before.objects[id]!.name, kinds: ['gone'], from, to: -1 })),
  ];
}

function kindsOf(before: PlanObject, after: PlanObject): ObjectChangeKind[] {
  if (before === after) return [];
  const [a, b] = [before.sewn, after.sewn];
  const kinds: ObjectChangeKind[] = [];
  if (isSewnAlike(a, b)) return before.name === after.name ? [] : ['renamed'];
  if (JSON.stringify(a.made?.spec) !== JSON.stringify(b.made?.spec)) kinds.push('sewn-anew');
  else if (JSON.stringify(a.made?.shape) !== JSON.stringify(b.made?.shape)) kinds.push('sewn-anew');
  if (a.edited !== b.edited) kinds.push('touched');
  return kinds.length > 0 ? kinds : ['placed'];
}

/** Whether two are the same rows from the same place. */
function isSewnAlike(a: Sewn, b: Sewn): boolean {
  if (a === b) return true;
  const isThere = a.start.x === b.start.x && a.start.y === b.start.y && a.edited === b.edited;
  if (!isThere || JSON.stringify(a.made) !== JSON.stringify(b.made)) return false;
  if ('end' in a.rows || 'end' in b.rows)
    return 'end' in a.rows && 'end' in b.rows && a.rows.first === b.rows.first && a.rows.end === b.rows.end;
  const [one, other] = [a.rows, b.rows];
  if (one.rowCount !== other.rowCount) return false;
  for (let k = 0; k < one.rowCount; k++)
    if (one.x[k] !== other.x[k] || one.y[k] !== other.y[k] || one.command[k] !== other.command[k]) return false;
  return true;
}

/** Whether the needle gets to an object otherwise: cut or not, on another path, or with another stop. */
function isOtherWay(a: Link | undefined, b: Link | undefined): boolean {
  if (a === b || a === undefined || b === undefined) return false;
  const say = ({ way, path, stop }: Link): string => JSON.stringify([way, path?.points, stop]);
  return say(a) !== say(b);
}

/** The thread that each object is sewn with, as color and name. */
function threadsOf(blocks: readonly Block[]): Map<ObjectId, string> {
  let thread = '';
  const threads = new Map<ObjectId, string>();
  for (const block of blocks) {
    if (block.thread !== null) thread = JSON.stringify(block.thread);
    for (const id of block.objects) threads.set(id, thread);
  }
  return threads;
}
