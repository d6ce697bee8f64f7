<script setup lang="ts">
import AppMark from './AppMark.vue';

/** The head of a page that is no job's: the mark, what it is, and what leads away from it. */
</script>

<template>
  <header><AppMark /><slot /></header>
</template>

<style scoped>
header {
  display: flex;
  gap: 14px;
  align-items: center;
  height: 58px;
  padding: 0 24px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}

header :slotted(h1) {
  font-size: 18px;
  font-weight: 600;
}
</style>
