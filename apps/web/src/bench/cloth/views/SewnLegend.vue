<script setup lang="ts">
import { sayPull } from '@isola/core';
import { useBench } from '../../../stores/bench.ts';
import type { LegendProps } from './legendProps.ts';

defineProps<LegendProps>();
const bench = useBench();
</script>

<template>
  <b>As the cloth will show it</b>
  <span class="muted"
    >an estimate: ends of rows drawn in, outer rows pushed out<template v-if="bench.now"
      >; pull {{ sayPull(bench.now.view.target.fabric) }}</template
    ></span
  >
  <span v-if="gaps && gaps.length > 0"
    ><svg width="14" height="14"><circle cx="7" cy="7" r="5" fill="none" stroke="#b0322a" stroke-width="2" /></svg>{{ gaps.length }}
    {{ gaps.length === 1 ? 'gap opens' : 'gaps open' }}, widest {{ gaps[0]!.width.toFixed(2) }} mm</span
  >
  <span v-else-if="gaps" class="muted">no gap opens</span>
</template>
