<script setup lang="ts">
/** Says what is done with what is let go over a page. */
</script>

<template>
  <div class="here" aria-hidden="true"><slot /></div>
</template>

<style scoped>
.here {
  position: absolute;
  inset: 12px;
  display: grid;
  place-items: center;
  border: 2px dashed var(--sea);
  border-radius: 12px;
  background: color-mix(in srgb, var(--sea-soft) 88%, transparent);
  color: var(--sea);
  font-size: 20px;
  font-weight: 600;
  pointer-events: none;
}
</style>
