<script setup lang="ts">
defineProps<{ title: string }>();
</script>

<template>
  <section>
    <h3>{{ title }}</h3>
    <slot />
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 7px;
  justify-items: start;
  padding: 12px 0;
  border-top: 1px solid var(--line-soft);
}

h3 {
  font-size: 14px;
  font-weight: 600;
}

section :deep(.line) {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  align-items: center;
  width: 100%;
}

section :deep(.line select) {
  min-width: 0;
}
</style>
