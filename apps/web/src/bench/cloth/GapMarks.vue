<script setup lang="ts">
import type { PredictedGap } from '@isola/core';
import { computed } from 'vue';
import { type Size, toScreen, type Viewport } from './viewport.ts';

const props = defineProps<{ gaps: readonly PredictedGap[]; view: Viewport; size: Size }>();

/** So many have their width beside them, the widest first, where it lies over no other mark: room taken by a ring and its words, px. */
const WORDED = 8;
const RING = 8;
const ROOM = { width: 64, height: 16 };

interface Mark {
  readonly x: number;
  readonly y: number;
  readonly words: string;
}

/** Rings where the cloth will show between two objects. */
const marks = computed(() => {
  const out: Mark[] = [];
  props.gaps.forEach((gap, k) => {
    const { x, y } = toScreen(props.view, props.size, gap.at.x, gap.at.y);
    const isFree = out.every((m) => {
      const end = m.words === '' ? m.x + RING : m.x + ROOM.width + RING;
      return x + ROOM.width < m.x - RING || x + RING > end || Math.abs(m.y - y) > ROOM.height;
    });
    out.push({ x, y, words: k < WORDED && isFree ? `${gap.width.toFixed(2)} mm` : '' });
  });
  return out;
});
</script>

<template>
  <svg class="gaps" aria-hidden="true">
    <g v-for="(mark, k) in marks" :key="k">
      <circle :cx="mark.x" :cy="mark.y" r="7" class="halo" />
      <circle :cx="mark.x" :cy="mark.y" r="7" class="ring" />
      <text v-if="mark.words" :x="mark.x + 11" :y="mark.y + 4">{{ mark.words }}</text>
    </g>
  </svg>
</template>

<style scoped>
.gaps {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

circle {
  fill: none;
}

.halo {
  stroke: #fffdf8;
  stroke-width: 5;
}

.ring {
  stroke: #b0322a;
  stroke-width: 2.4;
}

text {
  paint-order: stroke;
  stroke: #fffdf8;
  stroke-width: 4;
  fill: #7a1f19;
  font-size: 12px;
  font-weight: 600;
}
</style>
