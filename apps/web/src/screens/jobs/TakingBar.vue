<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { sayBytes } from './sayBytes.ts';

/** A file that is being taken in, for as long as that takes. */
defineProps<{ file: File }>();
defineEmits<{ cancel: [] }>();

/** What is done before this (ms) needs no word. */
const PATIENCE = 700;
const isLong = ref(false);
let timer: ReturnType<typeof setTimeout> | undefined;
onMounted(() => (timer = setTimeout(() => (isLong.value = true), PATIENCE)));
onBeforeUnmount(() => clearTimeout(timer));
</script>

<template>
  <div v-if="isLong" class="taking" role="status">
    <v-progress-circular indeterminate color="primary" size="20" width="2" />
    <span>
      <b>{{ file.name }}</b> is being read ({{ sayBytes(file.size) }}). Large files take some seconds, and wait for those before them.
    </span>
    <v-btn variant="outlined" @click="$emit('cancel')">Stop</v-btn>
  </div>
</template>

<style scoped>
.taking {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 10px 24px;
  background: var(--sea-soft);
  border-bottom: 1px solid var(--line);
}

.taking span {
  flex: 1;
}
</style>
