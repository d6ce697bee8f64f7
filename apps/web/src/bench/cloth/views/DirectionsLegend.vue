<script setup lang="ts">
import { DIRECTION_COLORS } from './directions.ts';
import type { LegendProps } from './legendProps.ts';

defineProps<LegendProps>();
</script>

<template>
  <b>Stitches run</b>
  <span v-for="(color, k) in DIRECTION_COLORS" :key="color"
    ><svg width="16" height="16" viewBox="-8 -8 16 16">
      <path d="M-7 0H7" :stroke="color" stroke-width="3" stroke-linecap="round" :transform="`rotate(${-30 * k})`" /></svg
    >{{ 30 * k }}°</span
  >
</template>
