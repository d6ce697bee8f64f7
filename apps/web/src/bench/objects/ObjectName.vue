<script setup lang="ts">
import type { StitchObject } from '@isola/core';
import { mdiPencilOutline } from '@mdi/js';
import { nextTick, ref, useTemplateRef, watch } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';

/** What the selected object is called; its name is its own and can be changed. */
const props = defineProps<{ object: StitchObject }>();
const objects = useObjects();
const notices = useNotices();
const draft = ref<string>();
const field = useTemplateRef<HTMLInputElement>('field');

watch(
  () => props.object.id,
  () => (draft.value = undefined),
);

async function begin(): Promise<void> {
  draft.value = props.object.name;
  await nextTick();
  field.value?.select();
}

async function finish(): Promise<void> {
  const name = draft.value;
  draft.value = undefined;
  if (name === undefined) return;
  try {
    await objects.rename(name);
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <h2 v-if="draft === undefined" class="name">
    <span>{{ object.name }}</span>
    <v-btn v-if="objects.place" icon variant="text" size="x-small" title="Call it something else" aria-label="Rename" @click="begin">
      <v-icon :icon="mdiPencilOutline" size="16" />
    </v-btn>
  </h2>
  <input
    v-else
    ref="field"
    v-model="draft"
    class="field"
    maxlength="200"
    aria-label="Name of the object"
    @keydown.enter.stop.prevent="finish"
    @keydown.escape.stop="draft = undefined"
    @blur="finish"
  />
</template>

<style scoped>
.name {
  display: flex;
  align-items: center;
  justify-content: space-between;
  min-height: 28px;
  font-size: 15px;
  font-weight: 600;
}

.name span::first-letter {
  text-transform: uppercase;
}

.field {
  width: 100%;
  min-height: 28px;
  padding: 2px 6px;
  border: 1px solid var(--sea);
  border-radius: 5px;
  background: var(--card);
  color: inherit;
  font: inherit;
  font-size: 15px;
  font-weight: 600;
}
</style>
