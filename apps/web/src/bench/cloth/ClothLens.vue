<script setup lang="ts">
import type { PredictedGap } from '@isola/core';
import { computed } from 'vue';
import { LEGENDS } from './views/legends.ts';
import { type ClothViewKind, VIEWS } from './views/views.ts';

const props = defineProps<{ maxCover: number; hasObjects: boolean; without?: readonly ClothViewKind[]; gaps?: readonly PredictedGap[] }>();
const kind = defineModel<ClothViewKind>({ required: true });
defineEmits<{ fit: []; zoom: [times: number] }>();

/** All are there from the start, so that none moves; those of objects can be chosen once these are known (`without`: those that a screen does not have). */
const views = computed(() =>
  VIEWS.flatMap(({ id, name, needs }, k) => {
    const isOfObjects = needs.some((need) => need === 'objects');
    if (props.without?.includes(id) === true) return [];
    const isReady = props.hasObjects || !isOfObjects;
    return [{ id, name, isReady, says: isReady ? `Key ${k + 1}` : 'When the objects are known' }];
  }),
);
const legend = computed(() => LEGENDS[kind.value]);
</script>

<template>
  <div class="lens">
    <div class="segments" role="group" aria-label="View of the cloth">
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
    </div>
    <div class="segments" role="group" aria-label="Scale">
      <button type="button" title="Key 0" @click="$emit('fit')">Fit</button>
      <button type="button" title="True size" @click="$emit('zoom', 1)">1 : 1</button>
      <button type="button" title="Six times true size" @click="$emit('zoom', 6)">6 : 1</button>
    </div>
    <div v-if="legend" class="legend">
      <component :is="legend" :max-cover="maxCover" :has-objects="hasObjects" :gaps="gaps" />
    </div>
  </div>
</template>

<style scoped>
.lens {
  position: absolute;
  inset: 12px 12px auto;
  display: flex;
  flex-wrap: wrap;
  gap: 7px 8px;
  pointer-events: none;
}

.lens > * {
  pointer-events: auto;
}

.segments {
  position: static;
}

/* Beside the lists of Rework, in a small window. */
@media (max-width: 1240px) {
  .segments > button {
    padding-inline: 7px;
  }
}

.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
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
