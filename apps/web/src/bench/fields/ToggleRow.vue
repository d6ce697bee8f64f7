<script setup lang="ts" generic="T extends string">
/** One of a few, or none, as a row of buttons of one width; what is on is pressed. */
defineProps<{
  label: string;
  value: T | undefined;
  choices: readonly { readonly id: T; readonly title: string; readonly what?: string; readonly isOff?: boolean }[];
}>();
defineEmits<{ choose: [id: T] }>();
</script>

<template>
  <div class="toggles" role="group" :aria-label="label">
    <button
      v-for="{ id, title, what, isOff } in choices"
      :key="id"
      type="button"
      :aria-pressed="value === id"
      :title="what"
      :disabled="isOff === true && value !== id"
      @click="$emit('choose', id)"
    >
      {{ title }}
    </button>
  </div>
</template>

<style scoped>
.toggles {
  display: flex;
  gap: 6px;
}

button {
  flex: 1;
  padding: 4px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}

button[aria-pressed='true'] {
  border-color: var(--sea);
  background: var(--sea-soft);
  font-weight: 600;
}

button:disabled {
  color: var(--ink-2);
  cursor: default;
}
</style>
