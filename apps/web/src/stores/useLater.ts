import { onBeforeUnmount, type Ref, ref, watch } from 'vue';
import { useBench } from './bench.ts';

/**
 * False until the cloth of a job that is being opened shows its picture, or takes long to get it, and true from then on: what is built beside
 * it would hold it up. True from the start on a job that is open.
 */
export function useLater(): Readonly<Ref<boolean>> {
  const bench = useBench();
  const isLater = ref(bench.isAudited);
  if (isLater.value) return isLater;
  let frame = 0;
  const timer = setTimeout(go, PATIENCE);
  watch(
    () => bench.painted,
    () => {
      clearTimeout(timer);
      // A picture is on the screen when its frame is over.
      frame = requestAnimationFrame(() => (frame = requestAnimationFrame(go)));
    },
    { once: true },
  );
  onBeforeUnmount(() => {
    clearTimeout(timer);
    cancelAnimationFrame(frame);
  });
  return isLater;

  function go(): void {
    isLater.value = true;
  }
}

/** So long (ms) the picture is waited for. */
const PATIENCE = 600;
