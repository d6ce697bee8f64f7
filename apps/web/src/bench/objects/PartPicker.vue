<script setup lang="ts">
import { computed } from 'vue';
import { useObjects } from '../../stores/objects.ts';

const objects = useObjects();

const PARTS = [
  { part: 'all', label: 'Everything', key: 'a' },
  { part: 'cover', label: 'Cover', key: 'c' },
  { part: 'underlay', label: 'Underlay', key: 'u' },
  { part: 'travel', label: 'Travel and ties', key: 'v' },
] as const;
const isAlone = computed(() => typeof objects.part !== 'string');
/** The selected object with what lies under it for it. */
const own = computed(() => {
  const { selected } = objects;
  if (selected === undefined) return [];
  const main = selected.parent ?? selected.id;
  return objects.objects.flatMap((o, k) => (o.id === main || o.parent === main ? [k] : []));
});
</script>

<template>
  <div v-if="objects.known" class="parts segments" role="group" aria-label="What is shown">
    <button
      v-for="{ part, label, key } in PARTS"
      :key="part"
      type="button"
      :title="`Key ${key}`"
      :aria-pressed="objects.part === part"
      @click="objects.part = part"
    >
      {{ label }}
    </button>
    <button v-if="objects.selected" type="button" :aria-pressed="isAlone" @click="objects.part = isAlone ? 'all' : own">
      Only this object
    </button>
  </div>
</template>

<style scoped>
.parts {
  bottom: 12px;
}
</style>
