<script setup lang="ts">
/** The mark by itself, as large as it is told. */
</script>

<template>
  <svg viewBox="0 0 32 32" aria-hidden="true">
    <path d="M6 5h13a8 8 0 0 1 8 8v6a8 8 0 0 1-8 8H6a1 1 0 0 1-1-1V6a1 1 0 0 1 1-1z" fill="var(--sea)" />
    <path d="M9 21l4-10 3 10 3-10 4 10" fill="none" stroke="var(--paper)" stroke-width="2" stroke-linecap="round" stroke-linejoin="round" />
  </svg>
</template>
