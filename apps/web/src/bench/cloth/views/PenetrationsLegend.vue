<script setup lang="ts">
import type { LegendProps } from './legendProps.ts';

defineProps<LegendProps>();
</script>

<template>
  <span>each dot is one needle penetration</span>
</template>
