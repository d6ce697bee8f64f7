<script setup lang="ts">
import { ref, useTemplateRef, watch } from 'vue';
import { numberFindings, useBench } from '../stores/bench.ts';
import ClothLens from './cloth/ClothLens.vue';
import ClothView from './cloth/ClothView.vue';
import type { ClothViewHandle } from './cloth/handles.ts';
import FindingMarks from './cloth/FindingMarks.vue';
import type { Viewport } from './cloth/viewport.ts';
import { findFindingAt } from './findFindingAt.ts';

defineProps<{ hasMarks?: boolean }>();

const bench = useBench();
const cloth = useTemplateRef<ClothViewHandle>('cloth');
const view = ref<Viewport>({ x: 0, y: 0, scale: 1 });

/** A finding that is gone to is shown no nearer than this (px a mm), so that what is around it is seen too. */
const CLOSE_SCALE = 22;

watch(
  () => [bench.kind, bench.shown?.number] as const,
  ([kind]) => {
    if (kind === 'cover') void bench.cover(bench.trial === undefined ? 'now' : 'trial');
  },
  { immediate: true },
);
watch(
  () => bench.selectedFinding,
  (finding) => {
    if (finding !== undefined) cloth.value?.goTo([finding.at, ...finding.places], CLOSE_SCALE);
  },
);

/** A click takes up the finding under it, or else takes the replay to the stitch that lies there. */
function pick(x: number, y: number, reach: number): void {
  const finding = findFindingAt(bench.openFindings, x, y, reach * 2);
  if (finding !== undefined) {
    bench.selected = finding.key;
    return;
  }
  const shown = bench.shown;
  if (shown === undefined) return;
  const { program, done } = shown.view;
  let best = -1;
  let least = reach * 2;
  for (let i = 0; i < program.rowCount; i++) {
    if (program.command[i] !== 0) continue;
    const distance = Math.hypot(program.x[i]! - x, program.y[i]! - y);
    if (distance <= least) {
      least = distance;
      best = i;
    }
  }
  bench.time = best < 0 ? undefined : done[best]!;
}

defineExpose({
  fit: () => cloth.value?.fit(),
  zoomBy: (factor: number) => cloth.value?.zoomBy(factor),
});
</script>

<template>
  <ClothView
    ref="cloth"
    v-model:view="view"
    :shown="bench.shown"
    :kind="bench.kind"
    :up-to="bench.upTo"
    channel="bench"
    has-frame
    :stamp="bench.coverCount"
    :label="`${bench.job?.name}, sewn on ${bench.shown?.view.target.fabric.name}. Its findings are listed beside it.`"
    @pick="pick"
  >
    <template #default="{ view: seen, size }">
      <FindingMarks
        v-if="hasMarks && !bench.isPlaying"
        :findings="bench.openFindings"
        :numbers="numberFindings(bench.openFindings)"
        :selected="bench.selected"
        :view="seen"
        :size="size"
        @select="bench.selected = $event"
      />
      <ClothLens
        v-model="bench.kind"
        :max-cover="bench.shown?.view.target.fabric.maxCover ?? 0"
        @fit="cloth?.fit()"
        @zoom="cloth?.zoomTo($event)"
      />
    </template>
  </ClothView>
</template>
