import { ref } from 'vue';
import { defineDocumentStore } from './documentStore.ts';
import type { ClothViewKind } from '../bench/cloth/views/views.ts';

/** How the design on the bench is looked at. It outlives steps and stages; all but the view of the cloth ends with the job. */
export const useViewing = defineDocumentStore('viewing', () => {
  const kind = ref<ClothViewKind>('thread');
  /** Seconds into the run up to which the cloth is sewn; none shows it whole. */
  const time = ref<number>();
  const isPlaying = ref(false);
  /** The key of the selected finding, and of the one place of it that is meant; none: all of them. */
  const selected = ref<string>();
  const selectedPlace = ref<string>();

  function reset(): void {
    time.value = undefined;
    isPlaying.value = false;
    selected.value = undefined;
    selectedPlace.value = undefined;
  }

  return { kind, time, isPlaying, selected, selectedPlace, reset };
});
