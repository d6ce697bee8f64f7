<script setup lang="ts">
import ChoiceField from '../fields/ChoiceField.vue';

defineProps<{ label: string; value: string; choices: readonly (readonly [value: string, words: string])[] }>();
const emit = defineEmits<{ change: [value: string] }>();
</script>

<template>
  <div class="choice">
    <span class="name" aria-hidden="true">{{ label }}</span>
    <ChoiceField :label="label" :value="value" :choices="choices" @change="emit('change', $event)" />
  </div>
</template>

<style scoped>
.choice {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line-soft);
}

.name {
  color: var(--ink-2);
}
</style>
