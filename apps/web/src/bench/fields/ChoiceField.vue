<script setup lang="ts" generic="T extends string | number">
/** One of several, as small as a line of figures. */
defineProps<{ label: string; value: T | undefined; choices: readonly (readonly [value: T, words: string])[]; placeholder?: string }>();
const emit = defineEmits<{ change: [value: T] }>();
</script>

<template>
  <v-select
    class="choice-field"
    :aria-label="label"
    :model-value="value"
    :items="choices.map(([value, title]) => ({ value, title }))"
    :placeholder="placeholder"
    :menu-props="{ contentClass: 'choice-list', maxHeight: 420 }"
    single-line
    hide-details
    @update:model-value="(chosen: T | null) => chosen !== null && emit('change', chosen)"
  />
</template>
