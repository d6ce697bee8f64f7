<script setup lang="ts">
import MarkSign from '../../shell/MarkSign.vue';

/** A card on the cloth, for who is not in yet. */
defineProps<{ title: string }>();
</script>

<template>
  <main class="door">
    <section>
      <MarkSign width="34" height="34" />
      <h1>{{ title }}</h1>
      <slot />
    </section>
  </main>
</template>

<style scoped>
.door {
  display: grid;
  place-items: center;
  height: 100vh;
  background:
    repeating-linear-gradient(90deg, rgb(20 38 43 / 4%) 0 1px, transparent 1px 6px),
    repeating-linear-gradient(0deg, rgb(20 38 43 / 5%) 0 1px, transparent 1px 6px), #24405c;
}

section {
  display: grid;
  gap: 14px;
  width: min(400px, 92vw);
  padding: 28px 30px;
  border-radius: 12px;
  background: var(--card);
  box-shadow: 0 8px 30px rgb(0 0 0 / 28%);
  outline: 2px dashed rgb(255 253 248 / 55%);
  outline-offset: 8px;
}

h1 {
  font-size: 20px;
  font-weight: 600;
}
</style>
