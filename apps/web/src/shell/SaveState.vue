<script setup lang="ts">
import { computed } from 'vue';
import { useBench } from '../stores/bench.ts';

const bench = useBench();

const text = computed(() => {
  switch (bench.saving.state) {
    case 'saved':
      return bench.saving.savedAt === undefined ? '' : `Saved ${bench.saving.savedAt.toLocaleTimeString('en-GB')}`;
    case 'saving':
      return 'Saving…';
    case 'offline':
      return 'Not saved: no connection, trying again. Your steps are kept here.';
    case 'conflict':
      return 'Changed in another window';
    case 'refused':
      return 'A step was refused';
  }
  return '';
});
</script>

<template>
  <span class="state number" :class="bench.saving.state" role="status">{{ text }}</span>
</template>

<style scoped>
.state {
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
}

.offline,
.conflict,
.refused {
  color: var(--stop);
  font-weight: 600;
}
</style>
