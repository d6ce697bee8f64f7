<script setup lang="ts">
import { useId } from 'vue';

defineProps<{ label: string; value: string; choices: readonly (readonly [value: string, words: string])[] }>();
const emit = defineEmits<{ change: [value: string] }>();
const id = useId();
</script>

<template>
  <div class="choice">
    <label :for="id">{{ label }}</label>
    <select :id="id" :value="value" @change="emit('change', ($event.target as HTMLSelectElement).value)">
      <option v-for="[name, words] in choices" :key="name" :value="name">{{ words }}</option>
    </select>
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

label {
  color: var(--ink-2);
}
</style>
