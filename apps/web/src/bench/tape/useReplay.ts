import { onBeforeUnmount, type Ref, watch } from 'vue';
import { useViewing } from '../../stores/viewing.ts';

/** Lets the time of the run go on while it is replayed, `speed` times as fast as the machine, up to `total` seconds. */
export function useReplay(speed: Readonly<Ref<number>>, total: Readonly<Ref<number>>): void {
  const viewing = useViewing();
  let frame = 0;
  let last = 0;
  watch(
    () => viewing.isPlaying,
    (isPlaying) => {
      cancelAnimationFrame(frame);
      if (!isPlaying) return;
      if (viewing.time === undefined || viewing.time >= total.value) viewing.time = 0;
      last = performance.now();
      frame = requestAnimationFrame(advance);
    },
  );
  onBeforeUnmount(() => {
    cancelAnimationFrame(frame);
    viewing.isPlaying = false;
  });

  function advance(at: number): void {
    const next = (viewing.time ?? 0) + (Math.max(0, at - last) / 1000) * speed.value;
    last = at;
    if (next >= total.value) {
      viewing.time = undefined;
      viewing.isPlaying = false;
      return;
    }
    viewing.time = next;
    frame = requestAnimationFrame(advance);
  }
}
