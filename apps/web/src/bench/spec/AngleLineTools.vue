<script setup lang="ts">
import { computed } from 'vue';
import { useObjects } from '../../stores/objects.ts';
import { useSpecs } from '../../stores/specs.ts';
import { firstTurn, nextAcross, nextBetween } from './angleLines.ts';

const objects = useObjects();
const specs = useSpecs();

const lines = computed(() => specs.spec?.angleLines ?? []);
const isSatin = computed(() => specs.spec?.kind === 'satin');
const isLed = computed(() => lines.value.length >= (isSatin.value ? 1 : 2));
const next = computed(() => (isSatin.value && specs.column !== undefined ? nextAcross(specs.column, lines.value) : undefined));

const words = computed(() => {
  if (isSatin.value) return isLed.value ? 'Throws straight across again' : 'Lean the throws';
  return isLed.value ? 'Rows straight again' : 'Let the rows turn';
});
const hint = computed(() => {
  if (isLed.value) return 'drag the ends of the lines on the cloth; Delete takes one away';
  return isSatin.value ? 'an angle line across the column' : 'or drag the grip on the cloth';
});

function lead(): void {
  const outline = objects.selected?.outline;
  if (isLed.value) specs.change({ angleLines: [] });
  else if (isSatin.value) add();
  else if (outline !== undefined && specs.spec !== undefined) specs.change({ angleLines: firstTurn(outline, specs.spec.angle) });
}

function add(): void {
  if (!isSatin.value) specs.change({ angleLines: nextBetween(lines.value) });
  else if (next.value !== undefined) specs.change({ angleLines: [...lines.value, next.value] });
}
</script>

<template>
  <p class="lines">
    <button type="button" :aria-pressed="isLed" :disabled="isSatin && !isLed && next === undefined" @click="lead">{{ words }}</button>
    <button v-if="isLed" type="button" :disabled="(isSatin && next === undefined) || lines.length >= 12" @click="add">Add a line</button>
    <span class="muted">{{ hint }}</span>
  </p>
</template>

<style scoped>
.lines {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  padding: 4px 0 6px;
  font-size: 12px;
}

button {
  padding: 2px 7px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: none;
  color: var(--sea);
  font: inherit;
  white-space: nowrap;
  cursor: pointer;
}

button:disabled {
  color: var(--ink-2);
  cursor: default;
}

button[aria-pressed='true'] {
  background: var(--sea-soft);
}
</style>
