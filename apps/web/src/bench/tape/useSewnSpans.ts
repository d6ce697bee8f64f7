import { computed, type ComputedRef } from 'vue';
import { useObjects } from '../../stores/objects.ts';
import { useOrder } from '../../stores/order.ts';
import type { SewnSpan } from './sayEvent.ts';

/** The objects of the design where they are sewn, in order; underlay, travel and ties are part of them. */
export function useSewnSpans(): ComputedRef<readonly SewnSpan[]> {
  const objects = useObjects();
  const order = useOrder();
  return computed(() => {
    const byId = new Map(objects.objects.map((o) => [o.id, o]));
    return order.order.flatMap((id) => {
      const o = byId.get(id);
      return o === undefined ? [] : [{ id, name: o.name, first: o.first, last: o.last }];
    });
  });
}
