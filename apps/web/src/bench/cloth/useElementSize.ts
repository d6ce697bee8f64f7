import { onBeforeUnmount, onMounted, type Ref, ref } from 'vue';
import type { Size } from './viewport.ts';

/** The size of an element in CSS pixels, kept up to date; zero until it is there. */
export function useElementSize(element: Ref<HTMLElement | null>): Ref<Size> {
  const size = ref<Size>({ width: 0, height: 0 });
  let observer: ResizeObserver | undefined;
  onMounted(() => {
    if (element.value === null) return;
    // What needs it need not wait for the first frame.
    size.value = { width: element.value.clientWidth, height: element.value.clientHeight };
    observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      size.value = { width: Math.round(width), height: Math.round(height) };
    });
    observer.observe(element.value);
  });
  onBeforeUnmount(() => observer?.disconnect());
  return size;
}
