<script setup lang="ts">
import type { LegendProps } from './legendProps.ts';

defineProps<LegendProps>();
</script>

<template>
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
