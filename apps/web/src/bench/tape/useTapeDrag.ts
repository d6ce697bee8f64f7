import { computed, type Ref, shallowRef } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useOrder } from '../../stores/order.ts';
import { useViewing } from '../../stores/viewing.ts';
import type { SewnSpan } from './sayEvent.ts';

/** A pointer that moves less than this (px) does not drag. */
const FIRM = 4;

/** The selected object dragged along the tape to where it is to be sewn. `sewn` in sewing order; `perSecond` px of the tape to a second. */
export function useTapeDrag(sewn: Readonly<Ref<readonly SewnSpan[]>>, perSecond: Readonly<Ref<number>>) {
  const bench = useBench();
  const objects = useObjects();
  const order = useOrder();
  const viewing = useViewing();
  /** Where it would be sewn, px, and what that would put on top of what. */
  const drag = shallowRef<{ readonly before: string | null; readonly x: number; readonly words: string }>();
  const canDrag = computed(() => order.order.includes(objects.selected?.id ?? '') && bench.trial === undefined);

  function startDrag(event: PointerEvent): void {
    const id = objects.selected?.id;
    const element = event.currentTarget as HTMLElement;
    if (!canDrag.value || id === undefined) return;
    event.stopPropagation();
    element.setPointerCapture(event.pointerId);
    const { left } = element.parentElement!.getBoundingClientRect();
    const move = (e: PointerEvent): void => {
      if (drag.value === undefined && Math.abs(e.clientX - event.clientX) < FIRM) return;
      const row = rowAt((e.clientX - left) / perSecond.value);
      const next = sewn.value.find((o) => o.id !== id && o.first > row);
      const view = bench.now!.view;
      const seconds = next === undefined ? view.totals.seconds : (view.done[Math.max(0, next.first - 1)] ?? 0);
      drag.value = { before: next?.id ?? null, x: seconds * perSecond.value, words: order.sayDrop(id, next?.id ?? null) };
    };
    const end = (e: PointerEvent): void => {
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerup', end);
      element.removeEventListener('pointercancel', end);
      const to = drag.value;
      drag.value = undefined;
      if (e.type !== 'pointerup') return;
      // Who only clicks there wants to see it there.
      if (to === undefined) viewing.time = Math.max(0, (e.clientX - left) / perSecond.value);
      else void order.drop(id, to.before);
    };
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerup', end);
    element.addEventListener('pointercancel', end);
  }

  /** The row that is being sewn at a time, s. */
  function rowAt(time: number): number {
    const done = bench.now?.view.done ?? new Float64Array(0);
    let [low, high] = [0, done.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (done[middle]! < time) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  return { drag, canDrag, startDrag };
}
