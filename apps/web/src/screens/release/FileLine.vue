<script setup lang="ts">
import { mdiDownload } from '@mdi/js';

/** A file that can be taken away: what it is, and the button; without an address the button says that it was pressed. */
defineProps<{
  name: string;
  note: string;
  ending: string;
  isBad?: boolean;
  address?: string | undefined;
  isDisabled?: boolean;
  isBusy?: boolean;
}>();
defineEmits<{ take: [] }>();
</script>

<template>
  <li>
    <span>
      <b>{{ name }}</b>
      <small :class="isBad ? 'bad' : 'muted'">{{ note }}</small>
    </span>
    <v-btn
      :href="isDisabled ? undefined : address"
      :disabled="isDisabled"
      :loading="isBusy"
      :download="address === undefined ? undefined : ''"
      :prepend-icon="mdiDownload"
      @click="address === undefined && $emit('take')"
      >Download {{ ending.toUpperCase() }}</v-btn
    >
  </li>
</template>

<style scoped>
li {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}

b {
  display: inline-block;
}

b::first-letter {
  text-transform: uppercase;
}

small {
  display: block;
  font-size: 12px;
}

.bad {
  color: var(--stop);
}
</style>
