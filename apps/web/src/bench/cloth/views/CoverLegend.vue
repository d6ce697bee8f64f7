<script setup lang="ts">
import { computed } from 'vue';
import { coverSteps } from './cover.ts';
import type { LegendProps } from './legendProps.ts';

const props = defineProps<LegendProps>();
const steps = computed(() => {
  const all = coverSteps(props.maxCover);
  const say = (to: number): string => (Number.isInteger(to) ? String(to) : to.toFixed(1));
  return all.map((step, k) => ({ ...step, words: step.isOver ? `over ${say(all[k - 1]!.to)}` : `to ${say(step.to)}` }));
});
</script>

<template>
  <b>Cover, closed layers (K)</b>
  <span v-for="step in steps" :key="step.color" :class="{ over: step.isOver }"
    ><i :style="{ backgroundColor: step.color }" />{{ step.words }}</span
  >
  <span class="muted">1 = one closed layer · hatched: over this cloth's limit</span>
</template>
