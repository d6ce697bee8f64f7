import type { StitchObject } from '@isola/core';
import { ref, shallowRef } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useOrder } from '../../stores/order.ts';

/** Objects dragged in their list to be sewn elsewhere: before one lets go it is said what would come out on top of what. */
export function useListDrag() {
  const bench = useBench();
  const objects = useObjects();
  const order = useOrder();
  const dragged = ref<string>();
  /** Where what is dragged would be sewn if it were let go, and that in words. */
  const drop = shallowRef<{ readonly before: string | null; readonly words: string }>();

  const canMove = (object: StitchObject): boolean => bench.trial === undefined && order.order.includes(object.id);

  function take(event: DragEvent, object: StitchObject): void {
    dragged.value = object.id;
    event.dataTransfer!.effectAllowed = 'move';
    event.dataTransfer!.setData('text/plain', object.name);
    objects.select(object);
  }

  /** Above the middle of a row it is sewn before that, below it after. */
  function hover(event: DragEvent, over: StitchObject): void {
    const id = dragged.value;
    const at = order.order.indexOf(over.id);
    if (id === undefined || at < 0 || over.id === id) return;
    event.preventDefault();
    const row = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const isAfter = event.clientY > row.top + row.height / 2;
    const before = isAfter ? (order.order.slice(at + 1).find((o) => o !== id) ?? null) : over.id;
    drop.value = { before, words: `Sewn ${order.sayDrop(id, before)}` };
  }

  async function put(event: DragEvent): Promise<void> {
    event.preventDefault();
    const [id, to] = [dragged.value, drop.value];
    drop.value = dragged.value = undefined;
    if (id !== undefined && to !== undefined) await order.drop(id, to.before);
  }

  return { drop, canMove, take, hover, put };
}
