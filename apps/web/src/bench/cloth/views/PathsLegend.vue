<script setup lang="ts">
import type { LegendProps } from './legendProps.ts';

defineProps<LegendProps>();
</script>

<template>
  <span
    ><svg width="26" height="12">
      <path d="M1 6H25" stroke="#0f5c66" stroke-width="2" />
      <path d="M9 6l4-4l4 4l-4 4z" fill="#fffdf8" stroke="#0f5c66" stroke-width="1.6" /></svg
    >carried over</span
  >
  <span
    ><svg width="26" height="12">
      <path d="M1 6H25" stroke="#0f5c66" stroke-width="2" stroke-dasharray="7 3" />
      <path d="M11 4h4v4h-4z" fill="#fffdf8" stroke="#0f5c66" /></svg
    >hidden path</span
  >
  <span
    ><svg width="26" height="12">
      <path d="M1 6H25" stroke="#9a5a00" stroke-width="2" />
      <path d="M11 4h4v4h-4z" fill="#fffdf8" stroke="#9a5a00" /></svg
    >in the open</span
  >
  <span
    ><svg width="26" height="10"><path d="M1 5H25" stroke="currentColor" stroke-dasharray="4 3" /></svg>jump</span
  >
  <span>
    <svg width="12" height="12"><path d="M1.5 1.5h9v9h-9zM3 9l3-6M6 9l3-6" fill="none" stroke="#b0322a" /></svg>trim
  </span>
  <span
    ><svg width="10" height="12"><path d="M8 1H3v10h5" fill="none" stroke="currentColor" stroke-width="1.6" /></svg>entry</span
  >
  <span
    ><svg width="10" height="12"><path d="M2 1h5v10H2" fill="none" stroke="currentColor" stroke-width="1.6" /></svg>exit</span
  >
</template>
