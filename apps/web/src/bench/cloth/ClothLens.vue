<script setup lang="ts">
import type { PredictedGap } from '@isola/core';
import { computed } from 'vue';
import { LEGENDS } from './views/legends.ts';
import { type ClothViewKind, VIEWS } from './views/views.ts';

const props = defineProps<{ maxCover: number; hasObjects: boolean; gaps?: readonly PredictedGap[] }>();
const kind = defineModel<ClothViewKind>({ required: true });
defineEmits<{ fit: []; zoom: [times: number] }>();

/** All are there from the start, so that none moves; those of objects can be chosen once these are known. */
const views = computed(() =>
  VIEWS.map(({ id, name, needs }, k) => {
    const isReady = props.hasObjects || !needs.some((need) => need === 'objects');
    return { id, name, isReady, says: isReady ? `Key ${k + 1}` : 'When the objects are known' };
  }),
);
const legend = computed(() => LEGENDS[kind.value]);
</script>

<template>
  <div class="lens segments" role="group" aria-label="View of the cloth">
    <button
      v-for="{ id, name, isReady, says } in views"
      :key="id"
      type="button"
      :aria-pressed="kind === id"
      :disabled="!isReady"
      :title="says"
      @click="kind = id"
    >
      {{ name }}
    </button>
    <span class="gap" />
    <button type="button" title="Key 0" @click="$emit('fit')">Fit</button>
    <button type="button" title="True size" @click="$emit('zoom', 1)">1 : 1</button>
    <button type="button" title="Six times true size" @click="$emit('zoom', 6)">6 : 1</button>
  </div>
  <div v-if="legend" class="legend">
    <component :is="legend" :max-cover="maxCover" :has-objects="hasObjects" :gaps="gaps" />
  </div>
</template>

<style scoped>
.lens {
  top: 12px;
}

.gap {
  width: 6px;
  background: var(--paper);
  border-right: 1px solid var(--line-soft);
}

.legend {
  position: absolute;
  top: 52px;
  left: 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  max-width: calc(100% - 24px);
  padding: 6px 11px;
  align-items: center;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 9px;
  font-size: 12px;
}

.legend :deep(span) {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}

.legend :deep(i) {
  width: 14px;
  height: 14px;
  border-radius: 3px;
}

.legend :deep(.over i) {
  background-image: repeating-linear-gradient(135deg, transparent 0 3px, #fffdf8 3px 4px);
}
</style>
