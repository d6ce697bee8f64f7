<script setup lang="ts">
import { LEVEL_COLORS } from './layers.ts';
import type { LegendProps } from './legendProps.ts';

defineProps<LegendProps>();
</script>

<template>
  <b>Covers under it</b>
  <span v-for="(color, k) in LEVEL_COLORS" :key="color"
    ><i :style="{ backgroundColor: color }" />{{ k === LEVEL_COLORS.length - 1 ? `${k} and more` : k }}</span
  >
  <span class="muted">{{ hasObjects ? 'underlay and travel faint' : 'objects are not known yet' }}</span>
</template>
