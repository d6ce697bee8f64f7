import { type Ref, ref } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useOrder } from '../../stores/order.ts';
import { sayEvent, type SewnSpan } from './sayEvent.ts';

/** What is said of lost time that is pointed at. `sewn` in sewing order; `perSecond` px of the tape to a second. */
export function useTapeTip(sewn: Readonly<Ref<readonly SewnSpan[]>>, perSecond: Readonly<Ref<number>>) {
  const bench = useBench();
  const order = useOrder();
  const tip = ref<{ x: number; words: string }>();

  /** The pointer is `x` px from the start of the tape, or nowhere on it. */
  function point(x: number | undefined): void {
    const view = bench.shown?.view;
    const time = x === undefined ? undefined : x / perSecond.value;
    const isTold = view !== undefined && bench.trial === undefined && time !== undefined;
    const found = isTold ? view.events.find(({ start, end }) => time >= start && time <= end) : undefined;
    const isLost = found !== undefined && found.kind !== 'sewing';
    tip.value = isLost ? { x: x!, words: sayEvent(found, view!.program, sewn.value, order.connectors) } : undefined;
  }

  return { tip, point };
}
