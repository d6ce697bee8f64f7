<script setup lang="ts">
import { ref, watch } from 'vue';

/** How much compensation an object came with, which its stitches do not tell: not known, or as somebody said. */
const props = defineProps<{ heldPull: number | undefined }>();
const emit = defineEmits<{ tell: [pull: number | null] }>();

const isAsked = ref(false);
watch(
  () => props.heldPull,
  () => (isAsked.value = false),
);

function type(event: Event): void {
  const field = event.target as HTMLInputElement;
  const value = Number(field.value.trim().replace(',', '.'));
  if (field.value.trim() === '' || !Number.isFinite(value) || Math.abs(value) > 2) field.value = '';
  else emit('tell', Math.round(value * 100) / 100);
}
</script>

<template>
  <p class="held">
    <template v-if="heldPull !== undefined">
      {{ heldPull.toFixed(2) }} mm of it came with the file, as was said.
      <button type="button" class="in-words" @click="emit('tell', null)">Not known after all</button>
    </template>
    <template v-else-if="isAsked">
      <label
        >It came with
        <input class="number" inputmode="decimal" placeholder="0.20" aria-label="Compensation that it came with, mm" @change="type" /> mm on
        each side</label
      >
    </template>
    <template v-else>
      What it came with is not known: stitches do not tell.
      <button type="button" class="in-words" @click="isAsked = true">Say it</button>
    </template>
  </p>
</template>

<style scoped>
.held {
  padding: 0 0 6px;
  color: var(--ink-2);
  font-size: 12px;
}

input {
  width: 52px;
  padding: 1px 5px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  text-align: right;
}
</style>
