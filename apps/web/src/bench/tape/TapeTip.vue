<script setup lang="ts">
/** What is said of a place on the tape, above it, on the side where there is room. */
const props = defineProps<{ x: number; words: string; width: number }>();
</script>

<template>
  <p class="tip" role="status" :style="props.x > width / 2 ? { right: `${width - props.x}px` } : { left: `${props.x}px` }">{{ words }}</p>
</template>

<style scoped>
.tip {
  position: absolute;
  z-index: 2;
  bottom: 58px;
  max-width: 60%;
  padding: 4px 10px;
  background: var(--ink);
  color: var(--card);
  border-radius: 7px;
  font-size: 12px;
  pointer-events: none;
}
</style>
