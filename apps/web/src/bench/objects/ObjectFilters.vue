<script setup lang="ts">
import { STITCH_KINDS, type StitchKind } from '@isola/core';
import { computed } from 'vue';
import ChoiceField from '../fields/ChoiceField.vue';
import { useObjects } from '../../stores/objects.ts';

/** What the list of objects is narrowed to. */
const objects = useObjects();
const colors = computed(() => [...new Set(objects.objects.map((o) => o.color))]);
/** Bands of pitch that the list can be narrowed to; the middle one holds what most covers are sewn at. */
const BANDS: readonly { readonly name: string; readonly range: readonly [number, number] }[] = [
  { name: 'under 0.35', range: [0, 0.35] },
  { name: '0.35 to 0.45', range: [0.35, 0.45] },
  { name: '0.45 to 1', range: [0.45, 1] },
  { name: 'over 1 mm', range: [1, 99] },
];
const band = computed({
  get: () => BANDS.findIndex((b) => b.range === objects.filter.spacing),
  set: (k) => (objects.filter = { ...objects.filter, spacing: BANDS[k]?.range }),
});

function toggle(kind: StitchKind): void {
  const { kinds } = objects.filter;
  objects.filter = { ...objects.filter, kinds: kinds.includes(kind) ? kinds.filter((k) => k !== kind) : [...kinds, kind] };
}
</script>

<template>
  <div class="filters">
    <span class="kinds" role="group" aria-label="Kinds listed">
      <button
        v-for="kind in STITCH_KINDS"
        :key="kind"
        type="button"
        :aria-pressed="objects.filter.kinds.includes(kind)"
        @click="toggle(kind)"
      >
        {{ kind }}
      </button>
    </span>
    <ChoiceField
      label="Spacing listed"
      :value="band"
      :choices="[[-1, 'any spacing'] as const, ...BANDS.map((b, k) => [k, b.name] as const)]"
      @change="band = $event"
    />
    <span class="threads" role="group" aria-label="Thread listed">
      <button
        v-for="color in colors"
        :key="color"
        type="button"
        class="swatch"
        :style="{ backgroundColor: color }"
        :aria-pressed="objects.filter.color === color"
        :aria-label="`Only ${color}`"
        @click="objects.filter = { ...objects.filter, color: objects.filter.color === color ? undefined : color }"
      />
    </span>
    <span class="kinds">
      <button
        type="button"
        :aria-pressed="objects.filter.likeSelected"
        :disabled="!objects.selected"
        @click="objects.filter = { ...objects.filter, likeSelected: !objects.filter.likeSelected }"
      >
        like this{{ objects.selected ? ` (${objects.alike.length})` : '' }}
      </button>
      <button
        type="button"
        :aria-pressed="objects.filter.isWhole"
        @click="objects.filter = { ...objects.filter, isWhole: !objects.filter.isWhole }"
      >
        underlay, travel, ties
      </button>
    </span>
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  margin-top: 8px;
  align-items: center;
  font-size: 12px;
}

.kinds {
  display: inline-flex;
  border: 1px solid var(--line);
  border-radius: 6px;
  overflow: hidden;
  background: var(--card);
}

.kinds button {
  padding: 2px 8px;
  border: 0;
  border-right: 1px solid var(--line-soft);
  background: none;
  color: var(--ink-2);
  font: inherit;
  cursor: pointer;
}

.kinds button:last-child {
  border-right: 0;
}

.kinds button:disabled {
  color: var(--ink-3);
  cursor: default;
}

.kinds button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--card);
}

.kinds button:focus-visible {
  outline-offset: -2px;
}

.filters > :deep(.choice-field) {
  flex: none;
  width: 114px;
}

.filters > :deep(.choice-field .v-field) {
  --v-field-padding-start: 6px;
  --v-field-padding-end: 0px;
}

.threads {
  display: inline-flex;
  gap: 4px;
}

.swatch {
  width: 16px;
  height: 16px;
  padding: 0;
  border: 1px solid rgba(20, 38, 43, 0.35);
  border-radius: 4px;
}

button.swatch {
  cursor: pointer;
}

button.swatch[aria-pressed='true'] {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
</style>
